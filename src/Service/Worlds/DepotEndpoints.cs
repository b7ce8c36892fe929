using YardRelay.Service.Accounts;

namespace YardRelay.Service.Worlds;

/// <summary>Depots: where they are, what they hold, what their link brings.</summary>
internal static class DepotEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/depots", DepotHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListDepots")
            .WithSummary("Depots and what lies in them.");
        routes.MapPut("/refreshes/{refresh}/depots/{key}", DepotHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutDepot")
            .WithSummary("Makes or changes a depot.");
    }
}
