using System.Globalization;
using MailKit.Net.Smtp;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using YardRelay.Core.Ledger;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Notices;

/// <summary>
/// Keeps the signed heads of all ledgers outside the records, once a day: at the end of a file, or by mail. Whoever changes the whole
/// history afterwards would have to change that, too.
/// </summary>
internal sealed class HeadPost(
    IDbContextFactory<YardDb> records, LedgerSigner signer, ServiceOptions options, TimeProvider time, ILogger<HeadPost> log)
    : RegularLook(TimeSpan.FromMinutes(10), time, log)
{
    private const int TailBytes = 4096;
    private DateOnly _mailed;

    protected override string What => "Heads of ledgers that are kept outside";

    protected override bool IsWanted => options is not { HeadsFile: null, HeadsMail: null };

    /// <summary>Keeps them where today's are not kept yet.</summary>
    public override async Task RoundAsync(CancellationToken cancel)
    {
        var now = Time.GetUtcNow();
        var today = DateOnly.FromDateTime(now.UtcDateTime);
        var intoFile = options.HeadsFile is { } file && LastDayOf(file) != today;
        var byMail = options.HeadsMail is not null && options.Mail is not null && _mailed != today;
        if (!intoFile && !byMail) return;
        await using var db = await records.CreateDbContextAsync(cancel);
        var text = string.Concat((await SignedHeads.ReadAsync(db, signer, now, cancel)).Select(h => $"{h}\n"));
        if (intoFile) Append(options.HeadsFile!, text);
        if (!byMail) return;
        await MailAsync(text, today, cancel);
        _mailed = today;
    }

    /// <summary>The day of the last line; null: there is none, or it is no head.</summary>
    private static DateOnly? LastDayOf(string file)
    {
        if (!File.Exists(file)) return null;
        using var stream = File.OpenRead(file);
        stream.Seek(-Math.Min(TailBytes, stream.Length), SeekOrigin.End);
        var last = new StreamReader(stream).ReadToEnd().TrimEnd().Split('\n')[^1];
        return KeptHead.TryParse(last) is { } head ? DateOnly.FromDateTime(head.At.UtcDateTime) : null;
    }

    private static void Append(string file, string text)
    {
        // One that broke off stays a line of its own.
        if (File.Exists(file) && !EndsWithLine(file)) text = '\n' + text;
        using var stream = new FileStream(file, new FileStreamOptions
        {
            Mode = FileMode.Append,
            Access = FileAccess.Write,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite
        });
        stream.Write(System.Text.Encoding.UTF8.GetBytes(text));
        stream.Flush(flushToDisk: true);
    }

    private static bool EndsWithLine(string file)
    {
        using var stream = File.OpenRead(file);
        if (stream.Length == 0) return true;
        stream.Seek(-1, SeekOrigin.End);
        return stream.ReadByte() == '\n';
    }

    private async Task MailAsync(string heads, DateOnly today, CancellationToken cancel)
    {
        using var mail = new MimeMessage(
            [MailboxAddress.Parse(options.Mail!.From)],
            [MailboxAddress.Parse(options.HeadsMail!)],
            string.Create(CultureInfo.InvariantCulture, $"Heads of the ledgers, {today:yyyy-MM-dd}"),
            new TextPart("plain")
            {
                Text = "Keep these lines: whoever changes a history afterwards cannot change them.\n"
                    + "'yardline ledger check --heads FILE' compares the ledgers with a file of such lines.\n\n"
                    + heads
            });
        using var smtp = new SmtpClient();
        await NoticePost.OpenAsync(smtp, options.Mail, cancel);
        await smtp.SendAsync(mail, cancel);
        await smtp.DisconnectAsync(true, cancel);
    }
}
