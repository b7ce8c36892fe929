using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Orders;

/// <summary>The lease of an order as the record keeps it. What a lease is, and when it is over, <see cref="Lease"/> says.</summary>
internal static class Leases
{
    /// <summary>Orders that a hand at a computer may take: those that wait, those whose lease is over, and its own of before.</summary>
    public static Expression<Func<OrderRow, bool>> Due(string tag, string hand, DateTimeOffset now) => o =>
        o.Tag == tag
            && (o.State == OrderStates.Waiting || (o.State == OrderStates.UnderWay && (o.LeaseUntil < now || o.Hand == hand)));

    /// <summary>The order that a swap has open; null: none. One at a time.</summary>
    public static Task<OrderRow?> OpenAsync(YardDb db, string swap, CancellationToken cancel) =>
        db.Orders.FirstOrDefaultAsync(
            o => o.Swap == swap && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay), cancel);

    /// <summary>Gives it to a hand; what an earlier attempt told of its progress is forgotten.</summary>
    public static void Take(OrderRow order, string hand, DateTimeOffset now)
    {
        Keep(order, Lease.Take(hand, order.Attempt, now));
        (order.State, order.TakenAt, order.HeardAt) = (OrderStates.UnderWay, now, now);
        (order.Files, order.TotalFiles, order.Bytes, order.TotalBytes, order.BytesPerSecond, order.Waits) = (0, 0, 0, 0, 0, null);
    }

    public static void Renew(OrderRow order, int batch, DateTimeOffset now)
    {
        Keep(order, Of(order)!.Renew(batch, now));
        order.HeardAt = now;
    }

    /// <summary>Ends it; how, the state says.</summary>
    public static void End(OrderRow order, int batch, DateTimeOffset now)
    {
        Keep(order, Of(order)!.End(batch));
        (order.HeardAt, order.EndedAt) = (now, now);
    }

    /// <summary>Why a batch is refused; null: it is taken.</summary>
    public static Problem? Against(OrderRow? order, string id, string hand, int attempt, int batch) =>
        order is null || Of(order) is not { } lease
            ? ServiceProblem.NotFound("order", id)
            : (lease with { Until = order.State == OrderStates.UnderWay ? lease.Until : null }).Against(hand, attempt, batch);

    private static Lease? Of(OrderRow order) =>
        order.Hand is { } hand ? new(hand, order.Attempt, order.NextBatch, order.LeaseUntil) : null;

    private static void Keep(OrderRow order, Lease lease) =>
        (order.Hand, order.Attempt, order.NextBatch, order.LeaseUntil) = (lease.Hand, lease.Attempt, lease.NextBatch, lease.Until);
}
