using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The organisation's catalogue: what it offers for the programs that are found on old computers.</summary>
internal static class CatalogueEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/catalogue", CatalogueHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListCatalogue")
            .WithSummary("What is offered for the programs of old computers.");
        routes.MapPut("/refreshes/{refresh}/catalogue/{key}", CatalogueHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutCatalogueLine")
            .WithSummary("Makes or changes a line of the catalogue.");
        routes.MapDelete("/refreshes/{refresh}/catalogue/{key}", CatalogueHandlers.DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropCatalogueLine")
            .WithSummary("Takes a line out of the catalogue.");
    }
}
