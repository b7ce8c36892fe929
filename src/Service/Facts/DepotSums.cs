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
        var lies = await db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.Refresh == refresh && s.Depot != null && (s.Trips > 0 || s.ParcelId != null) && s.PurgedAt == null)
            .GroupBy(s => new { Depot = s.Depot!, IsOver = s.AcceptedAt != null || s.CalledOffAt != null })
            .Select(g => new
            {
                g.Key.Depot,
                g.Key.IsOver,
                Parcels = g.LongCount(),
                Bytes = db.Folders
                    .Where(f => db.Swaps.IgnoreQueryFilters().Any(s => s.Id == f.Swap
                        && s.Refresh == refresh
                        && s.Depot == g.Key.Depot
                        && s.PurgedAt == null
                        && (s.AcceptedAt != null || s.CalledOffAt != null) == g.Key.IsOver))
                    .Sum(f => (long?)f.DepotBytes)
                    ?? 0
            })
            .ToListAsync(cancel);
        var first = await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == refresh)
            .OrderBy(d => d.Key)
            .Select(d => d.Key)
            .FirstOrDefaultAsync(cancel);
        SwapKind[] stages = [.. Enum.GetValues<SwapKind>().Where(k => k.Stages())];
        var promised = (await db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.Refresh == refresh
                && s.Trips == 0
                && s.SurveyedAt != null
                && s.CalledOffAt == null
                && s.AcceptedAt == null
                && stages.Contains(s.Kind))
            .Select(s => new
            {
                Depot = s.Depot ?? first,
                Bytes = db.Folders.Where(f => f.Swap == s.Id).Sum(f => (long?)(f.OldBytes - f.LeftOutBytes)) ?? 0
            })
            .ToListAsync(cancel))
            .Where(p => p.Depot is not null)
            .GroupBy(p => p.Depot!)
            .ToDictionary(g => g.Key, g => g.Sum(p => p.Bytes));
        return lies.Select(l => l.Depot).Union(promised.Keys).ToDictionary(
            key => key,
            key => new DepotSums(
                lies.Where(l => l.Depot == key).Sum(l => l.Parcels),
                lies.Where(l => l.Depot == key).Sum(l => l.Bytes),
                lies.Where(l => l.Depot == key && l.IsOver).Sum(l => l.Bytes),
                lies.Where(l => l.Depot == key && l.IsOver).Sum(l => l.Parcels),
                promised.GetValueOrDefault(key)));
    }
}
