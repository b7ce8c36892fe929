using System.Text;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Markdig;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;
using MimeKit;
using YardRelay.Core.Notices;
using YardRelay.Records;

namespace YardRelay.Service.Notices;

/// <summary>
/// A notice as a mail: plain text, the same as HTML, and where it carries an appointment an invitation (RFC 5546) that updates and cancels
/// the one before.
/// </summary>
internal static class NoticeMail
{
    // HTML in a text is text: whoever writes one writes Markdown.
    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().DisableHtml().UseAutoLinks().Build();

    /// <param name="page">Address of the person's own page, which may be led to whatever its scheme is; null: there is none.</param>
    public static string Html(string markdown, string? page = null)
    {
        var document = Markdown.Parse(markdown, Pipeline);
        foreach (var link in StrangeLinks(document, page))
        {
            // What it says stays; where it would have led is not there any more. A picture would be fetched unasked.
            Inline[] said = link is ContainerInline container ? [.. container] : [new LiteralInline(UrlOf(link))];
            foreach (var part in said)
            {
                part.Remove();
                link.InsertBefore(part);
            }
            link.Remove();
        }
        return document.ToHtml(Pipeline);
    }

    /// <summary>Where a text leads that no mail may lead to, and the pictures in it; none: it is fit.</summary>
    public static IReadOnlyList<string> StrangeLinks(string markdown) =>
        [.. StrangeLinks(Markdown.Parse(markdown, Pipeline), null).Select(UrlOf).Distinct()];

    private static List<Inline> StrangeLinks(MarkdownDocument document, string? page) =>
        [.. document.Descendants<Inline>().Where(i => i switch
        {
            LinkInline link => link.IsImage || !MayLead(link.Url, page),
            AutolinkInline { IsEmail: false } link => !MayLead(link.Url, page),
            _ => false,
        })];

    private static string UrlOf(Inline link) => (link as LinkInline)?.Url ?? (link as AutolinkInline)?.Url ?? "";

    // A field in braces is filled in later, by the service itself.
    private static bool MayLead(string? url, string? page) =>
        url is { Length: > 0 }
        && (url == page
            || (url[0] == '{' && url[^1] == '}')
            || (Uri.TryCreate(url, UriKind.Absolute, out var uri) && uri is { Scheme: "https" or "mailto" }));

    /// <summary>The same without markup; paragraphs stay apart, and the items of a list keep their dash.</summary>
    public static string Plain(string markdown)
    {
        static string Line(string text) => Markdown.ToPlainText(text, Pipeline).ReplaceLineEndings("\n").Trim();
        return string.Join("\n\n", markdown.ReplaceLineEndings("\n").Trim()
            .Split("\n\n", StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(block =>
                block.StartsWith("- ", StringComparison.Ordinal)
                    ? string.Join('\n', block.Split('\n').Select(l => "- " + Line(l.TrimStart('-', ' '))))
                    : Line(block)))
                + "\n";
    }

    /// <summary>A text plain and as HTML.</summary>
    /// <param name="page">An address of this service, which may be led to whatever its scheme is.</param>
    public static MultipartAlternative Body(string markdown, string language, string page) =>
        new()
        {
            new TextPart("plain") { Text = Plain(markdown) },
            new TextPart("html")
            {
                Text =
                    $"<!doctype html><html lang=\"{language}\"><body style=\"font:16px/1.5 sans-serif;max-width:36em\">"
                        + $"{Html(markdown, page)}</body></html>"
            }
        };

    /// <param name="page">Address of the person's own page, where they say that they want no more mail than needed.</param>
    public static MimeMessage Make(
        NoticeRow notice, SwapRow swap, RefreshRow refresh, string? technician, string markdown, string from, string page)
    {
        var moment = NoticeMoments.Of(notice.Moment)!.Value;
        var message = new MimeMessage
        {
            Subject = notice.Subject,
            MessageId = $"{notice.Id}@{refresh.Key}.yardrelay.example",
            Date = notice.MadeAt
        };
        message.From.Add(new MailboxAddress(refresh.Name, from));
        message.To.Add(new MailboxAddress(swap.Name, notice.To));
        // Nobody's absence is answered to a program (RFC 3834).
        message.Headers.Add("Auto-Submitted", "auto-generated");
        message.Headers.Add(HeaderId.ContentLanguage, notice.Language);
        if (!moment.IsNeeded()) message.Headers.Add(HeaderId.ListUnsubscribe, $"<{page}>");
        var body = Body(markdown, notice.Language, page);
        if (moment.Invites() && Invitation(notice, swap, refresh, technician, from, moment) is { } invitation) body.Add(invitation);
        message.Body = body;
        return message;
    }

    private static TextPart? Invitation(
        NoticeRow notice, SwapRow swap, RefreshRow refresh, string? technician, string from, NoticeMoment moment)
    {
        var cancels = moment is NoticeMoment.Unbooked or NoticeMoment.CalledOff;
        if ((cancels ? notice.Start : swap.Start) is not { } start) return null;
        var calendar = new Ical.Net.Calendar { ProductId = "-//Yard Relay//Notice//EN", Method = cancels ? "CANCEL" : "REQUEST" };
        calendar.AddTimeZone(Planning.CalendarZones.Of(refresh.Zone));
        var zone = TimeZoneInfo.FindSystemTimeZoneById(refresh.Zone);
        CalDateTime Local(DateTimeOffset at) => new(TimeZoneInfo.ConvertTime(at, zone).DateTime, refresh.Zone);
        calendar.Events.Add(new CalendarEvent
        {
            Uid = $"{swap.Id}@{refresh.Key}.yardrelay.example",
            Sequence = swap.Sequence,
            DtStamp = new CalDateTime(notice.MadeAt.UtcDateTime, "UTC"),
            Start = Local(start),
            End = Local(cancels || swap.End is null ? start.AddHours(1) : swap.End.Value),
            Summary = (swap.Kind == Core.Swaps.SwapKind.Reimage, notice.Language) switch
            {
                (true, "de") => "Computer wird neu eingerichtet",
                (true, _) => "Computer set up afresh",
                (_, "de") => "Neuer Computer",
                _ => "New computer"
            },
            Location = swap.Room is null ? swap.Site : $"{swap.Site}, {swap.Room}",
            Description = technician is null ? null : notice.Language == "de" ? $"Mit {technician}." : $"With {technician}.",
            Status = cancels ? "CANCELLED" : "CONFIRMED",
            Organizer = new Organizer($"mailto:{from}") { CommonName = refresh.Name },
            Attendees = [new Attendee($"mailto:{notice.To}")
            {
                CommonName = swap.Name, ParticipationStatus = "NEEDS-ACTION", Role = "REQ-PARTICIPANT"
            }],
        });
        var part = new TextPart("calendar") { Text = new CalendarSerializer().SerializeToString(calendar)! };
        part.ContentType.Parameters.Add("method", calendar.Method);
        part.ContentType.Charset = Encoding.UTF8.WebName;
        return part;
    }
}
