using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Depots;

/// <summary>How fast one hand may carry now, so that all hands of a depot and of a site together keep to their limits.</summary>
internal static class RateShare
{
    /// <summary>Bytes a second; 0: nothing for now; null: no limit holds.</summary>
    public static async Task<long?> OfAsync(YardDb db, OrderRow order, DateTimeOffset now, CancellationToken cancel)
    {
        if (order.PausedAt is not null) return 0;
        if (order.Kind == OrderNames.Survey) return null;
        var swap = order.Swap;
        var at = await db.Swaps.AsNoTracking().Where(s => s.Id == swap).Select(s => new { s.Refresh, s.Site, s.Depot }).FirstAsync(cancel);
        var site = await db.Sites.AsNoTracking()
            .Where(s => s.Refresh == at.Refresh && s.Key == at.Site)
            .Select(s => s.Limits)
            .FirstOrDefaultAsync(cancel)
            ?? [];
        var depot = await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == at.Refresh && d.Key == at.Depot)
            .Select(d => d.Limits)
            .FirstOrDefaultAsync(cancel)
            ?? [];
        if (site.Count + depot.Count == 0) return null;
        var local = new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == at.Refresh, cancel)).Local(now).TimeOfDay;
        var (ofSite, ofDepot) = (At(site), At(depot));
        if (ofSite is null && ofDepot is null) return null;
        var carrying = db.Orders.AsNoTracking()
            .Where(o => o.Refresh == at.Refresh && o.State == OrderStates.UnderWay && o.LeaseUntil > now && o.Kind != OrderNames.Survey)
            .Join(db.Swaps, o => o.Swap, s => s.Id, (_, s) => new { s.Site, s.Depot });
        long?[] shares =
        [
            RateRule.Share(ofSite, ofSite > 0 ? await carrying.CountAsync(c => c.Site == at.Site, cancel) : 1),
            RateRule.Share(ofDepot, ofDepot > 0 ? await carrying.CountAsync(c => c.Depot == at.Depot, cancel) : 1),
        ];
        return shares.Min();

        long? At(List<string> texts) =>
            RateRule.At(texts.Select(RateRule.Parse).Where(r => r.IsOk).Select(r => r.Value), (int)local.TotalMinutes);
    }
}
