using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>What is on an old computer, and what of it comes along: <c>yardline swap found</c> and <c>carry-list</c>.</summary>
internal static class CargoVerbs
{
    public static IEnumerable<Command> Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var leave = new Option<string[]>("--leave")
        {
            Description = "Folder that stays; --because says why.",
            AllowMultipleArgumentsPerToken = true
        };
        var because = new Option<string?>("--because") { Description = "Why it stays." };
        var take = new Option<string[]>("--take")
        {
            Description = "Folder that comes along, also where a rule would leave it.",
            AllowMultipleArgumentsPerToken = true
        };
        var none = new Option<string[]>("--not-applicable")
        {
            Description = "Folder that there is nothing to do about.",
            AllowMultipleArgumentsPerToken = true
        };
        var byRule = new Option<string[]>("--by-rule")
        {
            Description = "Folder about which an earlier decision is taken back.",
            AllowMultipleArgumentsPerToken = true
        };
        var first = new Option<string[]>("--first")
        {
            Description = "Folders that are restored first, in this order.",
            AllowMultipleArgumentsPerToken = true
        };
        yield return Call.Command(
            "found",
            "What the last survey found on the old computer: places, programs, what is worth asking about.",
            "yardline swap found autumn-0012",
            [swap],
            (c, _, a, cancel) => c.InventoryAsync(a.GetValue(swap)!, cancel),
            Show,
            needsRefresh: false);
        yield return Call.Command("carry-list", "What comes along and what stays; with options, decides about it.",
            "yardline swap carry-list autumn-0012 --leave Downloads --because 'not needed, says Ida'", [
            swap, leave, because, take, none, byRule, first
        ], async (c, _, a, cancel) =>
        {
            List<CarryDecision> decided =
            [
                .. (a.GetValue(leave) ?? [])
                    .Select(p => new CarryDecision(
                        p, "leave-out", a.GetValue(because))), .. (a.GetValue(take) ?? []).Select(p => new CarryDecision(p, "carry")),
                .. (a.GetValue(none) ?? []).Select(p => new CarryDecision(p, "not-applicable", a.GetValue(because))),
                .. (a.GetValue(byRule) ?? []).Select(p => new CarryDecision(p, "by-rule")),
            ];
            var order = a.GetResult(first) is { Implicit: false } ? a.GetValue(first) : null;
            return decided.Count == 0 && order is null
                ? await c.CarryListAsync(a.GetValue(swap)!, cancel)
                : await c.ChangeCarryListAsync(a.GetValue(swap)!, new(decided, order), cancel);
        }, Show, needsRefresh: false);
    }

    private static void Show(InventorySeen i)
    {
        Tables.Show(["Place", "Kind", "What", "Stays or goes", "Files", "Size", "Newest"], i.Places.Select(p => new[]
        {
            p.Account.Length == 0
                ? p.Path.Length == 0 ? "." : p.Path
                : $"{p.Account}: {p.Path}", p.Kind.ToString().ToLowerInvariant(), p.Name,
            p.IsLeftOut ? "stays" : p.Kind == PlaceKind.Unusual ? "ask" : "goes", $"{p.Files.Files:#,0}", ByteText.Of(p.Files.Bytes),
            $"{p.Newest:yyyy-MM-dd}",
        }), 4, 5);
        foreach (var remark in i.Remarks) Tables.Say($"▲ {remark}");
        foreach (var needs in i.Places.Where(p => p.Needs is not null && !p.IsLeftOut).GroupBy(p => p.Needs))
            Tables.Say($"○ The new computer needs {needs.Key}, for {string.Join(", ", needs.Select(p => p.Name).Distinct())}.");
        if (i.Programs.Count > 0)
            Tables.Say(
                $"○ {i.Programs.Count} programs: {string.Join(", ", i.Programs.Take(30).Select(p => $"{p.Name} {p.Version}".TrimEnd()))}"
                    + $"{(i.Programs.Count > 30 ? ", …" : "")}");
        var grown = i.Before is { } before
            ? $", {(i.Total.Bytes >= before.Total.Bytes ? "+" : "−")}{ByteText.Of(Math.Abs(i.Total.Bytes - before.Total.Bytes))} since "
                + $"{before.At.OnClock():ddd d MMM}"
            : "";
        Tables.Say(
            $"{ByteText.Files(i.Total.Files)}, {ByteText.Of(i.Total.Bytes)}{grown}; surveyed {i.At.OnClock():ddd d MMM HH:mm}; "
                + $"largest file {ByteText.Of(i.LargestBytes)}"
                + $"{(i is { DiskBytes: { } disk, FreeBytes: { } free }
                        ? $"; disk {ByteText.Of(disk)}, {ByteText.Of(free)} free"
                        : "")}.");
    }

    private static void Show(CarryListSeen l)
    {
        if (l.Lines.Count > 0)
            Tables.Show(
                ["Path", "What", "Files", "Size", "Why", "By"],
                l.Lines.Select(x =>
                    new[]
                    {
                        x.Path,
                        x.Choice == "carry" ? "comes along" : x.Choice == "leave-out" ? "stays" : "does not apply",
                        x.Files is { } f ? $"{f.Files:#,0}" : "",
                        x.Files is { } s ? ByteText.Of(s.Bytes) : "",
                        x.Reason,
                        x.By ?? "a rule"
                    }),
                2,
                3);
        foreach (var unit in l.Whole) Tables.Say($"○ {unit} is carried whole or not at all.");
        if (l.First.Count > 0) Tables.Say($"○ First comes {string.Join(", then ", l.First)}.");
        Tables.Say($"{(l.Review.Fits ? "" : "■ ")}{l.Review.Words}");
    }
}
