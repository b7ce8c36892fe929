using YardRelay.Service.Accounts;

namespace YardRelay.Service.Checklists;

/// <summary>Moves a swap to another version of its checklist, once it is seen what that changes.</summary>
internal static class MoveEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPost("/swaps/{swap}/checklist/version", MoveHandler.HandleAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("MoveChecklist")
            .WithSummary(
                "Moves a swap to another version of its checklist, or only says what would change (dryRun). Never by itself: a swap keeps "
                    + "the version that it began with.");
}
