using YardRelay.Service.Accounts;

namespace YardRelay.Service.Planning;

/// <summary>Questions about the plan that change nothing: why not, what if, will it hold.</summary>
internal static class AskEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/plan/why/{swap}", AskHandlers.WhyAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("WhyNot")
            .WithSummary("Why a swap has no appointment, and the changes that would let it in, each tried.");
        routes.MapPost("/refreshes/{refresh}/plan/what-if", AskHandlers.WhatIfAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("WhatIf")
            .WithSummary("What would be if the world were otherwise. Nothing changes.");
        routes.MapPost("/refreshes/{refresh}/plan/outlook", AskHandlers.OutlookAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("Outlook")
            .WithSummary("Plays the plan with uncertain lengths, no-shows and failed trips: will it hold? Nothing changes.");
        routes.MapPost("/refreshes/{refresh}/plan/slack", AskHandlers.SlackAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("Slack")
            .WithSummary(
                "Makes the plan anew with more and more time for each visit, and plays each: how much slack buys how much. Nothing "
                    + "changes.");
    }
}
