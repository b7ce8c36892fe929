using Microsoft.EntityFrameworkCore;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Orders;

/// <summary>What carrying taught about a depot's link.</summary>
internal static class Observations
{
    /// <summary>What the link brought this time goes into the rate that estimates use.</summary>
    public static async Task TakeAsync(OrderOver over, CancellationToken cancel)
    {
        var (w, order, swap) = (over.W, over.Row, over.Swap);
        if (order.TakenAt is not { } taken
            || await w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot, cancel) is not { } depot)
            return;
        var rate = DepotRates.Of(depot).With(order.Bytes, (w.Now - taken).TotalSeconds);
        (depot.BytesPerSecond, depot.Observed) = (rate.BytesPerSecond, rate.Observed);
    }
}
