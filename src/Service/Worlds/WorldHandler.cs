using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="WorldEndpoint"/>.</summary>
internal static class WorldHandler
{
    internal static async Task<Results<Ok<WorldSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, Depots.DepotReader depots, CancellationToken cancel)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        return TypedResults.Ok(new WorldSeen(
            (await db.Sites.AsNoTracking().Where(s => s.Refresh == refresh).OrderBy(s => s.Key).ToListAsync(cancel))
                .ConvertAll(WorldView.Seen),
            (await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ToListAsync(cancel))
                .ConvertAll(WorldView.Seen),
            (await db.Ways.AsNoTracking().Where(w => w.Refresh == refresh).OrderBy(w => w.From).ThenBy(w => w.To).ToListAsync(cancel))
                .ConvertAll(WorldView.Seen),
            (await db.Closures.AsNoTracking().Where(c => c.Refresh == refresh).OrderBy(c => c.At).ThenBy(c => c.Key).ToListAsync(cancel))
                .ConvertAll(WorldView.Seen),
            (await db.Deliveries.AsNoTracking()
                .Where(d => d.Refresh == refresh)
                .OrderBy(d => d.Arrives)
                .ThenBy(d => d.Key)
                .ToListAsync(cancel))
                .ConvertAll(WorldView.Seen),
            await WorldView.ReadWavesAsync(db, refresh, cancel), await depots.ReadAsync(refresh, cancel),
            (await db.Estimates.AsNoTracking().Where(e => e.Refresh == refresh).OrderBy(e => e.Scope).ThenBy(e => e.Of).ToListAsync(cancel))
                .ConvertAll(WorldView.Seen),
            (await db.Catalogue.AsNoTracking()
                .Where(c => c.Refresh == refresh)
                .OrderBy(c => c.Program)
                .ThenBy(c => c.Key)
                .ToListAsync(cancel))
                .ConvertAll(CatalogueReader.Seen),
            await SpareReader.ReadAsync(db, refresh, cancel),
            await GroupReader.ReadGroupsAsync(db, refresh, cancel)));
    }
}
