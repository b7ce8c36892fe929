using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Checklists;
using YardRelay.Records;
using YardRelay.Service.Checklists;

namespace YardRelay.Service.Readiness;

/// <summary>
/// The steps of many swaps together, as far as somebody must say that they are done; what the system sees by itself is left out.
/// </summary>
internal static class StepsBefore
{
    /// <summary>By the id of each swap.</summary>
    public static async Task<IReadOnlyDictionary<string, IReadOnlyList<StepNow>>> ReadAsync(
        YardDb db, string refresh, List<SwapRow> swaps, IReadOnlyDictionary<string, PersonRow> people, CancellationToken cancel)
    {
        var ids = swaps.ConvertAll(s => s.Id);
        var rows = (await db.Steps.AsNoTracking().Where(s => ids.Contains(s.Swap)).ToListAsync(cancel)).ToLookup(s => s.Swap);
        var depots = await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh).OrderBy(d => d.Key).ToListAsync(cancel);
        var steps = new Dictionary<string, IReadOnlyList<StepNow>>();
        foreach (var swap in swaps)
        {
            var template = await TemplateStore.GetAsync(db, swap, cancel);
            var person = people.GetValueOrDefault(swap.Person);
            var depot = swap.Depot is null ? depots.FirstOrDefault() : depots.Find(d => d.Key == swap.Depot);
            // Only a template that asks for programs needs the inventory, and then it is read for each.
            var subject = template.AsksForPrograms
                ? await ChecklistFacts.SubjectAsync(db, swap, true, cancel)
                : new(
                    swap.Kind, swap.Site, swap.Room, person?.Department, swap.OldModel, swap.NewModel, null, person?.Role,
                    swap.OldPlatform, swap.NewPlatform, depot?.SealTo.Count > 0);
            var mine = rows[swap.Id].ToDictionary(r => r.Key);
            StepState StateOf(StepTemplate step) =>
                step.Work is StepWork.Automatic ? new StepState.Open() : ChecklistFacts.StateOf(mine.GetValueOrDefault(step.Key));
            steps[swap.Id] = [.. template.For(subject, StateOf)
                .Where(s => s.Step.Work is not StepWork.Automatic)];
        }
        return steps;
    }
}
