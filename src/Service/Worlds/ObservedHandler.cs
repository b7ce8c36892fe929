using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="ObservedEndpoint"/>.</summary>
internal static class ObservedHandler
{
    private const int MostSwaps = 1000;

    internal static async Task<Results<Ok<List<RealLength>>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var rules = await db.Estimates.AsNoTracking().Where(e => e.Refresh == refresh).ToListAsync(cancel);
        return TypedResults.Ok(ObservedLengths.Of(await TimesAsync(db, refresh, cancel))
            .Select(o => new RealLength(
                o.Scope,
                o.Of,
                o.Swaps,
                o.BeforeMinutes,
                o.UnattendedMinutes,
                o.AfterMinutes,
                rules.Find(r => r.Scope == o.Scope && r.Of == o.Of) is { } rule ? WorldView.Seen(rule) : null)).ToList());
    }

    private static async Task<List<SwapTimes>> TimesAsync(YardDb db, string refresh, CancellationToken cancel)
    {
        var swaps = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh && s.AcceptedAt != null && s.SwappedAt != null)
            .OrderByDescending(s => s.AcceptedAt)
            .Take(MostSwaps)
            .Select(s => new { s.Id, s.Kind, s.NewModel, s.SwappedAt, s.RestoredAt, s.AcceptedAt, s.Template, s.TemplateVersion })
                .ToListAsync(cancel);
        var yaml = (await db.Templates.AsNoTracking()
            .Where(t => t.Refresh == refresh)
            .Select(t => new { t.Name, t.Version, t.Yaml })
            .ToListAsync(cancel))
            .ToDictionary(t => (t.Name, t.Version), t => t.Yaml);
        var times = new List<SwapTimes>();
        foreach (var some in swaps.Chunk(200))
        {
            var ids = some.Select(s => s.Id).ToList();
            var steps = (await db.Steps.AsNoTracking()
                .Where(s => ids.Contains(s.Swap))
                .Select(s => new { s.Swap, s.Key, At = s.StartedAt ?? s.At })
                .ToListAsync(cancel))
                .ToLookup(s => s.Swap);
            foreach (var swap in some)
            {
                var phases = TemplateStore.Read(yaml[(swap.Template, swap.TemplateVersion)]).Steps.ToDictionary(s => s.Key, s => s.Phase);
                DateTimeOffset? Earliest(Phase phase, DateTimeOffset from) =>
                    steps[swap.Id].Where(s => s.At >= from && phases.GetValueOrDefault(s.Key, Phase.Before) == phase)
                        .Select(s => (DateTimeOffset?)s.At).Min();
                if (Earliest(Phase.Swap, DateTimeOffset.MinValue) is not { } first) continue;
                var restored = swap.Kind.Restores() ? swap.RestoredAt : null;
                times.Add(new(
                    swap.Kind,
                    swap.NewModel,
                    first,
                    swap.SwappedAt!.Value,
                    restored,
                    Earliest(Phase.After, restored ?? swap.SwappedAt.Value),
                    swap.AcceptedAt!.Value));
            }
        }
        return times;
    }
}
