using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Service.Depots;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="DepotEndpoints"/>.</summary>
internal static class DepotHandlers
{
    internal static async Task<Ok<List<DepotSeen>>> ListAsync(RefreshKey refresh, DepotReader depots, CancellationToken cancel) =>
        TypedResults.Ok(await depots.ReadAsync(refresh, cancel));

    internal static async Task<Results<Ok<DepotSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string key, DepotWanted wanted, DepotDesk desk, CancellationToken cancel) =>
        (await desk.SetAsync(refresh, key, wanted, cancel)).ToHttp();
}
