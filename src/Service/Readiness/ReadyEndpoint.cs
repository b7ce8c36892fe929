using YardRelay.Service.Accounts;

namespace YardRelay.Service.Readiness;

/// <summary>Who is not ready for a day that comes, and why.</summary>
internal static class ReadyEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/ready", ReadyHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReady")
            .WithSummary("Who is not ready and why, with what can be done: of day=2026-12-01, else of the next day with visits after "
                + "today; of wave=KEY; at site=KEY only.");
}
