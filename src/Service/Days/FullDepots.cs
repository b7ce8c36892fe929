using System.Collections.Concurrent;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Days;

/// <summary>
/// What lies in depots and is promised to them, as it was at most a minute ago: everybody's page asks what needs somebody, again and again,
/// and to sum over all folders each time would cost more than all the rest of it.
/// </summary>
internal sealed class FullDepots(TimeProvider time)
{
    private static readonly TimeSpan Believed = TimeSpan.FromMinutes(1);
    private readonly ConcurrentDictionary<string, (long At, IReadOnlyDictionary<string, DepotSums> Sums)> _kept = new();

    public async Task<IReadOnlyDictionary<string, DepotSums>> SumsAsync(YardDb db, string refresh, CancellationToken cancel)
    {
        if (_kept.TryGetValue(refresh, out var kept) && time.GetElapsedTime(kept.At) < Believed) return kept.Sums;
        var sums = await DepotSums.ReadAsync(db, refresh, cancel);
        _kept[refresh] = (time.GetTimestamp(), sums);
        return sums;
    }
}
