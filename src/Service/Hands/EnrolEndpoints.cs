using YardRelay.Service.Accounts;
using YardRelay.Service.Browsers;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>Enrols hands: a one-time code bound to one computer.</summary>
internal static class EnrolEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/refreshes/{refresh}/codes", EnrolHandlers.CodeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("MakeCode")
            .WithSummary("Makes a one-time code for the hand of one computer.")
            .WithMetadata(AnswersSecret.Yes);
        routes.MapPost("/hand/enrol", EnrolHandlers.EnrolAsync)
            .AllowAnonymous()
            .AlsoForPrograms()
            .AddEndpointFilter<HandProtocolFilter>()
            .WithName("EnrolHand")
            .WithSummary("A hand presents its code and gets its token. An earlier hand at the computer is replaced.")
            .WithMetadata(AnswersSecret.Yes);
    }
}
