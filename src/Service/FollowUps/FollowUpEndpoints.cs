using YardRelay.Service.Accounts;

namespace YardRelay.Service.FollowUps;

/// <summary>What is still to be done for a swap beside its checklist: with an owner, a time, and what it holds up.</summary>
internal static class FollowUpEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/follow-ups", FollowUpHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListFollowUps")
            .WithSummary("Follow-ups of a refresh, due first; owner, swap, end=open, done or all.");
        routes.MapPost("/swaps/{swap}/follow-ups", FollowUpHandlers.OpenAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("OpenFollowUp")
            .WithSummary("Opens a follow-up.");
        routes.MapPost("/swaps/{swap}/refusal", FollowUpHandlers.RefuseAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("RefuseSwap")
            .WithSummary("The person does not accept: a follow-up is opened that holds the sign-offs.");
        routes.MapGet("/follow-ups/{followUp}", FollowUpHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetFollowUp")
            .WithSummary("One follow-up.");
        routes.MapPut("/follow-ups/{followUp}", FollowUpHandlers.ChangeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("ChangeFollowUp")
            .WithSummary("Changes words, owner, time or hold of an open follow-up.");
        routes.MapPost("/follow-ups/{followUp}/end", FollowUpHandlers.EndAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("EndFollowUp")
            .WithSummary("Ends a follow-up with what came of it.");
    }
}
