using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>Plans of a refresh: a draft is made, looked at, published; every published one is kept.</summary>
internal static class PlanEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/plan", PlanHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetPlan")
            .WithSummary("The draft where there is one, else what is published; number=3 for another one.");
        routes.MapGet("/refreshes/{refresh}/plans", PlanHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListPlans")
            .WithSummary("The history of plans, newest first.");
        routes.MapGet("/refreshes/{refresh}/plans/compared", PlanHandlers.CompareAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("ComparePlans")
            .WithSummary("Two plans compared; without numbers: what is published with the draft.");
        routes.MapPost("/refreshes/{refresh}/plan", PlanHandlers.MakeAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("MakePlan")
            .WithSummary("Makes a draft for all swaps whose appointment has not begun. Nothing is booked.");
        routes.MapPost("/refreshes/{refresh}/plan/publication", PlanHandlers.PublishAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PublishPlan")
            .WithSummary("Publishes the draft: its appointments are booked. Needs If-Match with the draft's version.");
        routes.MapDelete("/refreshes/{refresh}/plan/draft", PlanHandlers.DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropDraft")
            .WithSummary("Throws the draft away; what is published stays.");
    }
}
