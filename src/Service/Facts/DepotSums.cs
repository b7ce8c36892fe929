using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>What lies in a depot, and what is promised to it: the one place where it is summed up.</summary>
/// <param name="Parcels">Parcels in it.</param>
/// <param name="Bytes">Their size.</param>
/// <param name="OverBytes">What of it is of swaps that are over, so that no plan counts it.</param>
/// <param name="OverParcels">How many of them are of swaps that are over: a purge of those whose hold has ended makes room.</param>
/// <param name="PromisedBytes">What swaps that are surveyed and not staged will still bring.</param>
internal sealed record DepotSums(long Parcels, long Bytes, long OverBytes, long OverParcels, long PromisedBytes)
{
    public static readonly DepotSums None = new(0, 0, 0, 0, 0);

    /// <summary>How full a depot is.</summary>
    public DepotFill FillOf(DepotRow depot, long? says) => new(Bytes, PromisedBytes, depot.CapacityBytes, says);

    /// <summary>Of all depots of a refresh, by key. Sums over all sites, also for who sees some: a depot is as full as it is.</summary>
    public static async Task<IReadOnlyDictionary<string, DepotSums>> ReadAsync(YardDb db, string refresh, CancellationToken cancel)
    {
        var staged = db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.Refresh == refresh && s.Depot != null && (s.Trips > 0 || s.ParcelId != null) && s.PurgedAt == null);
        var parcels = await staged.GroupBy(s => new { Depot = s.Depot!, IsOver = s.AcceptedAt != null || s.CalledOffAt != null })
            .Select(g => new { g.Key.Depot, g.Key.IsOver, Count = g.LongCount() })
            .ToListAsync(cancel);
        var lies = await staged
            .Join(db.Folders.IgnoreQueryFilters(), s => s.Id, f => f.Swap, (s, f) => new
            {
                Depot = s.Depot!,
                IsOver = s.AcceptedAt != null || s.CalledOffAt != null,
                f.DepotBytes
            })
            .GroupBy(x => new { x.Depot, x.IsOver })
            .Select(g => new { g.Key.Depot, g.Key.IsOver, Bytes = g.Sum(x => x.DepotBytes) })
            .ToListAsync(cancel);
        var first = await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == refresh)
            .OrderBy(d => d.Key)
            .Select(d => d.Key)
            .FirstOrDefaultAsync(cancel);
        SwapKind[] stages = [.. Enum.GetValues<SwapKind>().Where(k => k.Stages())];
        var promised = await db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.Refresh == refresh
                && s.Trips == 0
                && s.SurveyedAt != null
                && s.CalledOffAt == null
                && s.AcceptedAt == null
                && stages.Contains(s.Kind))
            .Join(db.Folders.IgnoreQueryFilters(), s => s.Id, f => f.Swap, (s, f) => new { s.Depot, Bytes = f.OldBytes - f.LeftOutBytes })
            .GroupBy(x => x.Depot)
            .Select(g => new { Depot = g.Key, Bytes = g.Sum(x => x.Bytes) })
            .ToListAsync(cancel);
        long Lies(string key, Func<bool, bool> which) => lies.Where(l => l.Depot == key && which(l.IsOver)).Sum(l => l.Bytes);
        long Parcels(string key, Func<bool, bool> which) => parcels.Where(p => p.Depot == key && which(p.IsOver)).Sum(p => p.Count);
        // What has no depot yet goes to the first.
        return parcels.Select(p => p.Depot).Union(promised.Select(p => p.Depot ?? first).OfType<string>()).ToDictionary(
            key => key,
            key => new DepotSums(
                Parcels(key, _ => true), Lies(key, _ => true), Lies(key, isOver => isOver), Parcels(key, isOver => isOver),
                promised.Where(p => (p.Depot ?? first) == key).Sum(p => p.Bytes)));
    }
}
