using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>What is published, for calendars and spreadsheets: of the refresh, a site or a technician.</summary>
internal static class FeedEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/plan/export", FeedHandlers.ExportAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ExportPlan")
            .WithSummary("The published appointments as form=ics, csv or xlsx; of one site or technician if asked.");
        routes.MapPost("/refreshes/{refresh}/feeds", FeedHandlers.MakeAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("MakeFeed")
            .WithSummary(
                "An address that a calendar program can subscribe to. Who has it can read these appointments, until it is withdrawn.")
            .WithMetadata(AnswersSecret.Yes);
        routes.MapGet("/refreshes/{refresh}/feeds", FeedHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListFeeds")
            .WithSummary("Addresses that calendar programs read at, the newest first: a coordinator sees all, others their own.");
        routes.MapDelete("/refreshes/{refresh}/feeds/{feed}", FeedHandlers.EndAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("EndFeed")
            .WithSummary("Withdraws one: whoever reads at it finds nothing from then on.");
        // The key in the address is the permission: calendar programs cannot sign in.
        routes.MapGet("/feeds/{key}", FeedHandlers.ReadAsync).AllowAnonymous()
            .WithName("ReadFeed")
            .WithSummary("A calendar that was subscribed to (text/calendar).");
    }
}
