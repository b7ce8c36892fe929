using YardRelay.Service.Accounts;

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
            .WithSummary("An address that a calendar program can subscribe to. Who has it can read these appointments.");
        // The key in the address is the permission: calendar programs cannot sign in.
        routes.MapGet("/feeds/{key}", FeedHandlers.ReadAsync).AllowAnonymous()
            .WithName("ReadFeed")
            .WithSummary("A calendar that was subscribed to (text/calendar).");
    }
}
