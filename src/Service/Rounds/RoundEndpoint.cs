using YardRelay.Service.Accounts;

namespace YardRelay.Service.Rounds;

/// <summary>A technician's round: what to do now, what comes, what goes on by itself.</summary>
internal static class RoundEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/round", RoundHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetRound")
            .WithSummary("The round of a technician; technician=KEY, else of who asks.");
}
