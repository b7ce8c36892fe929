using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Service.Accounts;
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
            var target = await w.Db.Templates.AsNoTracking()
                .Where(t => t.Refresh == row.Refresh && t.Name == name && (version == null || t.Version == version))
                .OrderByDescending(t => t.Version)
                .FirstOrDefaultAsync(cancel);
            if (target is null) return ServiceProblem.NotFound("checklist", version is null ? name : $"{name}, version {version}");
            var then = TemplateStore.Read(target.Yaml);
            if (!then.IsFor(row.Kind))
                return new ChecklistKindProblem(name, row.Kind.ToString().ToLowerInvariant());
            var facts = await ChecklistFacts.ReadAsync(w.Db, row, cancel);
            var subject = then.AsksForPrograms ? await ChecklistFacts.SubjectAsync(w.Db, row, true, cancel) : facts.Subject;
            var byKey = facts.Steps.ToDictionary(s => s.Step.Key, s => s.State);
            var differences = TemplateChange.Between(facts.Template, then, subject, key =>
                byKey.GetValueOrDefault(key, new StepState.Open()));
            var moved = new ChecklistMoved(
                row.Template,
                row.TemplateVersion,
                target.Name,
                target.Version,
                [.. differences.Select(d => new StepMoved(
                    d.Key,
                    d.Title,
                    d.What switch
                    {
                        StepChangeKind.Added => "added",
                        StepChangeKind.Dropped => "dropped",
                        StepChangeKind.Reworded => "reworded",
                        _ => "asks-anew"
                    },
                    d.WasDealtWith))],
                !wanted.DryRun);
            if (wanted.DryRun || (row.Template, row.TemplateVersion) == (target.Name, target.Version)) return moved;
            if (await w.Db.SignOffs.AnyAsync(s => s.Swap == swap, cancel))
                return new ChecklistFrozenProblem(swap);
            await KindMove.MoveAsync(w, row, facts, target, differences, cancel);
            w.Note(
                "checklist.moved",
                swap,
                $"{w.By} moved {row.Name} from {moved.FromTemplate} {moved.FromVersion} to {moved.ToTemplate} {moved.ToVersion}",
                new() { ["from"] = moved.FromVersion, ["to"] = moved.ToVersion, ["changed"] = differences.Count });
            return moved;
        }, cancel)).ToHttp();
    }
}
