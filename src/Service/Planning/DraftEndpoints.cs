using YardRelay.Service.Accounts;

namespace YardRelay.Service.Planning;

/// <summary>Changes the draft by hand: try a place, move there, take a move back.</summary>
internal static class DraftEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/refreshes/{refresh}/plan/draft/trials", DraftHandlers.TryAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("TryMove")
            .WithSummary("What a move would break, and cost. Nothing changes.");
        routes.MapPost("/refreshes/{refresh}/plan/draft/moves", DraftHandlers.MoveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("MoveVisit")
            .WithSummary(
                "Moves a visit of the draft, or takes it out, unless a rule would be broken. Needs If-Match with the draft's version.");
        routes.MapPost("/refreshes/{refresh}/plan/draft/undo", DraftHandlers.UndoAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("UndoMove")
            .WithSummary("Takes the newest move by hand back. Needs If-Match with the draft's version.");
    }
}
