using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Clocks;

/// <summary>The time zone of each refresh, as it was at most some seconds ago: one that was made wrong can be set right.</summary>
internal sealed class RefreshZones(IDbContextFactory<YardDb> records, TimeProvider time)
{
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(10);
    private long _readAt;
    private volatile IReadOnlyDictionary<string, TimeZoneInfo> _zones = new Dictionary<string, TimeZoneInfo>();

    /// <summary>The zone of a refresh; null: there is no such refresh.</summary>
    public async Task<TimeZoneInfo?> OfAsync(string refresh, CancellationToken cancel) =>
        (time.GetElapsedTime(Volatile.Read(ref _readAt)) < Believed ? _zones.GetValueOrDefault(refresh) : null)
            ?? (await ReadAsync(cancel)).GetValueOrDefault(refresh);

    /// <summary>What was read is not believed any more.</summary>
    public void Forget() => _zones = new Dictionary<string, TimeZoneInfo>();

    /// <summary>The zone that all of these refreshes share, or all there are; null: they differ, or there is none.</summary>
    public async Task<TimeZoneInfo?> SharedAsync(IReadOnlyList<string> refreshes, CancellationToken cancel)
    {
        var all = await ReadAsync(cancel);
        var zones = all.Where(r => refreshes.Count == 0 || refreshes.Contains(r.Key)).Select(r => r.Value).Distinct().Take(2).ToList();
        return zones.Count == 1 ? zones[0] : null;
    }

    private async Task<IReadOnlyDictionary<string, TimeZoneInfo>> ReadAsync(CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        var rows = await db.Refreshes.AsNoTracking().Select(r => new { r.Key, r.Zone }).ToListAsync(cancel);
        Volatile.Write(ref _readAt, time.GetTimestamp());
        return _zones = rows.ToDictionary(r => r.Key, r => TimeZoneInfo.FindSystemTimeZoneById(r.Zone));
    }
}
