using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Days;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Readiness;

/// <summary>The work behind <see cref="ReadyEndpoint"/>.</summary>
internal static class ReadyHandler
{
    internal static async Task<Results<Ok<ReadyPage>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, ReadyReader reader, CancellationToken cancel, DateOnly? day = null,
        string? wave = null, string? site = null)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        if (wave is not null && !await db.Waves.AnyAsync(w => w.Refresh == refresh && w.Key == wave, cancel))
            return ServiceProblem.NotFound("wave", wave).ToHttp();
        if (site is not null && !await db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == site, cancel))
            return ServiceProblem.NotFound("site", site).ToHttp();
        if (day is { } far && DayTooFar.Is(far, row)) return new DayTooFar(far, row.Starts).ToHttp();
        return TypedResults.Ok(await reader.ReadAsync(row, day, wave, site, cancel));
    }
}
