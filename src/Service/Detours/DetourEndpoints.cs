using YardRelay.Service.Accounts;

namespace YardRelay.Service.Detours;

/// <summary>What goes otherwise than planned: each has a way that keeps the facts right, and is looked at before it is taken.</summary>
internal static class DetourEndpoints
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPost("/swaps/{swap}/detours", DetourHandlers.HandleAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("TakeDetour")
            .WithSummary("Something goes otherwise than planned: says what follows (dryRun), or does it.");
}
