using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline ready</c>: who is not ready for a day that comes, why, and what can be done.</summary>
internal static class ReadyVerb
{
    public static Command Create()
    {
        var day = new Option<string?>("--day")
        {
            Description = "today, tomorrow, or a day such as 2026-12-01; left out: the next with visits."
        };
        var wave = new Option<string?>("--wave") { Description = "Key of a wave: its swaps, whatever their day." };
        var site = new Option<string?>("--site") { Description = "Key of a site: only there." };
        var ready = Call.Command(
            "ready",
            "Who is not ready for a day that comes, why, and what can be done about it.",
            "yardline ready --day tomorrow",
            [day, wave, site],
            async (c, r, a, cancel) =>
            {
                if (!(await DayAsync(c, r, a.GetValue(day), cancel)).TryGet(out var on, out var problem)) return problem;
                return await c.ReadyAsync(r, on.Day, a.GetValue(wave), a.GetValue(site), cancel);
            },
            Show);
        ready.Subcommands.Add(ReadyMailVerb.Create());
        return ready;
    }

    private sealed record Asked(DateOnly? Day);

    /// <summary>A day in words is one by the clocks of the refresh.</summary>
    private static async Task<Result<Asked>> DayAsync(Client.YardClient client, string refresh, string? text, CancellationToken cancel)
    {
        if (text is null) return new Asked(null);
        if (DateOnly.TryParseExact(text, "yyyy-MM-dd", out var day)) return new Asked(day);
        if (text is not ("today" or "tomorrow")) return new ReadyDayProblem(text);
        if (!(await client.TodayAsync(refresh, null, cancel)).TryGet(out var today, out var refused)) return refused;
        return new Asked(today.Day.AddDays(text == "today" ? 0 : 1));
    }

    private static void Show(ReadyPage page)
    {
        int Count(string state) => page.Visits.Count(v => v.State == state);
        var what = page.Day is { } day ? $"{day:dddd d MMMM}" : $"Wave {page.Wave}";
        if (page.Total == 0)
        {
            Tables.Say($"{what}: nothing is booked.");
            return;
        }
        Tables.Say(
            $"{what}: {page.Total} {(page.Total == 1 ? "visit" : "visits")} · {Count("ready")} ready, {Count("nearly")} but for answers "
                + $"and steps, {Count("can-still")} can still be, "
                + $"{Count("cannot")} cannot{(Count("begun") is > 0 and var begun ? $", {begun} begun" : "")}"
                + $"{(page.ToldUntil is { } told ? $" · people are told until {told.OnClock():ddd d MMM HH:mm}" : "")}");
        foreach (var visit in page.Visits.Where(v => v.State is "cannot" or "can-still")) ShowLacking(visit);
        if (Count("nearly") > 0)
            Tables.Show(
                ["Ready but for", "", "When", "Where", "Swap"],
                page.Visits.Where(v => v.State == "nearly").Select(v => new[]
                {
                    v.Name, string.Join(", ", v.Lacks.Select(Short)), $"{v.Start?.OnClock():ddd d MMM HH:mm}",
                    v.Site + (v.Room is null ? "" : $", {v.Room}"), v.Swap,
                }));
        if (page.Visits.Count < page.Total) Tables.Say($"Of {page.Total} the first {page.Visits.Count} are looked at.");
    }

    private static void ShowLacking(VisitReady visit)
    {
        Tables.Say(
            $"{(visit.State == "cannot" ? "■" : "▲")} {visit.Name}, "
                + $"{(visit.Start is { } start ? $"{start.OnClock():ddd d MMM HH:mm}" : "no time")}, {visit.Site}"
                + $"{(visit.Room is null ? "" : $", {visit.Room}")}{(visit.TechnicianName is null ? "" : $", {visit.TechnicianName}")}");
        foreach (var lack in visit.Lacks.Where(l => !l.IsMinor))
        {
            Tables.Say($"    {lack.Words}");
            foreach (var cure in lack.Cures) Tables.Say($"      {cure.Command}");
        }
        if (visit.Lacks.Where(l => l.IsMinor).Select(Short).ToList() is { Count: > 0 } minor)
            Tables.Say($"    Open, too: {string.Join(", ", minor)}.");
    }

    private static string Short(LackSeen lack) => (lack.Kind, lack.Count) switch
    {
        ("no-answer", 1) => "1 answer",
        ("no-answer", var many) => $"{many} answers",
        ("steps-open", 1) => "1 step",
        ("steps-open", var many) => $"{many} steps",
        _ => lack.Words,
    };
}
