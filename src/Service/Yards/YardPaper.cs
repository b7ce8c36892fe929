using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Paper;

namespace YardRelay.Service.Yards;

/// <summary>The report for the people above: how far the refresh is, what is in its way, on two pages at most.</summary>
internal static class YardPaper
{
    // So that two pages hold all of it; the table names everything.
    private const int MostLines = 14;

    public static byte[] Write(RefreshRow refresh, YardSeen seen, RefreshClock clock, string page)
    {
        using var sheet = new Sheet(
            $"Progress of {refresh.Name}", $"{refresh.Key} · as of {clock.Local(seen.Now):d MMM yyyy HH:mm} {clock.Zone}");
        sheet.Head(
            refresh.Name,
            $"as of {clock.Local(seen.Now):dddd d MMMM yyyy HH:mm} · {refresh.Starts:d MMM yyyy}, {refresh.Days} days",
            page);
        var due = seen.Progress.LastOrDefault(d => d.Day < seen.Today)?.Planned ?? 0;
        sheet.Paragraph(
            $"{seen.Done:#,0} of {seen.Swaps:#,0} swaps are accepted"
                + $"{(due > 0 ? $"; {due:#,0} were planned to be by the end of yesterday" : "")}. "
                + $"{(seen.LastDay is { } last ? $"The last appointment is on {last:d MMM yyyy}." : "Nothing is booked.")}",
            strong: true);
        sheet.Paragraph($"{seen.Late:#,0} are late, {seen.WithoutAppointment:#,0} have no appointment, {seen.Stuck.Count:#,0} are stuck.");
        sheet.Heading("Done against plan");
        sheet.Plot(
            [.. seen.Progress.Select(d => (double)d.Planned)],
            [.. seen.Progress.Where(d => d.Done is not null).Select(d => (double)d.Done!.Value)],
            $"{seen.Progress[0].Day:d MMM}",
            $"{seen.Progress[^1].Day:d MMM}",
            "planned",
            "accepted");
        Parts("By site", seen.BySite);
        if (seen.ByWave.Count > 0) Parts("By wave", seen.ByWave);
        if (seen.Stuck.Count > 0)
        {
            sheet.Heading("What is stuck");
            sheet.Table([new("Person", 1.4), new("Why", 4), new("Since", 1, true)], [.. seen.Stuck.Take(MostLines)
                .Select(s => (IReadOnlyList<string>)[s.Name, s.Words, ByteText.Of(seen.Now - s.Since)])]);
            if (seen.Stuck.Count > MostLines) sheet.Paragraph($"and {seen.Stuck.Count - MostLines} more.");
        }
        sheet.Heading("Open for how long");
        sheet.Table([new("Age", 2), new("Snags", 1, true), new("Follow-ups", 1, true)], [.. seen.Ages.Select((a, i) =>
            (IReadOnlyList<string>)[
                a.UpToDays is { } days ? $"under {days} {(days == 1 ? "day" : "days")}" : $"{seen.Ages[i - 1].UpToDays} days and more",
                Count(a.Snags),
                Count(a.FollowUps)
            ])]);
        sheet.Heading("Technicians");
        sheet.Table(
            [
                new("Name", 2), new("Swaps today", 1, true), new("Hands-on today", 1.2, true), new("Swaps ahead", 1, true),
                new("Follow-ups", 1, true)
            ],
            [.. seen.Technicians.OrderByDescending(t => t.Ahead)
                .Take(MostLines)
                .Select(t => (IReadOnlyList<string>)[
                    t.Name,
                    Count(t.Today),
                    t.TodayMinutes == 0 ? "–" : $"{t.TodayMinutes / 60} h {t.TodayMinutes % 60:00}",
                    Count(t.Ahead),
                    Count(t.FollowUps)
                ])]);
        if (seen.Technicians.Count > MostLines) sheet.Paragraph($"The {MostLines} with most ahead of them, of {seen.Technicians.Count}.");
        return sheet.Save();

        void Parts(string heading, IReadOnlyList<ProgressPart> parts)
        {
            sheet.Heading(heading);
            sheet.Table(
                [new("", 3), new("Swaps", 1, true), new("Accepted", 1, true), new("Late", 1, true)],
                [.. parts.OrderByDescending(p => p.Swaps)
                    .Take(MostLines)
                    .Select(p => (IReadOnlyList<string>)[p.Name, Count(p.Swaps), Count(p.Done), Count(p.Late)])]);
            if (parts.Count > MostLines) sheet.Paragraph($"The {MostLines} largest of {parts.Count}.");
        }

        static string Count(int number) => number == 0 ? "–" : $"{number:#,0}";
    }
}
