using System.Text;
using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Hand.Shown;

/// <summary>Reports as text: a table of folders in aligned plain columns, never wrapped, then one line for each snag or damage.</summary>
internal static class Reports
{
    private const int MostPrograms = 20;

    public static void Show(Inventory inventory)
    {
        Print(["Folder", "Files", "Size", "Links", "Folders"], [.. inventory.Folders.Select(f =>
            new[] { f.Folder, Count(f.Files.Files), ByteText.Of(f.Files.Bytes), Count(f.Links), Count(f.Folders) }),
            [
                "Total", Count(inventory.Total.Files), ByteText.Of(inventory.Total.Bytes), Count(inventory.Folders.Sum(f => f.Links)),
                Count(inventory.Folders.Sum(f => f.Folders))
            ]]);
        Console.Out.WriteLine();
        Print(["Place", "Kind", "What", "Stays or goes", "Files", "Size", "Newest"], [.. inventory.Computer.Places.Select(p => new[]
        {
            p.Account.Length == 0 ? p.Path.Length == 0 ? "." : p.Path : $"{p.Account}: {p.Path}", p.Kind.ToString().ToLowerInvariant(),
            p.Name,
            p.IsLeftOut ? p.Kind == PlaceKind.Cloud ? "stays: in a cloud" : "stays: clutter" : p.Kind == PlaceKind.Unusual ? "ask" : "goes",
            Count(p.Files.Files), ByteText.Of(p.Files.Bytes), $"{p.Newest:yyyy-MM-dd}",
        })], left: 4);
        foreach (var remark in inventory.Computer.Remarks(DateTimeOffset.UtcNow)) Console.Out.WriteLine($"note: {remark}");
        foreach (var needs in inventory.Computer.Places.Where(p => p.Needs is not null && !p.IsLeftOut).GroupBy(p => p.Needs))
            Console.Out.WriteLine($"needs: {needs.Key} on the new computer, for {string.Join(", ", needs.Select(p => p.Name).Distinct())}");
        if (inventory.Computer.Programs.Count > 0)
            Console.Out.WriteLine(
                $"programs: {inventory.Computer.Programs.Count} installed"
                    + $"{(inventory.Computer.Programs.Count <= MostPrograms
                        ? ": " + string.Join(", ", inventory.Computer.Programs.Select(p => $"{p.Name} {p.Version}".TrimEnd()))
                        : "; --json names them")}");
        Snags(inventory.Snags);
        if (inventory.DiskBytes is { } disk && inventory.FreeBytes is { } free)
            Console.Out.WriteLine($"disk: {ByteText.Of(disk)}, {ByteText.Of(free)} free");
        Console.Out.WriteLine(
            $"Surveyed {ByteText.Files(inventory.Total.Files)}, {ByteText.Of(inventory.Total.Bytes)}, in "
                + $"{ByteText.Of(TimeSpan.FromSeconds(inventory.Seconds))}; largest file {ByteText.Of(inventory.LargestBytes)}.");
    }

    public static void Show(TripReport report)
    {
        Print(["Folder", "Old computer", "Size", "Carried", "Size", "Left out", "Open", "Gone"], [.. report.Folders.Select(f =>
            Row(f.Folder, f.Seen, f.Carried, f.LeftOut, f.Open, f.Gone)),
            Row(
                "Total",
                report.Seen,
                report.Carried,
                report.LeftOut,
                report.Open,
                report.Folders.Aggregate(Amount.None, (sum, f) => sum + f.Gone))]);
        Snags(report.Snags);
        Console.Out.WriteLine(
            $"Trip {report.Trip}: {ByteText.Files(report.Added.Files)} staged ({ByteText.Of(report.Added.Bytes)}), "
                + (report.ReadBack is { } back ? $"read back {back.Words(ByteText.Of)}, " : "")
                + $"{ByteText.Files(report.Kept.Files)} kept, in {ByteText.Of(TimeSpan.FromSeconds(report.Seconds))}.");
        if (report.Settled is { } settled) Console.Out.WriteLine($"settled: {settled} Gone on as was said.");
        if (report.GoneNow is { Files: > 0 } gone)
        {
            var where = report.Folders.Where(f => f.GoneNow.Files > 0).Select(f => $"{f.Folder} {f.GoneNow.Files:#,0}");
            Console.Out.WriteLine(
                $"gone since the trip before: {ByteText.Files(gone.Files)} ({ByteText.Of(gone.Bytes)}), in {string.Join(", ", where)}. "
                    + "They stay in the parcel and are not restored.");
        }
        foreach (var left in report.Reasons ?? [])
            Console.Out.WriteLine($"left out: {ByteText.Files(left.Files.Files)} ({ByteText.Of(left.Files.Bytes)}): {left.Reason}");
        foreach (var line in report.IdleLines)
            Console.Out.WriteLine($"no such thing: the carry list names '{line}', and nothing at the old computer is called that.");
        Console.Out.WriteLine(report.IsWhole
            ? $"Every file is accounted for: {ByteText.Files(report.Seen.Files)} at the old computer, "
                + $"{(report.LeftOut.Files == 0
                    ? "all in the depot"
                    : $"{report.Carried.Files:#,0} in the depot, {report.LeftOut.Files:#,0} left out")}."
            : $"{report.Snags.Count} snag(s): {ByteText.Files(report.Open.Files)} not in the depot as it stands now. Mend what stands in "
                + $"the way and run the trip again.");
        if (report.Copy is { } copy)
        {
            foreach (var lost in copy.Lost) Named("not copied", lost, "the first copy does not give it whole. Verify it.");
            Console.Out.WriteLine(
                $"Second copy in {copy.Depot}: "
                    + $"{(copy.Copied.Files == 0
                        ? "it was up to date"
                        : $"{ByteText.Files(copy.Copied.Files)} copied ({ByteText.Of(copy.Copied.Bytes)}), each read back"
                            + (copy.ReadBack is { } from ? " " + from.Words(ByteText.Of) : ""))}.");
        }

        static string[] Row(string name, Amount seen, Amount carried, Amount left, Amount open, Amount gone) =>
            [
                name, Count(seen.Files), ByteText.Of(seen.Bytes), Count(carried.Files), ByteText.Of(carried.Bytes), Count(left.Files),
                Count(open.Files), Count(gone.Files)
            ];
    }

    public static void Show(VerifyReport report)
    {
        if (report.SecondCopy is { } copies) Console.Out.WriteLine(copies);
        foreach (var mended in report.Mended) Console.Out.WriteLine($"mended from the second copy: {Visible.Line(mended)}");
        foreach (var damage in report.Damages)
            Named(damage.Kind.ToString().ToLowerInvariant(), damage.Path, damage.Reason);
        var from = report.Read is { } places ? " " + places.Words(ByteText.Of) : "";
        var read = report.NotRead == 0
            ? "every byte read" + from
            : $"{report.Payload.Files - report.NotRead:#,0} of them read{from}, the others looked for";
        Console.Out.WriteLine(report.IsWhole
            ? $"The parcel is whole: {ByteText.Files(report.Payload.Files)}, {ByteText.Of(report.Payload.Bytes)}, {read}, in "
                + $"{ByteText.Of(TimeSpan.FromSeconds(report.Seconds))}."
            : $"{(report.MoreDamages > 0 ? $"and {report.MoreDamages:#,0} more that are not named. " : "")}The parcel has "
                + $"{report.DamageCount:#,0} damage(s). Run the trip again: it brings these files anew from the old computer. Where that "
                + $"is gone, restore them from the depot's own history.");
        if (report.State is { } state) Console.Out.WriteLine($"Lists of trip {state.Trip}: {state.Sha256}");
    }

    public static void Show(RestoreReport report)
    {
        var total = report.Folders.Aggregate(
            new FolderRestored("Total", default, default, default, default, default),
            (s, f) => new(
                "Total", s.InDepot + f.InDepot, s.Restored + f.Restored, s.Stood + f.Stood, s.Beside + f.Beside, s.Open + f.Open,
                s.Stayed + f.Stayed));
        Print(
            ["Folder", "In the depot", "Size", "Restored", "Stood already", "Beside", "Stayed", "Open"],
            [.. report.Folders.Append(total).Select(f =>
                new[]
                {
                    f.Folder,
                    Count(f.InDepot.Files),
                    ByteText.Of(f.InDepot.Bytes),
                    Count(f.Restored.Files),
                    Count(f.Stood.Files),
                    Count(f.Beside.Files),
                    Count(f.Stayed.Files),
                    Count(f.Open.Files)
                })]);
        foreach (var kept in report.Beside) Console.Out.WriteLine($"beside: {kept.Path} stands already; ours is kept as '{kept.As}'");
        foreach (var clash in report.Clashes ?? [])
            Console.Out.WriteLine(clash.Replaced
                ? $"replaced: {clash.Path} took the place of what stood there"
                : $"stayed: {clash.Path} was left as it stood");
        foreach (var damage in report.Damages)
            Named(damage.Kind.ToString().ToLowerInvariant(), damage.Path, damage.Reason);
        Snags(report.Snags);
        NotInParcel(report.NotInParcel);
        Console.Out.WriteLine(Verdict(report, total));
    }

    private static string Verdict(RestoreReport report, FolderRestored total)
    {
        var all = ByteText.Files(total.InDepot.Files);
        if (report.IsWhole)
            return total.Stayed.Files == 0
                ? $"Every file is accounted for: {all} in the depot, all on this computer."
                : $"Every file is accounted for: {all} in the depot, {total.Stayed.Files:#,0} of them not restored because something else "
                    + "stands there and stays.";
        var areThere = report.Damages.Count == 0 && total.Open.Files == 0 && (report.NotInParcel?.Count ?? 0) == 0;
        if (areThere && report.Unfinished is not null)
            return $"All {all} that were brought before the trip broke off are on this computer. What was not brought, nobody can say.";
        if (areThere && report.Snags.All(s => s.Kind == SnagKind.AttributeLost))
            return $"All {all} in the depot are on this computer, {report.Snags.Count:#,0} of the names not quite as they were.";
        return $"{report.Snags.Count} snag(s) and {report.Damages.Count} damage(s): not everything in the depot is on this computer.";
    }

    public static void Show(LandingForeseen foreseen)
    {
        Print(
            ["Folder", "Lands in", "New", "Size", "Stands already", "Beside", "Replaces", "Stays"],
            [.. foreseen.Folders.Select(f =>
                new[]
                {
                    f.Folder,
                    f.To,
                    Count(f.New.Files),
                    ByteText.Of((f.New + f.Beside + f.Replaced).Bytes),
                    Count(f.Stands.Files),
                    Count(f.Beside.Files),
                    Count(f.Replaced.Files),
                    Count(f.Stayed.Files)
                })],
            left: 2);
        NotInParcel(foreseen.NotInParcel);
        Console.Out.WriteLine(
            $"Nothing was written. It needs {ByteText.Of(foreseen.NeedsBytes)}"
                + $"{(foreseen.FreeBytes is { } free
                    ? $", and {ByteText.Of(free)} are free{(foreseen.NeedsBytes > free ? ": that is too little" : "")}"
                    : "")}.");
    }

    public static void Show(AdoptReport report)
    {
        if (report.Folders is { } folders)
        {
            Print(
                ["Folder", "There", "Size", "Differs", "Missing", "Size", "Only in the copy"],
                [.. folders.Select(f =>
                    new[]
                    {
                        f.Folder,
                        Count(f.There.Files),
                        ByteText.Of(f.There.Bytes),
                        Count(f.Differs.Files),
                        Count(f.Missing.Files),
                        f.Missing.Files > 0 ? ByteText.Of(f.Missing.Bytes) : "",
                        Count(f.Extra.Files)
                    })]);
            foreach (var deep in report.TooDeep)
                Console.Out.WriteLine(
                    $"too deep: {ByteText.Files(deep.Files.Files)} of the old computer lie in '{deep.Folder}', one folder too deep. The "
                        + $"next trip brings them to their places.");
        }
        Snags(report.Snags);
        var (differs, missing) = (report.Folders?.Sum(f => f.Differs.Files) ?? 0, report.Folders?.Sum(f => f.Missing.Files) ?? 0);
        var (are, differ) = (missing == 1 ? "is" : "are", differs == 1 ? "differs" : "differ");
        var beside = report.Folders is null
            ? ""
            : differs + missing == 0
                ? " Every file of the old computer is there by name and length; a trip proves the contents."
                : $" Of the old computer {ByteText.Files(missing)} {are} missing and {differs:#,0} {differ}: run a trip from there, which "
                    + "brings just these.";
        Console.Out.WriteLine(
            $"The parcel '{report.Parcel}' has {ByteText.Files(report.Taken.Files)}, {ByteText.Of(report.Taken.Bytes)}, each "
                + (report.Copied is null ? "read." : "copied" + (report.ReadBack is { } back
                    ? $" and read back {back.Words(ByteText.Of)}."
                    : "."))
                + beside);
        foreach (var left in report.Parcels) Console.Out.WriteLine($"left where it is, since it is a parcel: {left}");
        if (report.Copied is { } still)
            Console.Out.WriteLine(
                $"{(still.Length == 0 ? "What was copied" : $"The folder '{still}'")} still stands where it stood: remove it once the "
                    + "parcel is verified.");
    }

    public static void Show(PurgeReport report)
    {
        foreach (var left in report.Left) Console.Out.WriteLine($"still there: {left}");
        foreach (var other in report.Others) Console.Out.WriteLine($"stays, since it is not the parcel's: {other}");
        Console.Out.WriteLine(report.Left.Count == 0
            ? $"The parcel '{report.Parcel}' is purged: {ByteText.Files(report.Removed.Files)}, {ByteText.Of(report.Removed.Bytes)}. "
                + $"{report.Depot} lists nothing of it any more."
            : $"The parcel '{report.Parcel}' is not wholly purged. Run the same command again, or look at the depot.");
    }

    public static void Show(DepotProbed p)
    {
        static string YesNo(bool yes) => yes ? "yes" : "no";
        Print(["Depot", p.Address], [
            ["round trip", $"{p.RoundTripMilliseconds:0.0} ms"], [
                "rate", $"{ByteText.Of((long)p.BytesPerSecond)}/s, one file written and read back"
            ],
            ["free", p.Room.FreeBytes is { } free ? ByteText.Of(free) : "it does not say"], [
                "holds any name",
                p.Features.HoldsAnyName ? "yes" : $"no, not: {p.NamesNotHeld.Trim()}; such names get an escape and are mapped back"
            ],
            ["tells case", p.Features.TellsCase ? "yes" : "no; names that differ only in case are kept apart by an ending"],
            [
                "tells accents",
                p.Features.TellsForm ? "yes" : "no; names that differ only in the form of an accent are kept apart by an ending"
            ],
            ["keeps accents", p.Features.KeepsForm ? "yes" : "no; such letters get an escape and are mapped back"],
            [
                "longest name",
                $"{p.LongestNameBytes} bytes"
                    + $"{(p.LongestNameBytes == 255 ? " or more" : "; longer ones are kept under a shorter name and mapped back")}"
            ],
            ["a save replaces", YesNo(p.RenamesOver)],
            ["who may reach it", DepotProbe.WhoReaches(p.Features.Modes)]], left: 2);
    }

    public static void Show(Foreseen foreseen)
    {
        foreach (var f in foreseen.Findings)
            Console.Out.WriteLine($"{f.Sign switch { Sign.Good => "✓", Sign.Note => "▲", _ => "■" }} {f.Check}: {f.Words}");
        Console.Out.WriteLine(foreseen.Goes && foreseen.Carried == Amount.None
            ? "It will go, and there is nothing new to bring as far as sizes tell."
            : foreseen.Goes
            ? $"It will go: {ByteText.Files(foreseen.Carried.Files)}, {ByteText.Of(foreseen.Carried.Bytes)} still to come."
            : "It will not go as it stands.");
    }

    private static void NotInParcel(IReadOnlyList<string>? paths)
    {
        foreach (var path in paths ?? []) Console.Out.WriteLine($"not in the parcel: {path}");
    }

    private static void Snags(IReadOnlyList<Snag> snags)
    {
        foreach (var snag in snags) Named("snag", snag.Path, snag.Reason);
    }

    private static void Named(string what, string path, string why) =>
        Console.Out.WriteLine($"{what}: {Visible.Line(path)}: {Visible.Line(why)}");

    private static string Count(long number) => number == 0 ? "" : $"{number:#,0}";

    private static void Print(string[] heads, List<string[]> rows, int left = 1)
    {
        if (rows.Count == 0) return;
        rows = rows.ConvertAll(r => Array.ConvertAll(r, Visible.Line));
        var widths = heads.Select((h, i) => Math.Max(h.Length, rows.Max(r => r[i].Length))).ToArray();
        var text = new StringBuilder();
        foreach (var row in rows.Prepend(heads))
        {
            var line = string.Join("  ", row.Select((cell, i) => i < left ? cell.PadRight(widths[i]) : cell.PadLeft(widths[i])));
            text.Append(line.TrimEnd()).Append('\n');
        }
        Console.Out.Write(text);
    }
}
