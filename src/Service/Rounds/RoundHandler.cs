using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Rounds;

/// <summary>The work behind <see cref="RoundEndpoint"/>.</summary>
internal static class RoundHandler
{
    internal static async Task<Results<Ok<RoundSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, ClaimsPrincipal user, YardDb db, RoundReader reader, TimeProvider time, CancellationToken cancel,
        string? technician = null)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var key = technician ?? user.NameOf();
        if (await db.Technicians.AsNoTracking().FirstOrDefaultAsync(t => t.Refresh == refresh && t.Key == key, cancel) is not { } found)
            return (technician is null ? (Problem)new RoundTechnicianProblem(key) : ServiceProblem.NotFound("technician", key)).ToHttp();
        return TypedResults.Ok(await reader.ReadAsync(row, found, time.GetUtcNow(), cancel));
    }
}
