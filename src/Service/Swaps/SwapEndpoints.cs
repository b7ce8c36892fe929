using YardRelay.Service.Accounts;

namespace YardRelay.Service.Swaps;

/// <summary>Swaps: find them, look at one.</summary>
internal static class SwapEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/swaps", SwapHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListSwaps")
            .WithSummary("Swaps in pieces: find (q), filter (site, technician, kind, next), sort (name, time or station).");
        routes.MapGet("/swaps/{swap}", SwapHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetSwap")
            .WithSummary("All of one swap.");
        routes.MapGet("/my-swaps", SwapHandlers.MineAsync)
            .RequireAuthorization(Roles.Anyone)
            .WithName("ListMySwaps")
            .WithSummary("The swaps of the person who asks.");
    }
}
