using YardRelay.Service.Accounts;

namespace YardRelay.Service.Hands;

/// <summary>Who is enrolled at which computer.</summary>
internal static class HandEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/hands", HandHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListHands")
            .WithSummary("Hands that are enrolled, by the tag of their computer; q. Technicians see those at their sites.");
        routes.MapDelete("/refreshes/{refresh}/hands/{tag}", HandHandlers.WithdrawAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WithdrawHand")
            .WithSummary("The hand at a computer is none any more, and codes for it that nobody used are worth nothing.");
    }
}
