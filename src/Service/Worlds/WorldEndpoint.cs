using YardRelay.Service.Accounts;

namespace YardRelay.Service.Worlds;

/// <summary>All of the world in one answer, for the console.</summary>
internal static class WorldEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/world", WorldHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetWorld")
            .WithSummary("Sites, technicians, ways, closures, deliveries, waves, depots and overrides of estimates.");
}
