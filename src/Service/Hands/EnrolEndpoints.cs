using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>Enrols hands, each by a one-time code bound to one computer; lists them, and withdraws them.</summary>
internal static class EnrolEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/refreshes/{refresh}/codes", EnrolHandlers.CodeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("MakeCode")
            .WithSummary("Makes a one-time code for the hand of one computer.")
            .WithMetadata(AnswersSecret.Yes);
        routes.MapGet("/refreshes/{refresh}/hands", HandHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListHands")
            .WithSummary("Hands that are enrolled, by the tag of their computer; q. Technicians see those at their sites.");
        routes.MapDelete("/refreshes/{refresh}/hands/{tag}", HandHandlers.WithdrawAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WithdrawHand")
            .WithSummary("The hand at a computer is none any more, and codes for it that nobody used are worth nothing.");
        routes.MapPost("/hand/enrol", EnrolHandlers.EnrolAsync)
            .AllowAnonymous()
            .AddEndpointFilter<HandProtocolFilter>()
            .WithName("EnrolHand")
            .WithSummary("A hand presents its code and gets its token. An earlier hand at the computer is replaced.")
            .WithMetadata(AnswersSecret.Yes);
    }
}
