using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Swaps;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Hands;

/// <summary>Enters what a hand found at the end of an order: facts into the swap, sums into its account, snags opened or ended.</summary>
internal static class ResultTaker
{
    public static async Task TakeAsync(
        Writing.Writing w, OrderRow order, OrderResult result, Parcels.ParcelKeys keys, FolderDesk desk, CancellationToken cancel)
    {
        var swap = await w.Db.Swaps.FirstAsync(s => s.Id == order.Swap, cancel);
        var what = OrderKinds.Words(order.Kind);
        if (order.Kind is not (OrderKinds.Survey or OrderKinds.Folders or OrderKinds.SurveyNew)
            && await w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel) is { } depot
            && (result.Failure is null || result.DepotTrouble is not null))
            (depot.HeardAt, depot.Trouble, depot.FreeBytes) = (
                w.Now,
                result.DepotTrouble is { Length: > 500 } longer ? longer[..500] : result.DepotTrouble,
                result.DepotFreeBytes ?? depot.FreeBytes);
        if (result.Failure is { } failure)
        {
            (order.State, order.Words) = (OrderStates.Failed, failure.Length > 1000 ? failure[..1000] : failure);
            w.Note("order.failed", swap.Id, $"{what} {ServiceHand.At(order.Tag)} failed: {order.Words}", new() { ["order"] = order.Id });
            return;
        }
        order.State = OrderStates.Done;
        var seen = result.Folders.Aggregate(Amount.None, (sum, f) => sum + f.Seen);
        if (order.Kind == OrderKinds.Survey)
        {
            order.Words = $"{ByteText.Files(seen.Files)}, {ByteText.Of(seen.Bytes)}";
            await SurveyedAsync(w, swap, result, cancel);
        }
        else if (order.Kind == OrderKinds.SurveyNew)
        {
            var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
            if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
            if (result.Survey is { } found)
            {
                if (found.Computer.Platform is { } platform) swap.NewPlatform = platform.ToString();
                cargo.NewComputer = new Checklists.KeptNewComputer(
                    w.Now, found.Computer.Programs, found.DiskBytes, found.FreeBytes).Write();
            }
            swap.ChecklistVersion++;
            order.Words =
                $"{result.Survey?.Computer.Programs.Count ?? 0:#,0} programs"
                    + $"{(result.Survey?.FreeBytes is { } free ? $", {ByteText.Of(free)} free" : "")}";
        }
        else if (order.Kind == OrderKinds.Folders)
        {
            // Names of folders go to whoever picks from them, and into no record.
            desk.Put(swap.Id, result.Tree ?? [], result.Deeper ?? 0);
            order.Words = $"{result.Tree?.Count ?? 0:#,0} folders to pick from";
        }
        else if (order.Kind == OrderKinds.Adopt)
        {
            order.Words = result.Words ?? $"{ByteText.Files(seen.Files)} taken in";
            await CarriedAsync(w, swap, result, cancel);
            swap.ParcelId ??= result.ParcelId;
        }
        else if (OrderKinds.IsTrip(order.Kind))
        {
            order.Words = result.Snags.Count == 0
                ? $"All {ByteText.Files(seen.Files)} in the depot"
                : $"{ByteText.Files(seen.Files)}, {result.Snags.Count} snags";
            await CarriedAsync(w, swap, result, cancel);
            var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
            if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
            cargo.LeftOutBy = result.Reasons is { Count: > 0 } reasons ? System.Text.Json.JsonSerializer.Serialize(reasons) : null;
            if (result.ParcelKey is { } key && cargo.ParcelKey is null) cargo.ParcelKey = keys.Seal(key);
            swap.ParcelId ??= result.ParcelId;
            if (result.PassphraseSet == true)
            {
                (cargo.Passphrase, cargo.PassphraseAt) = (null, w.Now);
                swap.ChecklistVersion++;
                w.Note("parcel.passphrase", swap.Id, $"The parcel of {swap.Name} opens with their own passphrase, too");
            }
        }
        else if (order.Kind == OrderKinds.Verify)
        {
            order.Words = result.IsWhole ? "The parcel is whole" : $"{result.Damages} damages";
            (swap.VerifiedAt, swap.VerifiedWhole) = (w.Now, result.IsWhole);
            if (!result.IsWhole)
                (order.State, order.Words) =
                    (OrderStates.Failed, $"{result.Damages} files of the parcel are damaged. The next trip brings them anew.");
        }
        else if (order.Kind == OrderKinds.SecondCopy)
        {
            order.Words = result.IsWhole
                ? result.Words ?? "The second copy is whole"
                : $"{result.Damages} files of the second copy are not what the first says";
            if (result.IsWhole) swap.CopiedAt = w.Now;
            else order.State = OrderStates.Failed;
        }
        else if (order.Kind == OrderKinds.Look)
        {
            await Parcels.KeptLanding.ForeseenAsync(w.Db, swap.Id, result.Foreseen, cancel);
            order.Words = result.Foreseen is { } f
                ? $"{ByteText.Files(f.Folders.Sum(o => o.New.Files))} new, {f.Folders.Sum(o => o.Stands.Files):#,0} stand already, "
                    + $"{f.Folders.Sum(o => o.Beside.Files + o.Replaced.Files + o.Stayed.Files):#,0} meet something else"
                : "Nothing was seen";
        }
        else if (order.Kind == OrderKinds.PartRestore)
        {
            // A part that somebody asked for is no fact about the whole.
            order.Words = result.IsWhole
                ? $"{ByteText.Files(seen.Files)} of the parcel are on the new computer"
                : $"{result.Snags.Count} snags, {result.Damages} damages";
            if (!result.IsWhole) order.State = OrderStates.Failed;
        }
        else if (order.Kind == OrderKinds.Purge)
        {
            order.Words = result.IsWhole
                ? $"Purged: {ByteText.Files(seen.Files)}; the depot lists nothing of it"
                : "The depot still lists something of it";
            if (result.IsWhole)
                (swap.PurgedAt, _) = (
                    w.Now,
                    swap.RescuedFrom is { } lost
                        ? await w.Db.Swaps.Where(s => s.Id == lost && s.Parcel == swap.Parcel)
                            .ExecuteUpdateAsync(u => u.SetProperty(s => s.PurgedAt, w.Now), cancel)
                        : 0);
            else order.State = OrderStates.Failed;
            w.Note(
                "parcel.purged",
                swap.Id,
                $"The parcel of {swap.Name}: {order.Words}",
                new() { ["order"] = order.Id, ["files"] = seen.Files, ["whole"] = result.IsWhole });
        }
        else
        {
            order.Words = result.IsWhole
                ? $"All {ByteText.Files(seen.Files)} on the new computer"
                : $"{result.Snags.Count} snags, {result.Damages} damages";
            await RestoredAsync(w, swap, result, cancel);
        }
        // Sizes, and what is under way, are what the next plan is made from.
        w.WorldChanged();
        if (OrderKinds.IsTrip(order.Kind) || order.Kind == OrderKinds.Restore) await ObserveAsync(w, swap, order, cancel);
        w.Note(
            "order.done",
            swap.Id,
            $"{what} {ServiceHand.At(order.Tag)}: {order.Words}",
            new()
            {
                ["order"] = order.Id,
                ["files"] = seen.Files,
                ["bytes"] = seen.Bytes.ToString(CultureInfo.InvariantCulture),
                ["snags"] = result.Snags.Count,
                ["damages"] = result.Damages
            });
        await SwapEndpoints.SettleAsync(w, swap, cancel);
        // A finished trip is verified without being asked: the gate wants it, and the parcel is warm.
        if (OrderKinds.IsTrip(order.Kind) || order.Kind == OrderKinds.Adopt)
            Follow(w, swap, OrderKinds.Verify, await OrderEndpoints.IsBuiltInAsync(w.Db, swap, cancel) ? ServiceHand.Tag : order.Tag);
        // What was found whole is copied, where the depot has a second one: one dead disk then loses nothing.
        else if (order.Kind == OrderKinds.Verify
            && result.IsWhole
            && !(swap.CopiedAt > swap.TripAt)
            && swap.OldTag is { } tag
            && await OrderEndpoints.SecondAsync(w.Db, swap, cancel) is not null)
            Follow(w, swap, OrderKinds.SecondCopy, tag);
    }

    private static void Follow(Writing.Writing w, SwapRow swap, string kind, string tag)
    {
        var order = new OrderRow
        {
            Id = Guid.NewGuid().ToString("N"),
            Refresh = swap.Refresh,
            Swap = swap.Id,
            Kind = kind,
            Tag = tag,
            State = OrderStates.Waiting,
            MadeBy = "the system",
            MadeAt = w.Now,
            NextBatch = 1
        };
        w.Db.Orders.Add(order);
        w.HandsToWake.Add(order.Tag);
        w.Note(
            "order.given",
            swap.Id,
            $"{OrderKinds.Words(kind)} follows by itself {ServiceHand.At(tag)}",
            new() { ["order"] = order.Id, ["kind"] = kind });
    }

    /// <summary>What the depot's link brought this time goes into the rate that estimates use.</summary>
    private static async Task ObserveAsync(Writing.Writing w, SwapRow swap, OrderRow order, CancellationToken cancel)
    {
        if (order.TakenAt is not { } taken
            || await w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel) is not { } depot)
            return;
        var rate = DepotEndpoints.RateOf(depot).With(order.Bytes, (w.Now - taken).TotalSeconds);
        (depot.BytesPerSecond, depot.Observed) = (rate.BytesPerSecond, rate.Observed);
    }

    private static async Task SurveyedAsync(Writing.Writing w, SwapRow swap, OrderResult result, CancellationToken cancel)
    {
        SwapFacts.Reach(swap, Station.Surveyed, w.Now);
        var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        if (result.Survey is { } found)
        {
            if (found.Computer.Platform is { } platform) swap.OldPlatform = platform.ToString();
            var before = KeptInventory.Of(cargo);
            if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
            cargo.Inventory = new KeptInventory(
                w.Now, found.Computer.Total, found, before is null ? null : new(before.At, before.Total)).Write();
        }
        if (swap.Trips > 0) return;
        // Before the first trip the inventory is the account's first column, and all of it is still ahead.
        await w.Db.Folders.Where(f => f.Swap == swap.Id).ExecuteDeleteAsync(cancel);
        foreach (var f in result.Folders)
            w.Db.Folders.Add(new() { Swap = swap.Id, Folder = f.Folder, OldFiles = f.Seen.Files, OldBytes = f.Seen.Bytes });
        await CarryListEndpoints.ForetellAsync(w.Db, swap, KeptCarryList.EffectiveOf(cargo), KeptInventory.Of(cargo), cancel);
    }

    private static async Task CarriedAsync(Writing.Writing w, SwapRow swap, OrderResult result, CancellationToken cancel)
    {
        var before = await w.Db.Folders.Where(f => f.Swap == swap.Id).ToDictionaryAsync(f => f.Folder, cancel);
        foreach (var f in result.Folders)
        {
            if (!before.Remove(f.Folder, out var row)) w.Db.Folders.Add(row = new() { Swap = swap.Id, Folder = f.Folder });
            (row.OldFiles, row.OldBytes, row.DepotFiles, row.DepotBytes, row.NewFiles, row.NewBytes) =
                (f.Seen.Files, f.Seen.Bytes, f.Arrived.Files, f.Arrived.Bytes, null, null);
            (row.LeftOutFiles, row.LeftOutBytes) = (f.LeftOut?.Files ?? 0, f.LeftOut?.Bytes ?? 0);
        }
        w.Db.Folders.RemoveRange(before.Values);
        (swap.Trips, swap.TripAt, swap.RestoreAt, swap.RestoreWhole) = (Math.Max(swap.Trips + 1, result.Trip), w.Now, null, false);
        swap.SurveyedAt ??= w.Now;
        await EnterSnagsAsync(w, swap, "old", result.Snags, $"trip {swap.Trips}", cancel);
    }

    private static async Task RestoredAsync(Writing.Writing w, SwapRow swap, OrderResult result, CancellationToken cancel)
    {
        var rows = await w.Db.Folders.Where(f => f.Swap == swap.Id).ToDictionaryAsync(f => f.Folder, cancel);
        foreach (var row in rows.Values) (row.NewFiles, row.NewBytes) = (0, 0);
        foreach (var f in result.Folders)
        {
            if (!rows.TryGetValue(f.Folder, out var row)) w.Db.Folders.Add(row = new() { Swap = swap.Id, Folder = f.Folder });
            (row.NewFiles, row.NewBytes) = (f.Arrived.Files, f.Arrived.Bytes);
        }
        (swap.RestoreAt, swap.RestoreWhole) = (w.Now, result.IsWhole);
        await FirstIsThereAsync(w, swap, cancel);
        await EnterSnagsAsync(w, swap, "new", result.Snags, "the restore", cancel);
    }

    /// <summary>The folders that are needed first are on the new computer; where none is named, there is nothing to say.</summary>
    public static async Task FirstIsThereAsync(Writing.Writing w, SwapRow swap, CancellationToken cancel)
    {
        var first = Parcels.KeptLanding.Of(await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel)).Plan.First;
        if (swap.UrgentReadyAt is not null || first.Count == 0) return;
        swap.UrgentReadyAt = w.Now;
        w.Note(
            "swap.first-ready",
            swap.Id,
            $"{swap.Name} can begin to work: {string.Join(", ", first)} {(first.Count == 1 ? "is" : "are")} on the new computer",
            new() { ["folders"] = first.Count });
    }

    /// <summary>Snags that are gone ended by a retry; those that a person waived stay waived while the file still fails.</summary>
    private static async Task EnterSnagsAsync(
        Writing.Writing w, SwapRow swap, string side, IReadOnlyList<Snag> found, string by, CancellationToken cancel)
    {
        var known = await w.Db.Snags.Where(n => n.Swap == swap.Id && n.Side == side && n.End != "retried").ToListAsync(cancel);
        var names = await Snags.SnagNames.ReadAsync(w.Db, [swap.Id], cancel);
        foreach (var ended in known.Where(k => found.All(f => f.Path != k.Path)))
        {
            (ended.End, ended.EndedBy, ended.EndReason, ended.EndedAt) = ("retried", by, null, w.Now);
            w.Note("snag.retried", swap.Id, $"{names.Of(swap.Id, ended.Path)} is carried by {by}", new() { ["snag"] = ended.Id });
        }
        foreach (var snag in found)
        {
            if (known.FirstOrDefault(k => k.Path == snag.Path) is { } again)
            {
                (again.Kind, again.Bytes, again.Reason, again.CountsAsFile, again.Files) =
                    (snag.Kind, snag.Bytes, snag.Reason, snag.CountsAsFile, snag.Files);
                continue;
            }
            var row = new SnagRow
            {
                Id = Guid.NewGuid().ToString("N"),
                Refresh = swap.Refresh,
                Swap = swap.Id,
                Path = snag.Path,
                Kind = snag.Kind,
                Side = side,
                Bytes = snag.Bytes,
                Reason = snag.Reason,
                CountsAsFile = snag.CountsAsFile,
                Files = snag.Files,
                End = "open",
                At = w.Now
            };
            w.Db.Snags.Add(row);
            w.Note(
                "snag.found",
                swap.Id,
                $"Snag: {names.Of(swap.Id, snag.Path)}: {snag.Reason}",
                new()
                {
                    ["snag"] = row.Id,
                    ["kind"] = snag.Kind.ToString(),
                    ["bytes"] = snag.Bytes.ToString(CultureInfo.InvariantCulture)
                });
        }
    }
}
