using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>New computers that no swap has: they stand in for one that is dead, wrong or late.</summary>
internal static class SpareEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/spares", ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListSpares")
            .WithSummary("Spare computers.");
        routes.MapPut("/refreshes/{refresh}/spares/{key}", PutAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("PutSpare")
            .WithSummary("Makes or changes a spare computer; its key is its asset tag.");
        routes.MapDelete("/refreshes/{refresh}/spares/{key}", DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropSpare")
            .WithSummary("Takes a spare computer out.");
    }

    public static SpareSeen Seen(SpareRow s) => new(s.Key, s.Model, s.Site, s.Trouble);

    private static async Task<Ok<List<SpareSeen>>> ListAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await ReadAsync(db, refresh, cancel));

    public static async Task<List<SpareSeen>> ReadAsync(YardDb db, string refresh, CancellationToken cancel) =>
        (await db.Spares.AsNoTracking()
            .Where(s => s.Refresh == refresh)
            .OrderBy(s => s.Trouble == null ? 0 : 1)
            .ThenBy(s => s.Site)
            .ThenBy(s => s.Key)
            .ToListAsync(cancel))
            .ConvertAll(Seen);

    private static async Task<Results<Ok<SpareSeen>, ProblemHttpResult>> PutAsync(
        string refresh, string key, SpareWanted wanted, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("spare", key),
            wanted.Model?.Length > 100 ? new("spare.model", "A model has at most 100 characters.") : null,
            wanted.Trouble?.Length > 500 ? new("spare.trouble", "What is wrong with it is said in at most 500 characters.") : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<SpareSeen>(refresh, async w =>
        {
            if (!await w.Db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == wanted.Site, cancel))
                return ServiceProblem.NotFound("site", wanted.Site);
            if ((await w.Db.Swaps.Where(s => s.Refresh == refresh && (s.NewTag != null || s.OldTag != null))
                .Select(s => new { s.Id, s.Name, s.NewTag, s.OldTag })
                .ToListAsync(cancel))
                .Find(s => string.Equals(s.NewTag, key, StringComparison.OrdinalIgnoreCase)
                    || string.Equals(s.OldTag, key, StringComparison.OrdinalIgnoreCase)) is { } taken)
                return ServiceProblem.Conflict("spare.taken", $"{key} belongs to the swap {taken.Id} of {taken.Name}, so it is no spare.");
            return await w.SetAsync("spare", w.Db.Spares.FirstOrDefaultAsync(
                s => s.Refresh == refresh && s.Key == key, cancel), () => new SpareRow { Refresh = refresh, Key = key, Site = "" },
                row => (row.Site, row.Model, row.Trouble) = (wanted.Site, Trimmed(wanted.Model), Trimmed(wanted.Trouble)),
                Seen,
                s => $"{s.Key} is a spare computer at {s.Site}{(s.Trouble is null ? "" : $", not given out: {s.Trouble}")}");
        }, cancel)).ToHttp();
    }

    private static string? Trimmed(string? text) => text?.Trim() is { Length: > 0 } some ? some : null;

    private static Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        string refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh, "spare", w => w.Db.Spares.FirstOrDefaultAsync(s => s.Refresh == refresh && s.Key == key, cancel), s => s.Key, cancel);
}
