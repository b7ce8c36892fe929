using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.CarryLists;

/// <summary>The work behind <see cref="PlaceRuleEndpoints"/>.</summary>
internal static class PlaceRuleHandlers
{
    private const int MostCharacters = 256 * 1024;

    private static PlaceRulesSeen Seen(string? own) =>
        new(own, own is null ? 0 : PlaceRules.Read(own).Value.All.Count, PlaceRules.StandardText);

    internal static async Task<Results<Ok<PlaceRulesSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is { } row
            ? TypedResults.Ok(Seen(row.PlaceRules))
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Results<Ok<PlaceRulesSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, PlaceRulesWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (wanted.Yaml.Length > MostCharacters)
            return new PlacesSizeProblem(wanted.Yaml.Length, MostCharacters).ToHttp();
        var own = string.IsNullOrWhiteSpace(wanted.Yaml) ? null : wanted.Yaml;
        if (own is not null && PlaceRules.Read(own) is { IsOk: false } bad) return bad.Problems.ToHttp();
        return (await writer.WriteAsync<PlaceRulesSeen>(refresh, w =>
        {
            if (w.Refresh.PlaceRules == own) return Task.FromResult<Result<PlaceRulesSeen>>(Seen(own));
            w.Refresh.PlaceRules = own;
            var seen = Seen(own);
            w.Note(
                "places.set",
                null,
                own is null ? $"{w.By} took the refresh's own rules for places out" : $"{w.By} set {seen.Rules:#,0} own rules for places",
                new() { ["rules"] = seen.Rules });
            return Task.FromResult<Result<PlaceRulesSeen>>(seen);
        }, cancel)).ToHttp();
    }
}
