using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Core.SetUps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.SetUps;

/// <summary>What of a refresh is there and what is missing.</summary>
internal static class SetUpEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/set-up", GetAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("GetSetUp")
            .WithSummary("What of a refresh is there and what is missing, in the order in which people set it up.");

    private static async Task<Results<Ok<SetUpSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, SetUpReader reader, CancellationToken cancel)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var setUp = SetUp.Of(await reader.ReadAsync(row, cancel));
        return TypedResults.Ok(new SetUpSeen(
            [.. setUp.Parts.Select(p => new SetUpPartSeen(p.Key, p.State.ToString().ToLowerInvariant(), p.Words))], setUp.Unplannable));
    }
}
