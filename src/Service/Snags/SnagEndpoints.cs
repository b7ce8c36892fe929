using YardRelay.Service.Accounts;

namespace YardRelay.Service.Snags;

/// <summary>Snags across all swaps: find them, give them up one by one or many at once.</summary>
internal static class SnagEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/snags", SnagHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListSnags")
            .WithSummary("Snags of all swaps, the oldest first: end (open, waived, retried), kind, site, side (old, new), find (q).");
        routes.MapPost("/refreshes/{refresh}/waivers", SnagHandlers.WaiveManyAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WaiveSnags")
            .WithSummary("Gives up several files with one reason.");
        routes.MapPost("/snags/{snag}/source", SnagHandlers.AnswerAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("AnswerSourceDoubt")
            .WithSummary("Says what a source is that did not look like what was carried before; the next trip goes on by it.");
        routes.MapPost("/snags/{snag}/waiver", SnagHandlers.WaiveAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WaiveSnag")
            .WithSummary("Gives a file up, with a reason that stays.");
    }
}
