using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Depots;

/// <summary>Reads depots as they are shown.</summary>
internal sealed class DepotReader(YardDb db, BuiltInDepot own, DepotSecrets secrets)
{
    /// <summary>All depots of a refresh, with what lies in them and what was promised them.</summary>
    public async Task<List<DepotSeen>> ReadAsync(string refresh, CancellationToken cancel)
    {
        // Sums over all sites, also for who sees some: a depot is as full as it is.
        var lies = await db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.Refresh == refresh && s.Depot != null && (s.Trips > 0 || s.ParcelId != null))
            .GroupBy(s => s.Depot!)
            .Select(g => new
            {
                g.Key,
                Parcels = g.LongCount(),
                Bytes = db.Folders.Where(f => db.Swaps.Any(s => s.Id == f.Swap && s.Refresh == refresh && s.Depot == g.Key))
                    .Sum(f => (long?)f.DepotBytes)
                    ?? 0
            })
                .ToDictionaryAsync(g => g.Key, cancel);
        var first = await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == refresh)
            .OrderBy(d => d.Key)
            .Select(d => d.Key)
            .FirstOrDefaultAsync(cancel);
        var promised = (await db.Swaps.IgnoreQueryFilters().AsNoTracking()
            .Where(s => s.Refresh == refresh && s.Trips == 0 && s.SurveyedAt != null)
            .Select(s => new
            {
                Depot = s.Depot ?? first,
                Bytes = db.Folders.Where(f => f.Swap == s.Id).Sum(f => (long?)(f.OldBytes - f.LeftOutBytes)) ?? 0
            })
            .ToListAsync(cancel))
            .Where(p => p.Depot is not null).GroupBy(p => p.Depot!).ToDictionary(g => g.Key, g => g.Sum(p => p.Bytes));
        return (await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh).OrderBy(d => d.Key).ToListAsync(cancel))
            .ConvertAll(d => Seen(
                d,
                lies.GetValueOrDefault(d.Key)?.Parcels ?? 0,
                lies.GetValueOrDefault(d.Key)?.Bytes ?? 0,
                promised.GetValueOrDefault(d.Key)));
    }

    /// <summary>A depot as it is shown.</summary>
    public DepotSeen Seen(DepotRow d, long parcels = 0, long bytes = 0, long promised = 0) =>
        new(
            d.Key, d.Name, d.Address, parcels, bytes, d.CapacityBytes, d.DailyBytes, d.HoldDays, DepotRates.Of(d).BytesPerSecond,
            d.Observed, d.EndsOn, d.SealTo, promised, d.Limits, secrets.Words(d),
            d.Address == BuiltInDepot.Address ? own.FreeBytes : d.FreeBytes, d.HeardAt, d.Trouble, d.CopyTo);
}
