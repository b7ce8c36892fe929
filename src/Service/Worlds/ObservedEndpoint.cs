using YardRelay.Service.Accounts;

namespace YardRelay.Service.Worlds;

/// <summary>How long swaps really took, from the times of their steps: beside the estimates, to be taken over.</summary>
internal static class ObservedEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/lengths", ObservedHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetRealLengths")
            .WithSummary("How long the parts of swaps really took, by kind and by model, from the newest 1,000 that are accepted.");
}
