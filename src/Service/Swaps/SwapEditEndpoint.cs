using YardRelay.Service.Accounts;

namespace YardRelay.Service.Swaps;

/// <summary>Tells planning about many swaps at once: wave, skills, weight, times, pins. All of them or none.</summary>
internal static class SwapEditEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPost("/refreshes/{refresh}/swaps/edits", SwapEditHandler.HandleAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("EditSwaps")
            .WithSummary("Changes wave, skills, weight, times or pins of many swaps at once.");
}
