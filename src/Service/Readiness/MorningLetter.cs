using System.Globalization;
using YardRelay.Contracts;
using YardRelay.Core.Notices;

namespace YardRelay.Service.Readiness;

/// <summary>Who is not ready for a day, as a mail: those who cannot as they are, those who can still be, and in one line who is.</summary>
internal static class MorningLetter
{
    private const int MostShown = 60;

    /// <summary>One line: which day, and how many are not ready.</summary>
    /// <param name="refresh">What the refresh is called.</param>
    public static string Subject(ReadyPage page, string refresh)
    {
        var (cannot, still) = (Count(page, "cannot"), Count(page, "can-still"));
        var state = (cannot, still) switch
        {
            (0, 0) => "all are ready",
            (0, _) => $"{still} can still be",
            (_, 0) => $"{cannot} cannot",
            _ => $"{cannot} cannot, {still} can still be",
        };
        return Say($"{page.Day:ddd d MMM}: {state} · {YardRelay.Core.Visible.Line(refresh)}");
    }

    /// <param name="page">As it is read for the page of the console.</param>
    /// <param name="refresh">What the refresh is called.</param>
    /// <param name="link">Where it can be done.</param>
    public static string Markdown(ReadyPage page, string refresh, string link)
    {
        var zone = TimeZoneInfo.FindSystemTimeZoneById(page.Zone);
        var lacking = page.Visits.Where(v => v.State is "cannot" or "can-still").ToList();
        var shown = lacking.Take(MostShown).ToList();
        var (ready, nearly, begun) = (Count(page, "ready"), Count(page, "nearly"), Count(page, "begun"));
        string[] blocks =
        [
            Say($"**{NoticeText.Plain(refresh)}, {page.Day:dddd d MMMM}:** {page.Total} {(page.Total == 1 ? "visit" : "visits")}. ")
                + $"{ready} {(ready == 1 ? "is" : "are")} ready{(nearly > 0 ? $", {nearly} but for answers and steps" : "")}, "
                + $"{Count(page, "can-still")} can still be, {Count(page, "cannot")} cannot{(begun > 0 ? $", {begun} begun" : "")}.",
            .. Block("Cannot as it is", shown.Where(v => v.State == "cannot"), zone),
            .. Block("Can still be, soonest first", shown.Where(v => v.State == "can-still"), zone),
            .. shown.Count < lacking.Count ? [$"And {lacking.Count - shown.Count} more, on the page."] : Array.Empty<string>(),
            .. page.Visits.Count < page.Total ? [$"Of {page.Total} the first {page.Visits.Count} were looked at."] : Array.Empty<string>(),
            .. page.ToldUntil is { } told
                ? [Say($"People are told until {TimeZoneInfo.ConvertTime(told, zone):ddd d MMM HH:mm}.")]
                : Array.Empty<string>(),
            $"What can be done about each, and the buttons for it: {link}",
            Say($"As of {TimeZoneInfo.ConvertTime(page.Now, zone):HH:mm}. Times are those of {page.Zone}."),
        ];
        return string.Join("\n\n", blocks) + "\n";
    }

    private static int Count(ReadyPage page, string state) => page.Visits.Count(v => v.State == state);

    private static string Say(FormattableString words) => words.ToString(CultureInfo.InvariantCulture);

    private static IEnumerable<string> Block(string title, IEnumerable<VisitReady> visits, TimeZoneInfo zone)
    {
        var lines = visits.Select(v => LineOf(v, zone)).ToList();
        if (lines.Count == 0) yield break;
        yield return $"**{title}** ({lines.Count})";
        yield return string.Join('\n', lines);
    }

    private static string LineOf(VisitReady visit, TimeZoneInfo zone)
    {
        var at = visit.Start is { } start ? Say($"{TimeZoneInfo.ConvertTime(start, zone):HH:mm}") : "no time";
        string?[] where = [visit.Site, visit.Room, visit.TechnicianName];
        var lacks = visit.Lacks.Where(l => !l.IsMinor).Select(l => NoticeText.Plain(l.Words));
        return $"- {at} **{NoticeText.Plain(visit.Name)}**, {NoticeText.Plain(string.Join(", ", where.OfType<string>()))}: "
            + string.Join(" ", lacks);
    }
}
