using YardRelay.Service.Clocks;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Parcels;

/// <summary>The last good trip of a lost computer serves a rescue.</summary>
internal static class RescueEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/lost-computers", RescueHandlers.FindAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("FindLostComputers")
            .WithSummary("Computers with something staged, over all refreshes, by tag, person or swap; those seen last first.");
        routes.MapPut("/swaps/{swap}/rescue", RescueHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutRescue")
            .WithSummary("Lets the last good trip of a lost computer serve a rescue; its tag is said once more.");
    }
}
