using System.Linq.Expressions;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Checklists;

/// <summary>What the conditions of steps can choose from, as the roster and the world have it.</summary>
internal static class ChoicesHandler
{
    private const int Most = 300;

    internal static async Task<Results<Ok<TemplateChoices>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel)) return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var (swaps, people) = (db.Swaps.Where(s => s.Refresh == refresh), db.People.Where(p => p.Refresh == refresh));
        var named = await db.Sites.AsNoTracking().Where(s => s.Refresh == refresh).ToDictionaryAsync(s => s.Key, s => s.Name, cancel);
        var sites = named.Keys.Union(await TextsAsync(swaps, s => s.Site, cancel)).Order(StringComparer.Ordinal).Take(Most);
        return TypedResults.Ok(new TemplateChoices(
            [.. sites.Select(s => new SiteChoice(s, named.GetValueOrDefault(s, s)))],
            await TextsAsync(swaps, s => s.Room, cancel),
            await TextsAsync(people, p => p.Department, cancel),
            await TextsAsync(people, p => p.Role, cancel),
            await TextsAsync(swaps, s => s.OldModel, cancel),
            await TextsAsync(swaps, s => s.NewModel, cancel),
            [.. TemplateReader.FactWords]));
    }

    private static async Task<IReadOnlyList<string>> TextsAsync<T>(
        IQueryable<T> rows, Expression<Func<T, string?>> of, CancellationToken cancel) =>
        [.. (await rows.Select(of).Where(t => t != null && t != "").Distinct().OrderBy(t => t).Take(Most).ToListAsync(cancel))
            .OfType<string>()];
}
