using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>The work behind <see cref="MoveEndpoint"/>.</summary>
internal static class MoveHandler
{
    internal static async Task<Results<Ok<ChecklistMoved>, ProblemHttpResult>> HandleAsync(
        SwapId swap, ChecklistMove wanted, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<ChecklistMoved>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            var (name, version) = (wanted.Template ?? row.Template, wanted.Version);
            if (await TemplateStore.FindAsync(w.Db, row.Refresh, name, version, cancel) is not { } target)
                return ServiceProblem.NotFound("checklist", version is null ? name : $"{name}, version {version}");
            if (!(await ChecklistMover.LookAsync(w.Db, row, target, cancel)).TryGet(out var mover, out var problem)) return problem;
            var moved = new ChecklistMoved(
                row.Template,
                row.TemplateVersion,
                target.Name,
                target.Version,
                [.. mover.Differences.Select(d => new StepMoved(d.Key, d.Title, ChecklistMover.Word(d.What), d.WasDealtWith))],
                !wanted.DryRun);
            if (wanted.DryRun || (row.Template, row.TemplateVersion) == (target.Name, target.Version)) return moved;
            return await mover.TakeAsync(w, cancel) is { } refused ? refused : moved;
        }, cancel)).ToHttp();
    }
}
