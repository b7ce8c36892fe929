using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Readiness;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Notices;

namespace YardRelay.Service.Readiness;

/// <summary>
/// Says in the morning by mail who is not ready for the next day with visits. That it goes is written down before it goes, so that several
/// processes, or one that was killed, send none twice.
/// </summary>
internal sealed class MorningPost(
    IDbContextFactory<YardDb> records, IServiceScopeFactory scopes, ServiceOptions options, TimeProvider time, ILogger<MorningPost> log)
    : RegularLook(TimeSpan.FromSeconds(10), time, log)
{
    private const int MostTrouble = 400;
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(5);

    /// <summary>What is noted before it goes, and stays where the service stops before it has.</summary>
    private const string Begun = "The service stopped while it was sent; nobody knows whether it went.";

    /// <summary>Whether one is under way, as far as can be told: it never takes that long.</summary>
    public static bool IsUnderWay(MorningMailRow row, DateTimeOffset now) =>
        row.Trouble == Begun && row.TryAt is { } since && now - since < Patience;

    protected override string What => "The mail in the morning";

    protected override bool IsWanted => options.Mail is not null;

    /// <summary>Sends what is due.</summary>
    public override async Task RoundAsync(CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        var now = Time.GetUtcNow();
        foreach (var row in await db.MorningMails.AsNoTracking().Where(m => m.TryAt == null || m.TryAt <= now).ToListAsync(cancel))
        {
            if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == row.Refresh, cancel) is not { } refresh) continue;
            var local = new RefreshClock(refresh).Local(now).DateTime;
            var (today, mail) = (DateOnly.FromDateTime(local), new MorningMail(row.At, row.Mailed));
            // What only a look at the swaps can tell is asked last.
            if (!mail.IsDue(local, today.AddDays(1))) continue;
            var page = await ReadAsync(refresh, cancel);
            if (!mail.IsDue(local, page.Total == 0 ? null : page.Day) || !await IsMineAsync(db, row, today, now, cancel)) continue;
            var refused = (await SendAsync(refresh, row.To, page, cancel)).Problems.Select(p => p.Message).FirstOrDefault();
            await (refused is null ? SentAsync(db, row, cancel) : LaterAsync(db, row, refused, now, cancel));
        }
    }

    /// <summary>Sends it now, whatever time it is, to those who get it.</summary>
    /// <returns>Its subject.</returns>
    public async Task<Result<string>> SendNowAsync(RefreshRow refresh, IReadOnlyList<string> to, CancellationToken cancel) =>
        await SendAsync(refresh, to, await ReadAsync(refresh, cancel), cancel);

    private async Task<ReadyPage> ReadAsync(RefreshRow refresh, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        return await scope.ServiceProvider.GetRequiredService<ReadyReader>().ReadAsync(refresh, null, null, null, cancel);
    }

    /// <summary>Of several processes one has it.</summary>
    private static async Task<bool> IsMineAsync(
        YardDb db, MorningMailRow row, DateOnly today, DateTimeOffset now, CancellationToken cancel) =>
        await db.MorningMails.Where(m => m.Refresh == row.Refresh && (m.Mailed == null || m.Mailed < today))
            .ExecuteUpdateAsync(
                s => s.SetProperty(m => m.Mailed, today)
                    .SetProperty(m => m.TryAt, now)
                    .SetProperty(m => m.Trouble, Begun),
                cancel) == 1;

    private static Task<int> SentAsync(YardDb db, MorningMailRow row, CancellationToken cancel) =>
        db.MorningMails.Where(m => m.Refresh == row.Refresh)
            .ExecuteUpdateAsync(
                s => s.SetProperty(m => m.Trouble, (string?)null).SetProperty(m => m.TryAt, (DateTimeOffset?)null), cancel);

    private Task<int> LaterAsync(YardDb db, MorningMailRow row, string why, DateTimeOffset now, CancellationToken cancel)
    {
        Log.LogWarning("The mail in the morning of {Refresh} did not go: {Why}", row.Refresh, why);
        DateTimeOffset? later = now + Patience;
        return db.MorningMails.Where(m => m.Refresh == row.Refresh)
            .ExecuteUpdateAsync(
                s => s.SetProperty(m => m.Mailed, row.Mailed)
                    // Whoever set it anew meanwhile need not wait for what they mended.
                    .SetProperty(m => m.TryAt, m => m.TryAt == now ? later : m.TryAt)
                    .SetProperty(m => m.Trouble, why.Length > MostTrouble ? why[..MostTrouble] : why),
                cancel);
    }

    private async Task<Result<string>> SendAsync(
        RefreshRow refresh, IReadOnlyList<string> to, ReadyPage page, CancellationToken cancel)
    {
        if (options.Mail is not { } mail) return new NoMailServerSet();
        var link = $"{(options.Address ?? options.Urls.Split(';')[0]).TrimEnd('/')}/ready?day={page.Day:yyyy-MM-dd}";
        var subject = MorningLetter.Subject(page, refresh.Name);
        using var message = new MimeMessage { Subject = subject, Date = Time.GetUtcNow() };
        message.From.Add(new MailboxAddress(refresh.Name, mail.From));
        message.To.AddRange(to.Select(MailboxAddress.Parse));
        message.Headers.Add("Auto-Submitted", "auto-generated");
        message.Body = NoticeMail.Body(MorningLetter.Markdown(page, refresh.Name, link), "en", link);
        using var smtp = new SmtpClient { Timeout = 30_000 };
        try
        {
            await NoticePost.OpenAsync(smtp, mail, cancel);
            // What the server took is taken, however the connection ends.
            await smtp.SendAsync(message, cancel);
            return subject;
        }
        catch (Exception broke)
            when (broke is IOException or System.Net.Sockets.SocketException or ProtocolException or SslHandshakeException
                or AuthenticationException or NotSupportedException or TimeoutException or CommandException)
        {
            return new MorningMailUnsent(mail.Host, broke.Message);
        }
    }
}
