using System.Text;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using MimeKit.Text;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Persons;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Notices;

/// <summary>
/// Takes mail that comes back for a notice: a delivery report (RFC 3464) says that it did not arrive, an answer of the person is a question
/// of theirs.
/// What belongs to no notice, comes from somebody else, or from a program (RFC 3834) is refused, and changes nothing.
/// </summary>
internal sealed partial class ReceivedMail(IDbContextFactory<YardDb> records, Writer writer)
{
    /// <summary>Largest mail that is read, in bytes.</summary>
    public const int MostBytes = 1 << 20;

    private const int MostAnswers = 10;
    private static readonly ServiceProblem Whose = new MailWhoseProblem();

    /// <param name="refresh">Whose notice it must be about; null: any.</param>
    public async Task<Result<MailTaken>> TakeAsync(Stream mail, string? refresh, CancellationToken cancel)
    {
        MimeMessage message;
        try
        {
            message = await MimeMessage.LoadAsync(mail, cancel);
        }
        catch (FormatException)
        {
            return new MailFormProblem();
        }
        await using var db = await records.CreateDbContextAsync(cancel);
        var status = message.BodyParts.OfType<MessageDeliveryStatus>()
            .SelectMany(s => s.StatusGroups)
            .FirstOrDefault(g => g.Contains("Action"));
        var about = status is null ? message.InReplyTo ?? message.References.LastOrDefault() : OriginalOf(message);
        var id = about?.Trim('<', '>').Split('@')[0] ?? "";
        if (await db.Notices.AsNoTracking()
            .FirstOrDefaultAsync(n => n.Id == id && (refresh == null || n.Refresh == refresh), cancel) is not { } notice)
            return Whose;
        return status is null ? await AnswerAsync(db, message, notice, cancel) : await BounceAsync(notice, status, cancel);
    }

    private static string? OriginalOf(MimeMessage message) =>
        message.BodyParts.OfType<MessagePart>().Select(p => p.Message?.MessageId).FirstOrDefault()
        ?? message.BodyParts.OfType<TextPart>()
            .Where(t => t.ContentType.IsMimeType("text", "rfc822-headers"))
            .Select(t => t.Text.Split('\n')
                .FirstOrDefault(l => l.StartsWith("Message-ID:", StringComparison.OrdinalIgnoreCase))?[11..].Trim()).FirstOrDefault();

    private Task<Result<MailTaken>> BounceAsync(NoticeRow notice, HeaderList status, CancellationToken cancel) =>
        writer.WriteAsync<MailTaken>(notice.Refresh, async w =>
    {
        var row = await w.Db.Notices.FirstAsync(n => n.Id == notice.Id, cancel);
        var name = await w.Db.Swaps.Where(s => s.Id == row.Swap).Select(s => s.Name).FirstAsync(cancel);
        if (string.Equals(status["Action"]?.Trim(), "failed", StringComparison.OrdinalIgnoreCase) && row.BouncedAt is null)
        {
            (row.BouncedAt, row.TryAt, row.Trouble) =
                (w.Now, null, $"{status["Status"]?.Trim()} {status["Diagnostic-Code"]?.Trim()}".Trim());
            w.Note(
                "notice.bounced",
                row.Swap,
                $"Mail to {name} cannot be delivered: {row.Trouble}",
                new() { ["notice"] = row.Id, ["moment"] = row.Moment });
        }
        return new MailTaken("report", row.Swap, name, row.BouncedAt is null ? $"{status["Action"]?.Trim()}" : $"bounced, {row.Trouble}");
    }, cancel, "the system");

    private async Task<Result<MailTaken>> AnswerAsync(YardDb db, MimeMessage message, NoticeRow notice, CancellationToken cancel)
    {
        if (!(message.Headers["Auto-Submitted"] ?? "no").Trim().StartsWith("no", StringComparison.OrdinalIgnoreCase)
            || message.Headers["Precedence"]?.Trim().ToLowerInvariant() is "bulk" or "junk" or "auto_reply"
            || message.Headers.Contains("X-Autoreply"))
            return new MailProgramProblem();
        if (!message.From.Mailboxes.Any(m => string.Equals(m.Address, notice.To, StringComparison.OrdinalIgnoreCase)))
            return new MailFromProblem();
        var words = WordsOf(message);
        if (words.Length == 0) return new MailEmptyProblem();
        var swap = await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == notice.Swap, cancel);
        return await writer.WriteAsync<MailTaken>(notice.Refresh, async w =>
        {
            // Whoever can answer in the person's name by mail can open so many questions and no more.
            if (await w.Db.FollowUps.CountAsync(f => f.Swap == swap.Id && f.Cause == "question" && f.DoneAt == null, cancel) >= MostAnswers)
                return new MailManyProblem(MostAnswers, swap.Id);
            return await PersonDesk.AskAsync(w, swap, "question", words, cancel) is { } refused
                ? refused
                : new MailTaken("answer", swap.Id, swap.Name, words);
        }, cancel, swap.Name);
    }

    /// <summary>What the person wrote themselves: without what they quote, and without markup.</summary>
    private static string WordsOf(MimeMessage message)
    {
        var text = message.TextBody ?? (message.HtmlBody is { } html ? PlainOf(html) : "");
        var own = text.ReplaceLineEndings("\n")
            .Split('\n')
            .TakeWhile(l => !Quotes().IsMatch(l))
            .Where(l => !l.TrimStart().StartsWith('>'))
            .Select(l => l.Trim());
        var words = Spaces().Replace(string.Join(' ', own), " ").Trim();
        return words.Length > PersonDesk.MostWords ? words[..(PersonDesk.MostWords - 1)] + "…" : words;
    }

    private static string PlainOf(string html)
    {
        var text = new StringBuilder();
        var hidden = 0;
        var reader = new HtmlTokenizer(new StringReader(html)) { DecodeCharacterReferences = true };
        while (reader.ReadNextToken(out var token))
            switch (token)
            {
                case HtmlTagToken { Id: HtmlTagId.Style or HtmlTagId.Script or HtmlTagId.Head or HtmlTagId.BlockQuote } tag:
                    hidden = Math.Max(0, hidden + (tag.IsEndTag ? -1 : tag.IsEmptyElement ? 0 : 1));
                    break;
                case HtmlTagToken { Id: HtmlTagId.P or HtmlTagId.Div or HtmlTagId.Br or HtmlTagId.LI or HtmlTagId.TR }:
                    text.Append('\n');
                    break;
                case HtmlDataToken data when hidden == 0 && token.Kind == HtmlTokenKind.Data:
                    text.Append(data.Data);
                    break;
            }
        return text.ToString();
    }

    // How mail programs begin what they quote, and how a signature begins (RFC 3676, section 4.3).
    [GeneratedRegex(
        @"^(-- |-{3,} ?(Original|Urspr)|_{10,}|(On|Am) .{5,120}(wrote|schrieb).{0,60}:\s*$|(From|Von): )", RegexOptions.CultureInvariant)]
    private static partial Regex Quotes();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();
}
