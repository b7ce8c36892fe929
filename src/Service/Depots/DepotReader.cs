using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Depots;

/// <summary>Reads depots as they are shown.</summary>
internal sealed class DepotReader(YardDb db, BuiltInDepot own, DepotSecrets secrets)
{
    /// <summary>All depots of a refresh, with what lies in them and what was promised them.</summary>
    public async Task<List<DepotSeen>> ReadAsync(string refresh, CancellationToken cancel)
    {
        var sums = await DepotSums.ReadAsync(db, refresh, cancel);
        return (await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh).OrderBy(d => d.Key).ToListAsync(cancel))
            .ConvertAll(d => Seen(d, sums.GetValueOrDefault(d.Key)));
    }

    /// <summary>A depot as it is shown.</summary>
    /// <param name="sums">What lies in it; null: it is not known yet.</param>
    public DepotSeen Seen(DepotRow d, DepotSums? sums = null)
    {
        sums ??= DepotSums.None;
        var fill = FillOf(d, sums);
        return new(
            d.Key, d.Name, d.Address, sums.Parcels, sums.Bytes, d.CapacityBytes, d.DailyBytes, d.HoldDays,
            DepotRates.Of(d).BytesPerSecond, d.Observed, d.EndsOn, d.SealTo, sums.PromisedBytes, d.Limits, secrets.Words(d),
            fill.FreeBytes, d.HeardAt, d.Trouble, d.CopyTo, fill.State);
    }

    /// <summary>How full a depot is, by what it says now or said last.</summary>
    public DepotFill FillOf(DepotRow d, DepotSums sums) =>
        sums.FillOf(d, d.Address == BuiltInDepot.Address ? own.FreeBytes : d.FreeBytes);
}
