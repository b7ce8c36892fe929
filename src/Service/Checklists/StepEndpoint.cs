using YardRelay.Service.Accounts;

namespace YardRelay.Service.Checklists;

/// <summary>
/// Works a step of a swap's checklist. Two technicians never overwrite each other: the second is told what the first did.
/// </summary>
internal static class StepEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPut("/swaps/{swap}/checklist/steps/{step}", StepHandler.HandleAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("SetStep")
            .WithSummary("Claims a step. If-Match: the checklist's version as the caller saw it.");
}
