using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline yard</c>: all swaps by site and station, and how far the refresh is.</summary>
internal static class YardVerbs
{
    public static Command Create()
    {
        var file = new Argument<string>("file") { Description = "File to write: its ending, .csv or .pdf, says what." };
        var command = Call.Command(
            "yard",
            "Where every swap is, what is stuck and why, how far the refresh is.",
            "yardline yard",
            [],
            (c, r, _, cancel) => c.YardAsync(r, cancel),
            Show);
        command.Subcommands.Add(Call.Command<string>("print", "Progress for the people above: two pages (.pdf), or a table (.csv).",
            "yardline yard print progress.pdf", [file], async (c, r, a, cancel) =>
        {
            var path = a.GetValue(file)!;
            if (Path.GetExtension(path).ToLowerInvariant() is not (".csv" or ".pdf") and var other)
                return new YardFormProblem(other);
            if (!(await c.ProgressAsync(r, Path.GetExtension(path)[1..].ToLowerInvariant(), cancel)).TryGet(out var bytes, out var problem))
                return problem;
            await File.WriteAllBytesAsync(path, bytes, cancel);
            return $"Written to {path}.";
        }, Tables.Say));
        return command;
    }

    private static void Show(YardSeen yard)
    {
        Tables.Say(
            $"{yard.Done} of {yard.Swaps} accepted, {yard.Late} late, {yard.WithoutAppointment} without an appointment"
                + $"{(yard.LastDay is { } last ? $"; the last appointment is on {last:ddd d MMM}" : "")}.");
        var stations = yard.Sites.SelectMany(s => s.Cells.Select(c => c.Station)).Distinct().Order().ToList();
        Tables.Show(
            ["Next:", .. stations.Select(s => s == Station.HandedIn ? "handed in" : s.ToString().ToLowerInvariant()), "over"],
            yard.Sites.Select(s =>
                (string[])[
                    s.Site,
                    .. stations.Select(t =>
                        s.Cells.FirstOrDefault(c => c.Station == t) is { } cell
                            ? $"{(cell.Stuck > 0 ? $"▲{cell.Stuck} " : "")}{(cell.Moving > 0 ? $"●{cell.Moving} " : "")}{cell.Swaps}"
                            : ""),
                    s.Done == 0 ? "" : $"{s.Done}"
                ]),
            [.. Enumerable.Range(1, stations.Count + 1)]);
        if (yard.Stuck.Count > 0)
            Tables.Show(
                ["Stuck", "", "For", "Swap"],
                yard.Stuck.Select(n =>
                    new[] { n.Name, (n.Sign == "stopped" ? "■ " : "▲ ") + n.Words, ByteText.Of(yard.Now - n.Since), n.Swap }));
        Tables.Show(
            ["Technician", "Today", "Hands-on", "Ahead", "Follow-ups"],
            yard.Technicians.Select(t =>
                new[]
                {
                    t.Name,
                    Count(t.Today),
                    t.TodayMinutes == 0 ? "" : $"{t.TodayMinutes / 60} h {t.TodayMinutes % 60:00}",
                    Count(t.Ahead),
                    Count(t.FollowUps)
                }),
            1,
            2,
            3,
            4);

        static string Count(int number) => number == 0 ? "" : $"{number}";
    }
}
