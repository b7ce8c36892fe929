using YardRelay.Service.Accounts;

namespace YardRelay.Service.Readiness;

/// <summary>The mail in the morning that says who is not ready.</summary>
internal static class MorningEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/ready/mail", MorningHandlers.GetAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("GetMorningMail")
            .WithSummary("To whom goes in the morning who is not ready for the next day with visits.");
        routes.MapPut("/refreshes/{refresh}/ready/mail", MorningHandlers.SetAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SetMorningMail")
            .WithSummary("Sets to whom it goes and from when on; no address: nobody.");
        routes.MapPost("/refreshes/{refresh}/ready/mail/sent", MorningHandlers.SendAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SendMorningMail")
            .WithSummary("Sends it now, to those who get it.");
    }
}
