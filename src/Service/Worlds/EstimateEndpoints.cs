using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>How long swaps take, what is known better than that, and which way to carry.</summary>
internal static class EstimateEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/estimates", EstimateHandlers.RulesAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListEstimates")
            .WithSummary("What is known better than the estimate, per swap, model or kind.");
        routes.MapPut("/refreshes/{refresh}/estimates/{scope}/{of}", EstimateHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutEstimate")
            .WithSummary("Sets lengths or a bench preparation for a swap, a model or a kind.");
        routes.MapDelete("/refreshes/{refresh}/estimates/{scope}/{of}", EstimateHandlers.DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropEstimate")
            .WithSummary("Goes back to the estimate.");
        routes.MapGet("/swaps/{swap}/estimate", EstimateHandlers.OfSwapAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetEstimate")
            .WithSummary("How long the parts of a swap take, from what that follows, and the ways to carry compared.");
        routes.MapGet("/refreshes/{refresh}/ways-to-carry", EstimateHandlers.WaysAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("CompareWays")
            .WithSummary("The ways to carry compared for a wave, or for all swaps.");
    }
}
