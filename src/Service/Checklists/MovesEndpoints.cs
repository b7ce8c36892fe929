using YardRelay.Service.Accounts;

namespace YardRelay.Service.Checklists;

/// <summary>Which swaps have which version of a checklist, and moving many of them to a newer one.</summary>
internal static class MovesEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/templates/uses", MovesHandlers.UsesAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListTemplateUses")
            .WithSummary("How many open swaps have which version of which checklist, and how far they are.");
        routes.MapPost("/refreshes/{refresh}/templates/moves", MovesHandlers.MoveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("MoveChecklists")
            .WithSummary(
                "Moves swaps to a newer version of their checklist: those of which nothing was dealt with yet, and with begunToo those "
                    + "that are under way. Never what was signed. 100 at a time; ask again while some are left. dryRun only says what "
                    + "would change.");
    }
}
