using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Facts;
using YardRelay.Service.Parcels;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>
/// Enters what a hand told at the end of an order: facts into the swap, what the depot was like, and what follows by itself.
/// </summary>
internal sealed class OrderEnding(ParcelKeys keys, FolderDesk desk)
{
    private const int MostWords = 1000;
    private const int MostTrouble = 500;

    /// <returns>Null, or why what came is no end of this order; then nothing is to be kept.</returns>
    public async Task<Problem?> TakeAsync(
        Change w, OrderRow row, OrderOutcome outcome, DepotFound? found, CancellationToken cancel)
    {
        var swap = await w.Db.Swaps.FirstAsync(s => s.Id == row.Swap, cancel);
        var order = Order.Of(row.Kind) ?? throw new System.Diagnostics.UnreachableException($"An order of kind '{row.Kind}' is recorded.");
        if (order.Reach.Parcel != ParcelUse.None)
        {
            await HearOfDepotAsync(w, swap, outcome, found, cancel);
            await ParcelHearing.TakeAsync(w, swap, order, outcome, found, cancel);
        }
        if (outcome is NotDone { Why: var failure } undone)
        {
            if (order is Order.Trip && undone.Doubt is { } doubt) await SourceDoubts.OpenAsync(w, swap, doubt, cancel);
            (row.State, row.Words) = (OrderStates.Failed, failure.Length > MostWords ? failure[..MostWords] : failure);
            w.Note(
                "order.failed",
                swap.Id,
                $"{order.Words} {ServiceHand.At(row.Tag)} failed: {row.Words}",
                new() { ["order"] = row.Id });
            if (undone.Doubt is not null || found?.Held is { Standing: not ParcelStanding.AsKnown })
                await SwapSettling.SettleAsync(w, swap, cancel);
            return null;
        }
        if (await OrderCase.Of(order).EnterAsync(new(w, row, swap, keys, desk, found?.Held), outcome, cancel) is not { } sum)
            return new OtherOutcome(row.Kind);
        (row.State, row.Words) = (sum.Failed ? OrderStates.Failed : OrderStates.Done, sum.Words);
        // Sizes, and what is under way, are what the next plan is made from.
        w.WorldChanged();
        w.Note(
            "order.done",
            swap.Id,
            $"{order.Words} {ServiceHand.At(row.Tag)}: {row.Words}",
            new()
            {
                ["order"] = row.Id,
                ["files"] = sum.Seen.Files,
                ["bytes"] = sum.Seen.Bytes.ToString(CultureInfo.InvariantCulture),
                ["snags"] = sum.Snags,
                ["damages"] = sum.Damages
            });
        await SwapSettling.SettleAsync(w, swap, cancel);
        if (sum.Follows is { } next) OrderGiving.Follow(w, swap, next.Kind, next.Tag);
        return null;
    }

    private static async Task HearOfDepotAsync(
        Change w, SwapRow swap, OrderOutcome outcome, DepotFound? found, CancellationToken cancel)
    {
        // What failed before it met the depot says nothing of it.
        if (outcome is NotDone && found?.Trouble is null) return;
        if (await w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel) is not { } depot) return;
        var trouble = found?.Trouble is { Length: > MostTrouble } longer ? longer[..MostTrouble] : found?.Trouble;
        (depot.HeardAt, depot.Trouble, depot.FreeBytes) = (w.Now, trouble, found?.FreeBytes ?? depot.FreeBytes);
    }
}
