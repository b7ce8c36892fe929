using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>A restore: the second half of the account.</summary>
internal sealed class RestoreCase : OrderCase<Order.Restore, Restored>
{
    protected override Order.Restore With(Order.Restore order, OrderWanted wanted) => order with { Beside = wanted.Beside == true };

    protected override Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Restore order, CancellationToken cancel)
    {
        (asked.Row.Beside, asked.Swap.UrgentReadyAt) = (order.Beside, null);
        return OrderedLandings.KeepAsync(asked, [], cancel);
    }

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Restore order, CancellationToken cancel) =>
        Now(new RestoreWork(at.Place, OrderedLandings.PlanOf(at), at.TakesUnfinished));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, Restored outcome, CancellationToken cancel)
    {
        await RestoredAsync(over.W, over.Swap, outcome, cancel);
        await Observations.TakeAsync(over, cancel);
        var seen = SumOf(outcome.Folders);
        return new(
            over.OtherLists + (outcome.IsWhole
                ? $"All {ByteText.Files(seen.Files)} on the new computer"
                : $"{outcome.Snags.Count} snags, {outcome.Damages} damages"),
            seen,
            outcome.Snags.Count,
            outcome.Damages);
    }

    private static async Task RestoredAsync(Change w, SwapRow swap, Restored result, CancellationToken cancel)
    {
        var rows = await w.Db.Folders.Where(f => f.Swap == swap.Id).ToDictionaryAsync(f => f.Folder, cancel);
        foreach (var row in rows.Values) (row.NewFiles, row.NewBytes) = (0, 0);
        foreach (var f in result.Folders)
        {
            if (!rows.TryGetValue(f.Folder, out var row)) w.Db.Folders.Add(row = new() { Swap = swap.Id, Folder = f.Folder });
            // What the trip that broke off had brought was told by nobody: it stood at the old computer, and is in the depot.
            if (result.Unfinished)
                (row.OldFiles, row.OldBytes, row.DepotFiles, row.DepotBytes) = (
                    row.OldFiles + f.Seen.Files - row.DepotFiles, row.OldBytes + f.Seen.Bytes - row.DepotBytes, f.Seen.Files, f.Seen.Bytes);
            (row.NewFiles, row.NewBytes) = (f.Arrived.Files, f.Arrived.Bytes);
        }
        (swap.RestoreAt, swap.RestoreWhole) = (w.Now, result.IsWhole);
        await FirstThere.EnterAsync(w, swap, cancel);
        await AccountEntry.EnterSnagsAsync(w, swap, "new", result.Snags, "the restore", cancel);
    }
}
