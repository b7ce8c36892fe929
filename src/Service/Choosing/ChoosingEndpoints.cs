using YardRelay.Service.Accounts;

namespace YardRelay.Service.Choosing;

/// <summary>How people choose their times: the rules, who waits, and groups that are kept apart or together.</summary>
internal static class ChoosingEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/choosing", ChoosingHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetChoosing")
            .WithSummary("How people choose their times.");
        routes.MapPut("/refreshes/{refresh}/choosing", ChoosingHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SetChoosing")
            .WithSummary("Says until when people choose their times, and how many may begin at one time.");
        routes.MapGet("/refreshes/{refresh}/waiting", ChoosingHandlers.WaitingAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListWaiting")
            .WithSummary("Who waits for which time, whoever waits longest first.");
        routes.MapGet("/refreshes/{refresh}/groups", ChoosingHandlers.GroupsAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListGroups")
            .WithSummary("Swaps that are kept apart, or go together.");
        routes.MapPut("/refreshes/{refresh}/groups/{key}", ChoosingHandlers.PutGroupAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutGroup")
            .WithSummary("Makes or changes a group. What is promised against it stays until the next plan.");
        routes.MapDelete("/refreshes/{refresh}/groups/{key}", ChoosingHandlers.DropGroupAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropGroup")
            .WithSummary("Takes a group out; its swaps go as they will.");
    }
}
