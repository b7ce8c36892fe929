using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Worlds;

/// <summary>Spare computers, as people see them.</summary>
internal static class SpareReader
{
    public static async Task<List<SpareSeen>> ReadAsync(YardDb db, string refresh, CancellationToken cancel) =>
        (await db.Spares.AsNoTracking()
            .Where(s => s.Refresh == refresh)
            .OrderBy(s => s.Trouble == null ? 0 : 1)
            .ThenBy(s => s.Site)
            .ThenBy(s => s.Key)
            .ToListAsync(cancel))
            .ConvertAll(Seen);

    public static SpareSeen Seen(SpareRow s) => new(s.Key, s.Model, s.Site, s.Trouble);
}
