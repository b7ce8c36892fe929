using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Checklists;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>A swap that becomes one of another kind, with the checklist of that kind.</summary>
internal static class KindMove
{
    /// <summary>Moves a swap of another kind than before to the checklist of that kind; steps that both have keep how they stand.</summary>
    public static async Task ToKindAsync(Change w, SwapRow row, ChecklistFacts facts, CancellationToken cancel)
    {
        var target = TemplateStore.For(await TemplateStore.NewestAsync(w.Db, row.Refresh, cancel), row.Kind);
        if (target.Name == row.Template) return;
        var byKey = facts.Steps.ToDictionary(s => s.Step.Key, s => s.State);
        await MoveAsync(
            w,
            row,
            facts,
            target,
            TemplateChange.Between(
                facts.Template,
                TemplateStore.Read(target.Yaml),
                facts.Subject with { Kind = row.Kind },
                key => byKey.GetValueOrDefault(key, new StepState.Open())),
            cancel);
    }

    internal static async Task MoveAsync(
        Change w,
        SwapRow row,
        ChecklistFacts facts,
        TemplateRow target,
        IReadOnlyList<StepDifference> differences,
        CancellationToken cancel)
    {
        foreach (var lost in differences.Where(d => d.What is StepChangeKind.AsksAnew or StepChangeKind.Dropped))
        {
            await w.Db.Steps.Where(s => s.Swap == row.Id && s.Key == lost.Key).ExecuteDeleteAsync(cancel);
            if (facts.Template.Steps.First(s => s.Key == lost.Key).Marks is { } station) SwapFacts.Reach(row, station, null);
        }
        (row.Template, row.TemplateVersion) = (target.Name, target.Version);
        row.ChecklistVersion++;
        w.WorldChanged();
    }
}
