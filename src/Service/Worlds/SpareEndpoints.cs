using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>New computers that no swap has: they stand in for one that is dead, wrong or late.</summary>
internal static class SpareEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/spares", SpareHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListSpares")
            .WithSummary("Spare computers.");
        routes.MapPut("/refreshes/{refresh}/spares/{key}", SpareHandlers.PutAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("PutSpare")
            .WithSummary("Makes or changes a spare computer; its key is its asset tag.");
        routes.MapDelete("/refreshes/{refresh}/spares/{key}", SpareHandlers.DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropSpare")
            .WithSummary("Takes a spare computer out.");
    }
}
