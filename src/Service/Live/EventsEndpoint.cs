using YardRelay.Service.Accounts;

namespace YardRelay.Service.Live;

/// <summary>The live stream of a refresh: server-sent events whose ids are the ledger's numbers; progress has no id.</summary>
internal static class EventsEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/events", EventsHandler.HandleAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetEvents")
            .WithSummary("Server-sent events; Last-Event-ID resumes.")
            .Produces(200, contentType: "text/event-stream");
}
