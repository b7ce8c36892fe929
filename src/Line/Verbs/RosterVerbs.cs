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
        var file = new Argument<string>("file") { Description = "CSV in UTF-8; docs/formats.md has the columns." };
        var dry = new Option<bool>("--dry-run") { Description = "Only show what would change." };
        return new Command("roster", "The list of people and computers.")
        {
            Call.Command<RosterTaken>("take", "Takes a roster: every row, or none if one is wrong. Taking the same file twice changes nothing.", "yardline roster take people.csv --dry-run", [file, dry], async (c, r, a, cancel) =>
            {
                var path = a.GetValue(file)!;
                if (!File.Exists(path)) return new Problem("roster.file", $"There is no file '{path}'.");
                return await c.TakeRosterAsync(r, await File.ReadAllBytesAsync(path, cancel), a.GetValue(dry), cancel);
            }, Show),
        };
    }

    private static void Show(RosterTaken taken)
    {
        if (taken.Changes.Count > 0) Tables.Show(["Swap", "Person", "Change", "What"], taken.Changes.Select(c => new[] { c.Swap, c.Person, c.Change, c.What }));
        Tables.Say($"{taken.Rows} rows: {taken.Added} {(taken.DryRun ? "would be added" : "added")}, {taken.Changed} {(taken.DryRun ? "would change" : "changed")}, {taken.Same} the same.{(taken.DryRun ? " Nothing was taken; run again without --dry-run." : taken.Added + taken.Changed > 0 ? " Next: 'yardline plan make'." : "")}");
    }
}
