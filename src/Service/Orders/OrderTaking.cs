using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Parcels;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>Hands an order to whoever does it, with a lease and all that it needs, and nothing else.</summary>
internal sealed class OrderTaking(ParcelKeys keys, DepotSecrets secrets)
{
    /// <summary>The oldest order that this hand may take now.</summary>
    /// <param name="tag">The computer that the hand is at.</param>
    /// <param name="who">For the ledger: the hand, in words.</param>
    public async Task<Result<OrderTaken>> TakeAsync(Change w, string tag, string hand, string who, CancellationToken cancel)
    {
        var order = await w.Db.Orders.Where(o => o.Refresh == w.Refresh.Key)
            .Where(Leases.Due(tag, hand, w.Now))
            .OrderBy(o => o.MadeAt)
            .FirstOrDefaultAsync(cancel);
        return order is null ? new NoOrder() : await TakenAsync(w, order, hand, who, cancel);
    }

    private async Task<OrderTaken> TakenAsync(Change w, OrderRow row, string hand, string who, CancellationToken cancel)
    {
        var swap = await w.Db.Swaps.AsNoTracking().FirstAsync(s => s.Id == row.Swap, cancel);
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
