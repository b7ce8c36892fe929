using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Checklists;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Checklists;

/// <summary>What a swap's checklist is computed from.</summary>
internal sealed record ChecklistFacts(
    SwapRow Swap,
    ChecklistTemplate Template,
    StepSubject Subject,
    IReadOnlyDictionary<string, StepRow> Rows,
    DateTimeOffset? ClosedAt,
    SeenOfComputers Seen)
{
    public static async Task<ChecklistFacts> ReadAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        var template = await TemplateStore.GetAsync(db, swap, cancel);
        var rows = await db.Steps.AsNoTracking().Where(s => s.Swap == swap.Id).ToDictionaryAsync(s => s.Key, cancel);
        var closed = await db.Orders.AsNoTracking()
            .Where(o => o.Swap == swap.Id && o.Kind == OrderNames.ClosingTrip && o.State == OrderStates.Done)
            .Select(o => o.EndedAt)
            .ToListAsync(cancel);
        return new(
            swap,
            template,
            await SubjectAsync(db, swap, template.AsksForPrograms, cancel),
            rows,
            closed.Max(),
            await SeenOfComputers.ReadAsync(db, swap, template, cancel));
    }

    public static async Task<StepSubject> SubjectAsync(YardDb db, SwapRow swap, bool programs, CancellationToken cancel)
    {
        var person = await db.People.AsNoTracking()
            .Where(p => p.Refresh == swap.Refresh && p.Key == swap.Person)
            .Select(p => new { p.Department, p.Role })
            .FirstOrDefaultAsync(cancel);
        var found = programs
            ? KeptInventory.Of(await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel))?.Found.Computer.Programs
            : null;
        return new(
            swap.Kind, swap.Site, swap.Room, person?.Department, swap.OldModel, swap.NewModel,
            found is null ? null : [.. found.Select(p => p.Name)], person?.Role, swap.OldPlatform, swap.NewPlatform,
            await IsSealedAsync(db, swap, cancel));
    }

    /// <summary>Whether the swap's parcel is sealed, or will be: as its depot says, else the refresh's first one.</summary>
    public static async Task<bool> IsSealedAsync(YardDb db, SwapRow swap, CancellationToken cancel) =>
        await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == swap.Refresh && (swap.Depot == null || d.Key == swap.Depot))
            .OrderBy(d => d.Key)
            .Select(d => d.SealTo)
            .FirstOrDefaultAsync(cancel) is { Count: > 0 };

    /// <summary>The steps of the swap, each with how it stands.</summary>
    public IReadOnlyList<StepNow> Steps => Template.For(Subject, StateOf);

    public StepState StateOf(StepTemplate step)
    {
        if (step.Work is StepWork.Automatic { Fact: AutomaticFact.ClosingTripDone } && ClosedAt is null && Swap.OldDiedAt is { } died)
            return new StepState.NotApplicable("the system", died, "The old computer's disk died.");
        if (step.Work is StepWork.Automatic { Fact: var fact } work)
            return (fact switch
            {
                AutomaticFact.Surveyed => Swap.SurveyedAt,
                AutomaticFact.StagedAndVerified => Swap.StagedAt,
                AutomaticFact.ClosingTripDone => ClosedAt,
                AutomaticFact.RestoredAndVerified => Swap.RestoredAt,
                _ => Seen.Since(work),
            }) is { } at ? new StepState.Done("the system", at) : new StepState.Open();
        return StateOf(Rows.GetValueOrDefault(step.Key));
    }

    public static StepState StateOf(StepRow? row) => row?.State switch
    {
        "done" => new StepState.Done(row.By, row.At, row.Value, row.StartedAt, row.Runs),
        "under-way" => new StepState.UnderWay(row.By, row.StartedAt ?? row.At, row.Runs),
        "not-applicable" => new StepState.NotApplicable(row.By, row.At, row.Reason ?? ""),
        _ => new StepState.Open(),
    };

    /// <summary>The record of a state; null: nothing is kept of an open step.</summary>
    public static StepRow? RowOf(string swap, string key, StepState state, DateTimeOffset now) => state switch
    {
        StepState.Done done =>
            new()
            {
                Swap = swap,
                Key = key,
                State = "done",
                By = done.By,
                At = done.At,
                Value = done.Value,
                StartedAt = done.StartedAt,
                Runs = done.Runs
            },
        StepState.UnderWay going =>
            new() { Swap = swap, Key = key, State = "under-way", By = going.By, At = now, StartedAt = going.Since, Runs = going.Runs },
        StepState.NotApplicable no =>
            new() { Swap = swap, Key = key, State = "not-applicable", By = no.By, At = no.At, Reason = no.Reason },
        _ => null,
    };
}
