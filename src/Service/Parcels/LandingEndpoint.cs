using YardRelay.Service.Accounts;

namespace YardRelay.Service.Parcels;

/// <summary>Where a swap's parcel lands on the new computer.</summary>
internal static class LandingEndpoint
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/swaps/{swap}/landing", LandingHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetLanding")
            .WithSummary("Where the parcel lands, and what the last look of the hand found.");
        routes.MapPut("/swaps/{swap}/landing", LandingHandler.PutAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("PutLanding")
            .WithSummary("Decides where the parcel lands; order a look to see the counts before anything is written.");
    }
}
