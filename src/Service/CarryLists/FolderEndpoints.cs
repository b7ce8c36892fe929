using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;

namespace YardRelay.Service.CarryLists;

/// <summary>The folders of an old computer, to pick from.</summary>
internal static class FolderEndpoints
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/swaps/{swap}/folders", GetAsync)
            .OfOwnSites()
            .RequireAuthorization(Roles.Works)
            .WithName("GetFolders")
            .WithSummary(
                "Folders of the old computer with sizes, for a quarter of an hour after an order 'folders'; never in the records. 204: "
                    + "not at hand.")
            .Produces(204);

    private static async Task<Results<Ok<FoldersSeen>, NoContent, ProblemHttpResult>> GetAsync(
        string swap, FolderDesk desk, HttpResponse response, CancellationToken cancel)
    {
        response.Headers.CacheControl = "no-store";
        return desk.Get(swap) is { } seen ? TypedResults.Ok(seen) : TypedResults.NoContent();
    }
}
