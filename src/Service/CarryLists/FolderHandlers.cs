using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Contracts;
using YardRelay.Core.Ids;

namespace YardRelay.Service.CarryLists;

/// <summary>The work behind <see cref="FolderEndpoints"/>.</summary>
internal static class FolderHandlers
{
    internal static async Task<Results<Ok<FoldersSeen>, NoContent, ProblemHttpResult>> GetAsync(
        SwapId swap, FolderDesk desk, HttpResponse response, CancellationToken cancel)
    {
        response.Headers.CacheControl = "no-store";
        return desk.Get(swap) is { } seen ? TypedResults.Ok(seen) : TypedResults.NoContent();
    }
}
