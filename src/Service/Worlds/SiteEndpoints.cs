using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>Sites with rooms and benches, and the ways between them.</summary>
internal static class SiteEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/sites", SiteHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListSites")
            .WithSummary("Sites with their rooms and benches.");
        routes.MapPut("/refreshes/{refresh}/sites/{key}", SiteHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutSite")
            .WithSummary("Makes or changes a site.");
        routes.MapDelete("/refreshes/{refresh}/sites/{key}", SiteHandlers.DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropSite")
            .WithSummary("Takes a site out that no swap and no technician needs.");
        routes.MapGet("/refreshes/{refresh}/ways", SiteHandlers.WaysAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListWays")
            .WithSummary("How long it takes between sites.");
        routes.MapPut("/refreshes/{refresh}/ways", SiteHandlers.PutWayAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutWay")
            .WithSummary("Sets the minutes between two sites; 0 takes the way out.");
    }
}
