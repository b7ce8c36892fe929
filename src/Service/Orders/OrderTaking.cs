using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Facts;
using YardRelay.Service.Parcels;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>What came of asking for an order.</summary>
/// <param name="Order">Null: the one that was due is not handed out any more.</param>
internal sealed record Taking(OrderTaken? Order);

/// <summary>Hands an order to whoever does it, with a lease and all that it needs, and nothing else.</summary>
internal sealed class OrderTaking(ParcelKeys keys, DepotSecrets secrets)
{
    /// <summary>The oldest order that this hand may take now.</summary>
    /// <param name="tag">The computer that the hand is at.</param>
    /// <param name="who">For the ledger: the hand, in words.</param>
    public async Task<Result<Taking>> TakeAsync(Change w, string tag, string hand, string who, CancellationToken cancel)
    {
        var order = await w.Db.Orders.Where(o => o.Refresh == w.Refresh.Key)
            .Where(Leases.Due(tag, hand, w.Now))
            .OrderBy(o => o.MadeAt)
            .FirstOrDefaultAsync(cancel);
        if (order is null) return new NoOrder();
        var swap = await w.Db.Swaps.AsNoTracking().FirstAsync(s => s.Id == order.Swap, cancel);
        // What lies where may have changed since it was given: a depot's address, or another's parcel.
        if (await new Reaches(w.Db).AgainstAsync(swap, order, cancel) is { } why) return Refuse(w, order, why);
        return new Taking(await TakenAsync(w, order, swap, hand, who, cancel));
    }

    private static Taking Refuse(Change w, OrderRow row, Problem why)
    {
        (row.State, row.EndedAt, row.Words) = (OrderStates.Failed, w.Now, why.Message);
        w.Note(
            "order.failed",
            row.Swap,
            $"{Order.WordsOf(row.Kind)} {ServiceHand.At(row.Tag)} was not handed out: {why.Message}",
            new() { ["order"] = row.Id });
        return new(null);
    }

    private async Task<OrderTaken> TakenAsync(
        Change w, OrderRow row, SwapRow swap, string hand, string who, CancellationToken cancel)
    {
        var depot = await w.Db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel);
        var cargo = await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        Leases.Take(row, hand, w.Now);
        w.Note(
            "order.taken",
            row.Swap,
            $"{who} began: {Order.WordsOf(row.Kind).ToLowerInvariant()}{(row.Attempt > 1 ? $" (attempt {row.Attempt})" : "")}",
            new() { ["order"] = row.Id, ["attempt"] = row.Attempt });
        var order = Order.Of(row.Kind) ?? throw new System.Diagnostics.UnreachableException($"An order of kind '{row.Kind}' is recorded.");
        return new(
            row.Id,
            row.Attempt,
            (int)Lease.Length.TotalSeconds,
            await OrderCase.Of(order).WorkAsync(new(w, row, swap, depot, cargo, keys, secrets), order, cancel),
            await RateShare.OfAsync(w.Db, row, w.Now, cancel),
            row.Beside ? true : null);
    }
}
