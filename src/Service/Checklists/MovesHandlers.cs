using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>The work behind <see cref="MovesEndpoints"/>.</summary>
internal static class MovesHandlers
{
    /// <summary>So many are moved in one change, which nobody else waits for long.</summary>
    private const int MostMoved = 100;

    /// <summary>So many are looked at where nothing is changed.</summary>
    private const int MostLooked = 500;

    internal static async Task<Results<Ok<IReadOnlyList<TemplateUse>>, ProblemHttpResult>> UsesAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel)
    {
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel)) return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var counts = await Open(db, refresh)
            .Select(s => new
            {
                s.Template,
                s.TemplateVersion,
                IsSigned = db.SignOffs.Any(o => o.Swap == s.Id),
                IsBegun = db.Steps.Any(t => t.Swap == s.Id),
            })
            .GroupBy(s => new { s.Template, s.TemplateVersion, s.IsSigned, s.IsBegun })
            .Select(g => new { g.Key, Count = g.Count() })
            .ToListAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<TemplateUse>>(
        [
            .. counts.GroupBy(c => (c.Key.Template, c.Key.TemplateVersion))
                .OrderBy(g => g.Key.Template, StringComparer.Ordinal)
                .ThenByDescending(g => g.Key.TemplateVersion)
                .Select(g => new TemplateUse(
                    g.Key.Template,
                    g.Key.TemplateVersion,
                    g.Where(c => !c.Key.IsSigned && !c.Key.IsBegun).Sum(c => c.Count),
                    g.Where(c => !c.Key.IsSigned && c.Key.IsBegun).Sum(c => c.Count),
                    g.Where(c => c.Key.IsSigned).Sum(c => c.Count))),
        ]);
    }

    internal static async Task<Results<Ok<ChecklistsMoved>, ProblemHttpResult>> MoveAsync(
        RefreshKey refresh, ChecklistsMove wanted, Writer writer, CancellationToken cancel) =>
        (await writer.WriteAsync<ChecklistsMoved>(refresh, async w =>
        {
            if (await TemplateStore.FindAsync(w.Db, refresh, wanted.Template, wanted.Version, cancel) is not { } target)
                return ServiceProblem.NotFound(
                    "checklist", wanted.Version is null ? wanted.Template : $"{wanted.Template}, version {wanted.Version}");
            var kinds = TemplateStore.Read(target.Yaml).Kinds;
            var older = Open(w.Db, refresh)
                .Where(s => s.Template == target.Name && s.TemplateVersion < target.Version
                    && !w.Db.SignOffs.Any(o => o.Swap == s.Id)
                    && (wanted.BegunToo || !w.Db.Steps.Any(t => t.Swap == s.Id)));
            // Those whose kind the newer version is not for keep theirs.
            var those = kinds.Count == 0 ? older : older.Where(s => kinds.Contains(s.Kind));
            var (total, kept) = (await those.CountAsync(cancel), kinds.Count == 0 ? 0 : await older.CountAsync(cancel));
            var steps = new Dictionary<(string Key, string What), (string Title, int Swaps, int DealtWith)>();
            var rows = await those.OrderBy(s => s.Id).Take(wanted.DryRun ? MostLooked : MostMoved).ToListAsync(cancel);
            foreach (var row in rows)
            {
                if (!(await ChecklistMover.LookAsync(w.Db, row, target, cancel)).TryGet(out var mover, out var problem)) return problem;
                foreach (var step in mover.Differences)
                {
                    var key = (step.Key, ChecklistMover.Word(step.What));
                    var (_, swaps, dealt) = steps.GetValueOrDefault(key);
                    steps[key] = (step.Title, swaps + 1, dealt + (step.WasDealtWith ? 1 : 0));
                }
                if (!wanted.DryRun && await mover.TakeAsync(w, cancel) is { } refused) return refused;
            }
            return new ChecklistsMoved(
                target.Name, target.Version, rows.Count, total - rows.Count, kinds.Count == 0 ? 0 : kept - total,
                [.. steps.Select(s => new StepMovedInMany(s.Key.Key, s.Value.Title, s.Key.What, s.Value.Swaps, s.Value.DealtWith))],
                !wanted.DryRun);
        }, cancel)).ToHttp();

    private static IQueryable<SwapRow> Open(YardDb db, string refresh) =>
        db.Swaps.Where(s => s.Refresh == refresh && s.CalledOffAt == null && s.AcceptedAt == null);
}
