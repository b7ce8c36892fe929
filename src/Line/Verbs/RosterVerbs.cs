using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline roster</c></summary>
internal static class RosterVerbs
{
    public static Command Create()
    {
        var file = new Argument<string>("file") { Description = "CSV in any alphabet, or XLSX; docs/formats.md has the columns." };
        var dry = new Option<bool>("--dry-run") { Description = "Only show what would change." };
        var skip = new Option<bool>("--skip-faulty")
        {
            Description = "Take the good rows and leave the others; else one bad row stops all."
        };
        var drop = new Option<bool>("--drop-gone") { Description = "Take swaps out that are not in this file and have not begun." };
        var matches = new Argument<string[]>("match")
        {
            Description = "HEAD=COLUMN, such as 'Inventory no=old_tag'; HEAD= leaves a column out."
        };
        var number = new Argument<int>("number") { Description = "Number of the taking; 'yardline roster takings' lists them." };
        var to = new Argument<string>("file") { Description = "Where it is written: a .csv or .xlsx file." };
        var sample = new Option<bool>("--sample") { Description = "With a few rows that show what goes where." };
        return new Command("roster", "The list of people and computers.")
        {
            Call.Command<RosterTaken>("take",
                "Takes a roster: every row, or none if one is wrong. Taking the same file twice changes nothing.",
                "yardline roster take people.xlsx --dry-run", [file, dry, skip, drop], async (c, r, a, cancel) =>
            {
                var path = a.GetValue(file)!;
                if (!File.Exists(path)) return new RosterFileProblem(path);
                var name = Guid.NewGuid().ToString("N");
                var taking = c.TakeRosterAsync(
                    r, await File.ReadAllBytesAsync(path, cancel), a.GetValue(dry), cancel, a.GetValue(skip), a.GetValue(drop), name);
                await Tables.ProgressAsync(taking, "Sending the roster", async () =>
                    (await c.RosterProgressAsync(r, name, cancel)).TryGet(out var at, out _) && at.Stage != "waiting"
                        ? (
                            $"{char.ToUpperInvariant(at.Stage[0])}{at.Stage[1..]} {at.Of:#,0} rows",
                            at.Stage == "saving" ? null : (double)at.Rows / Math.Max(1, at.Of))
                        : null);
                return await taking;
            }, Show),
            Call.Command("match", "Says what columns of a file are read as; it is kept for the next time.",
                "yardline roster match 'Inventory no=old_tag' 'Shoe size='", [matches], (c, r, a, cancel) =>
            {
                var pairs = a.GetValue(matches)!.Select(m => m.Split('=', 2)).ToList();
                return pairs.Find(p => p.Length < 2) is { } wrong
                    ? Task.FromResult<Result<Dictionary<string, string>>>(new RosterMatchProblem(wrong[0]))
                    : c.MatchColumnsAsync(r, pairs.ToDictionary(p => p[0].Trim(), p => p[1].Trim()), cancel);
            }, all => Tables.Show(
                ["Column of the file", "Read as"],
                all.OrderBy(m => m.Key).Select(m => new[] { m.Key, m.Value.Length == 0 ? "(left out)" : m.Value }))),
            Call.Command(
                "takings",
                "Lists the rosters that were taken, newest first.",
                "yardline roster takings",
                [],
                (c, r, _, cancel) => c.TakingsAsync(r, cancel),
                all => Tables.Show(
                    ["Number", "When", "By", "Added", "Changed", "Undo"],
                    all.Select(t => new[]
                    {
                        $"{t.Number}",
                        $"{t.At.OnClock():ddd d MMM HH:mm}",
                        t.By,
                        $"{t.Added}",
                        $"{t.Changed}",
                        t.WhyNotUndone is null ? "can be undone" : $"no: {t.WhyNotUndone}"
                    }),
                    0,
                    3,
                    4)),
            Call.Command(
                "undo",
                "Undoes a taking while nothing has been built on it.",
                "yardline roster undo 2",
                [number],
                (c, r, a, cancel) => c.UndoTakingAsync(r, a.GetValue(number), cancel),
                t => Tables.Say($"Taking {t.Number} is undone: {t.Added} swaps taken out, {t.Changed} as they were before.")),
            Call.Command<string>("template", "Writes a blank roster to fill in.", "yardline roster template people.xlsx --sample",
                [to, sample], async (c, _, a, cancel) =>
            {
                var path = a.GetValue(to)!;
                var got = await c.RosterTemplateAsync(
                    Path.GetExtension(path).TrimStart('.').ToLowerInvariant(), a.GetValue(sample), cancel);
                return got.IsOk ? await Written.ToAsync(path, got.Value, cancel) : Result<string>.Failed(got.Problems);
            }, path => Tables.Say($"Written to {path}."), needsRefresh: false),
        };
    }

    private static void Show(RosterTaken taken)
    {
        foreach (var column in taken.Columns.Where(c => c.By is "guess" or "none"))
            Tables.Say(column.By == "guess"
                ? $"○ '{column.Head}' is read as {column.Column}, by guess."
                : $"○ '{column.Head}' is left out. 'yardline roster match \"{column.Head}=COLUMN\"' reads it.");
        if (taken.Changes.Count > 0)
            Tables.Show(["Swap", "Person", "Change", "What"], taken.Changes.Select(c => new[] { c.Swap, c.Person, c.Change, c.What }));
        foreach (var r in taken.Rejected)
            Tables.Say(
                $"■ Line {r.Line}{(r.Column.Length > 0 ? $", {r.Column}" : "")}{(r.Value.Length > 0 ? $" '{r.Value}'" : "")}: {r.Reason} "
                    + $"{r.Remedy}");
        var total =
            $"{taken.Rows} rows: {taken.Added} {(taken.DryRun ? "would be added" : "added")}, {taken.Changed} "
                + $"{(taken.DryRun ? "would change" : "changed")}, {taken.Same} the same"
                + $"{(taken.Gone > 0 ? $"; {taken.Gone} of the refresh are not in the file" : "")}"
                        + $"{(taken.Rejected.Count > 0 ? $"; {taken.Rejected.Count} faults" : "")}.";
        Tables.Say(total
            + (taken.DryRun
                ? taken.Rejected.Count > 0
                    ? " Nothing was taken; correct the file, or take the good rows with --skip-faulty."
                    : " Nothing was taken; run again without --dry-run."
                : taken.Added + taken.Changed > 0
                ? $" Taking {taken.Number}. Next: 'yardline plan make'."
                : ""));
    }
}
