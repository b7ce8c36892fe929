using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="SpareEndpoints"/>.</summary>
internal static class SpareHandlers
{
    internal static async Task<Ok<List<SpareSeen>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await SpareReader.ReadAsync(db, refresh, cancel));

    internal static async Task<Results<Ok<SpareSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string key, SpareWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("spare", key),
            wanted.Model?.Length > 100 ? new SpareModelProblem() : null,
            wanted.Trouble?.Length > 500 ? new SpareTroubleProblem() : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<SpareSeen>(refresh, async w =>
        {
            if (!await w.Db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == wanted.Site, cancel))
                return ServiceProblem.NotFound("site", wanted.Site);
            var there = await w.Db.Spares.FirstOrDefaultAsync(s => s.Refresh == refresh && s.Key == key, cancel);
            if (new[] { wanted.Site, there?.Site }.OfType<string>().FirstOrDefault(s => !user.MayWorkAt(s)) is { } elsewhere)
                return new SpareElsewhereProblem(key, elsewhere);
            if ((await w.Db.Swaps.Where(s => s.Refresh == refresh && (s.NewTag != null || s.OldTag != null))
                .Select(s => new { s.Id, s.Name, s.Site, s.NewTag, s.OldTag })
                .ToListAsync(cancel))
                .Find(s => string.Equals(s.NewTag, key, StringComparison.OrdinalIgnoreCase)
                    || string.Equals(s.OldTag, key, StringComparison.OrdinalIgnoreCase)) is { } taken)
                return new SpareTakenProblem(key, taken.Id, user.MayWorkAt(taken.Site) ? taken.Name : null);
            return await w.SetAsync("spare", w.Db.Spares.FirstOrDefaultAsync(
                s => s.Refresh == refresh && s.Key == key, cancel), () => new SpareRow { Refresh = refresh, Key = key, Site = "" },
                row => (row.Site, row.Model, row.Trouble) = (wanted.Site, Trimmed(wanted.Model), Trimmed(wanted.Trouble)),
                SpareReader.Seen,
                s => $"{s.Key} is a spare computer at {s.Site}{(s.Trouble is null ? "" : $", not given out: {s.Trouble}")}");
        }, cancel)).ToHttp();
    }

    private static string? Trimmed(string? text) => text?.Trim() is { Length: > 0 } some ? some : null;

    internal static Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh, "spare", w => w.Db.Spares.FirstOrDefaultAsync(s => s.Refresh == refresh && s.Key == key, cancel), s => s.Key, cancel);
}
