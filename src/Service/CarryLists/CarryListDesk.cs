using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.CarryLists;

/// <summary>What comes along, what stays and what is needed first: as it is seen, decided and foretold.</summary>
internal static class CarryListDesk
{
    private const int MostDecisions = 500;
    private static readonly string[] Choices = ["carry", "leave-out", "not-applicable", "by-rule"];

    /// <summary>What is wrong with a change by itself.</summary>
    public static IReadOnlyList<Problem> Faults(CarryChange change) => WorldWrite.Faults(
            change.Decisions.Count > MostDecisions ? new CarryListManyProblem(MostDecisions) : null,
            change.Decisions.FirstOrDefault(d => !Choices.Contains(d.Choice)) is { } unknown
                ? new CarryListChoiceProblem(unknown.Choice, unknown.Path, string.Join(", ", Choices))
                : null,
            change.Decisions.FirstOrDefault(d => d.Choice == "leave-out" && string.IsNullOrWhiteSpace(d.Reason)) is { } bare
                ? new LeftOutWithoutReason(bare.Path)
                : null,
            change.Decisions.FirstOrDefault(d => d.Reason is { Length: > 500 }) is { } longer
                ? new ReasonTooLong(longer.Path)
                : null);

    /// <summary>Decides about folders, within a change.</summary>
    public static async Task<Result<CarryListSeen>> DecideAsync(
        Change w, string swap, CarryChange change, CancellationToken cancel)
    {
        var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
        var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap, cancel);
        var (kept, inventory) = (KeptCarryList.Of(cargo), KeptInventory.Of(cargo));
        var decided = kept.Decisions.Where(d => change.Decisions.All(c => c.Path != d.Path)).ToList();
        foreach (var d in change.Decisions.Where(d => d.Choice != "by-rule"))
        {
            // The same decision again is no other one: it keeps who made it first.
            var reason = d.Choice == "carry" ? "" : d.Reason?.Trim() is { Length: > 0 } why ? why : "not applicable here";
            decided.Add(kept.Decisions.FirstOrDefault(k => k.Path == d.Path && k.Choice == d.Choice && k.Reason == reason)
                ?? new(d.Path, d.Choice, reason, w.By, w.Now));
        }
        var next = new KeptCarryList([.. decided.OrderBy(d => d.Path, StringComparer.Ordinal)], change.First ?? kept.First);
        var made = next.Over(inventory);
        if (!made.TryGet(out var list, out _)) return Result<CarryListSeen>.Failed(made.Problems);
        if (next.Write() == kept.Write()) return await SeenAsync(w.Db, row, cargo, cancel);
        if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap });
        cargo.CarryList = next.Write();
        if (row.Trips == 0) await ForetellAsync(w.Db, row, list, inventory, cancel);
        w.WorldChanged();
        foreach (var d in change.Decisions)
            w.Note("carry-list.decided", swap, $"{w.By}: {d.Path} {Words(d)}", new() { ["choice"] = d.Choice });
        if (change.First is { } first && !first.SequenceEqual(kept.First))
            w.Note(
                "carry-list.first",
                swap,
                first.Count == 0 ? $"{w.By}: nothing comes first" : $"{w.By}: first comes {string.Join(", then ", first)}");
        await w.Db.SaveChangesAsync(cancel);
        return await SeenAsync(w.Db, row, cargo, cancel);
    }

    private static string Words(CarryDecision d) => d.Choice switch
    {
        "carry" => "comes along",
        "leave-out" => $"stays: {d.Reason}",
        "not-applicable" => "does not apply here",
        "by-rule" => "goes by the rules again",
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    /// <summary>Before the first trip, the account shows what a trip would leave out.</summary>
    public static async Task ForetellAsync(YardDb db, SwapRow swap, CarryList list, KeptInventory? inventory, CancellationToken cancel)
    {
        var rows = await db.Folders.Where(f => f.Swap == swap.Id).ToListAsync(cancel);
        rows = [.. rows.Concat(db.Folders.Local.Where(f => f.Swap == swap.Id))
            .Where(f => db.Entry(f).State != EntityState.Deleted)
            .DistinctBy(f => f.Folder)];
        var left = KeptCarryList.LeftOutByFolder(list, inventory, rows.ToDictionary(r => r.Folder, r => r.Old));
        foreach (var row in rows)
            (row.LeftOutFiles, row.LeftOutBytes) = left.TryGetValue(row.Folder, out var amount) ? (amount.Files, amount.Bytes) : (0, 0);
    }

    public static async Task<CarryListSeen> SeenAsync(YardDb db, SwapRow row, CargoRow? cargo, CancellationToken cancel)
    {
        var (kept, inventory, list) = (KeptCarryList.Of(cargo), KeptInventory.Of(cargo), KeptCarryList.EffectiveOf(cargo));
        var folders = await db.Folders.AsNoTracking().Where(f => f.Swap == row.Id).ToDictionaryAsync(f => f.Folder, cancel);
        var places = inventory?.Found.Computer.Places ?? [];
        Amount? About(string path) =>
            folders.TryGetValue(path, out var folder)
                ? folder.Old
                : places.Where(p => p.At == path || p.At.StartsWith(path + "/", StringComparison.Ordinal)).ToList() is { Count: > 0 } within
                ? within.Aggregate(Amount.None, (sum, p) => sum + p.Files)
                : null;
        var by = kept.Decisions.ToDictionary(d => d.Path);
        List<CarryLine> lines =
        [
            .. list.Rules.OrderBy(r => r.Path, StringComparer.Ordinal).Select(r =>
                by.TryGetValue(r.Path, out var d)
                    ? new CarryLine(r.Path, d.Choice, d.Reason, d.By, d.At, About(r.Path))
                    : new(r.Path, r.Carries ? "carry" : "leave-out", r.Reason, null, null, About(r.Path))),
        ];
        return new(
            lines,
            list.Whole,
            list.First,
            await ReviewAsync(
                db,
                row,
                folders.Values,
                inventory is null
                    ? null
                    : KeptCarryList.LeftOutByFolder(list, inventory, folders.ToDictionary(f => f.Key, f => f.Value.Old)).Values,
                cancel));
    }

    private static async Task<CarryReview> ReviewAsync(
        YardDb db, SwapRow row, IReadOnlyCollection<FolderRow> folders, IEnumerable<Amount>? leftOut, CancellationToken cancel)
    {
        var all = folders.Aggregate(Amount.None, (sum, f) => sum + f.Old);
        // What was decided since the last trip counts already: the review is of the next one.
        var left = (leftOut ?? folders.Select(f => f.LeftOut)).Aggregate(Amount.None, (sum, a) => sum + a);
        var carried = all - left;
        if (row.SurveyedAt is null)
            return new(all, carried, left, null, null, true, "Not surveyed yet: a trip carries everything that is there.");
        var depot = await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == row.Refresh && (row.Depot == null || d.Key == row.Depot))
            .OrderBy(d => d.Key)
            .FirstOrDefaultAsync(cancel);
        if (depot is null)
            return new(
                all,
                carried,
                left,
                null,
                null,
                true,
                $"{ByteText.Files(carried.Files)}, {ByteText.Of(carried.Bytes)} would come along. The refresh has no depot yet.");
        var rate = DepotRates.Of(depot);
        var minutes = Estimates.For(row.Id, row.Kind, row.NewModel, new(carried.Bytes, carried.Files, 0), rate, [], 15).FirstTripMinutes;
        long? room = depot.CapacityBytes is { } capacity ? capacity - await PromisedAsync(db, row, depot.Key, cancel) : null;
        var fits = room is null || carried.Bytes <= room;
        var seen = Checklists.KeptNewComputer.Of(await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == row.Id, cancel));
        // What was restored already takes no more room; before that all of it must find some.
        var free = row.RestoreAt is null ? seen?.FreeBytes : null;
        var lands = free is null || carried.Bytes <= free;
        var stays = left.Files > 0 ? $"; {ByteText.Files(left.Files)}, {ByteText.Of(left.Bytes)} stay" : "";
        var inDepot = fits
            ? "."
            : $", but only {ByteText.Of(Math.Max(0, room!.Value))} are free there beside what is promised to others. Leave something "
                + "out, or choose another depot.";
        var onNew = free is not { } there
            ? ""
            : lands
                ? $" The new computer {row.NewTag} has {ByteText.Of(there)} free."
                : $" The new computer {row.NewTag} has only {ByteText.Of(there)} free. Leave something out, or take one with a larger "
                    + "disk.";
        return new(all, carried, left, minutes, room, fits && lands,
            $"{ByteText.Files(carried.Files)}, {ByteText.Of(carried.Bytes)} come along{stays}. A first trip to {depot.Name} takes about "
                + $"{ByteText.Of(TimeSpan.FromMinutes(minutes))}{inDepot}{onNew}",
            free);
    }

    /// <summary>What other swaps have in a depot, or will have.</summary>
    private static async Task<long> PromisedAsync(YardDb db, SwapRow row, string depot, CancellationToken cancel) =>
        await db.Folders.AsNoTracking()
            .Where(f => db.Swaps.Any(s =>
                s.Id == f.Swap && s.Refresh == row.Refresh && s.Id != row.Id && (s.Depot == depot || s.Depot == null)))
            .SumAsync(f => f.DepotBytes > f.OldBytes - f.LeftOutBytes ? f.DepotBytes : f.OldBytes - f.LeftOutBytes, cancel);
}
