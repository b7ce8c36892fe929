using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Core.Swaps;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Facts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>A survey: what is on the old computer, and the account's first column before the first trip.</summary>
internal sealed class SurveyCase : OrderCase<Order.Survey, Surveyed>
{
    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Survey order, CancellationToken cancel) =>
        Now(new SurveyWork(at.W.Refresh.PlaceRules));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, Surveyed outcome, CancellationToken cancel)
    {
        await SurveyedAsync(over.W, over.Swap, outcome, cancel);
        var seen = SumOf(outcome.Folders);
        return new($"{ByteText.Files(seen.Files)}, {ByteText.Of(seen.Bytes)}", seen, outcome.Snags.Count);
    }

    private static async Task SurveyedAsync(Change w, SwapRow swap, Surveyed result, CancellationToken cancel)
    {
        SwapFacts.Reach(swap, Station.Surveyed, w.Now);
        var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        if (result.Found is { } found)
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
        await CarryListDesk.ForetellAsync(w.Db, swap, KeptCarryList.EffectiveOf(cargo), KeptInventory.Of(cargo), cancel);
    }
}
