using YardRelay.Service.Accounts;

namespace YardRelay.Service.CarryLists;

/// <summary>The folders of an old computer, to pick from.</summary>
internal static class FolderEndpoints
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/swaps/{swap}/folders", FolderHandlers.GetAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("GetFolders")
            .WithSummary(
                "Folders of the old computer with sizes, for a quarter of an hour after an order 'folders'; never in the records. 204: "
                    + "not at hand.")
            .Produces(204);
}
