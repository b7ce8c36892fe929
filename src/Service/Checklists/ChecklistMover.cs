using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>What a swap's move to another version of its checklist, or to another checklist, changes.</summary>
internal sealed class ChecklistMover
{
    private readonly SwapRow _swap;
    private readonly TemplateRow _target;
    private readonly ChecklistFacts _facts;

    private ChecklistMover(SwapRow swap, TemplateRow target, ChecklistFacts facts, IReadOnlyList<StepDifference> differences) =>
        (_swap, _target, _facts, Differences) = (swap, target, facts, differences);

    /// <summary>The steps that differ for this swap.</summary>
    public IReadOnlyList<StepDifference> Differences { get; }

    /// <summary>Looks, and changes nothing.</summary>
    public static async Task<Result<ChecklistMover>> LookAsync(YardDb db, SwapRow swap, TemplateRow target, CancellationToken cancel)
    {
        var then = TemplateStore.Read(target.Yaml);
        if (!then.IsFor(swap.Kind)) return new ChecklistKindProblem(target.Name, swap.Kind.ToString().ToLowerInvariant());
        var facts = await ChecklistFacts.ReadAsync(db, swap, cancel);
        var subject = then.AsksForPrograms ? await ChecklistFacts.SubjectAsync(db, swap, true, cancel) : facts.Subject;
        var byKey = facts.Steps.ToDictionary(s => s.Step.Key, s => s.State);
        return new ChecklistMover(
            swap, target, facts,
            TemplateChange.Between(facts.Template, then, subject, key => byKey.GetValueOrDefault(key, new StepState.Open())));
    }

    /// <summary>Moves it, unless parts of it are signed.</summary>
    public async Task<Problem?> TakeAsync(Change w, CancellationToken cancel)
    {
        if (await w.Db.SignOffs.AnyAsync(s => s.Swap == _swap.Id, cancel)) return new ChecklistFrozenProblem(_swap.Id);
        var (name, version) = (_swap.Template, _swap.TemplateVersion);
        await KindMove.MoveAsync(w, _swap, _facts, _target, Differences, cancel);
        w.Note(
            "checklist.moved",
            _swap.Id,
            $"{w.By} moved {_swap.Name} from {name} {version} to {_target.Name} {_target.Version}",
            new() { ["from"] = version, ["to"] = _target.Version, ["changed"] = Differences.Count });
        return null;
    }

    /// <summary>The wire's word for a change of a step.</summary>
    public static string Word(StepChangeKind what) => what switch
    {
        StepChangeKind.Added => "added",
        StepChangeKind.Dropped => "dropped",
        StepChangeKind.Reworded => "reworded",
        _ => "asks-anew",
    };
}
