namespace YardRelay.Core.Checklists;

/// <summary>What a newer version of a template does to a step of a swap.</summary>
public enum StepChangeKind
{
    /// <summary>It is new.</summary>
    Added,

    /// <summary>It is not there any more; what was said about it stays in the ledger.</summary>
    Dropped,

    /// <summary>It reads otherwise, and what was said about it still counts.</summary>
    Reworded,

    /// <summary>It asks for something else, and is open again.</summary>
    AsksAnew,
}

/// <summary>One step that a newer version changes.</summary>
/// <param name="Title">As it will read; of a dropped one, as it read.</param>
/// <param name="WasDealtWith">Somebody had dealt with it, and that no longer counts.</param>
public sealed record StepDifference(string Key, string Title, StepChangeKind What, bool WasDealtWith);

/// <summary>What moves a swap from one version of a template to another.</summary>
public static class TemplateChange
{
    /// <summary>The steps that differ for this swap, in the order of the newer version, dropped ones last.</summary>
    /// <param name="stateOf">How a step stands now, by its key.</param>
    public static IReadOnlyList<StepDifference> Between(
        ChecklistTemplate now, ChecklistTemplate then, StepSubject subject, Func<string, StepState> stateOf)
    {
        var before = now.For(subject, s => stateOf(s.Key)).ToDictionary(s => s.Step.Key);
        var after = then.For(subject, s =>
            before.TryGetValue(s.Key, out var old) && SameWork(old.Step.Work, s.Work) ? old.State : new StepState.Open());
        var differences = new List<StepDifference>();
        foreach (var (step, _) in after)
        {
            if (!before.TryGetValue(step.Key, out var old)) differences.Add(new(step.Key, step.Title, StepChangeKind.Added, false));
            else if (!SameWork(old.Step.Work, step.Work))
                differences.Add(new(step.Key, step.Title, StepChangeKind.AsksAnew, !old.State.IsOpen));
            else if (old.Step.Title != step.Title || old.Step.Help != step.Help || old.Step.Phase != step.Phase)
                differences.Add(new(step.Key, step.Title, StepChangeKind.Reworded, false));
        }
        var kept = after.Select(s => s.Step.Key).ToHashSet();
        differences.AddRange(before.Values.Where(s => !kept.Contains(s.Step.Key))
            .Select(s => new StepDifference(s.Step.Key, s.Step.Title, StepChangeKind.Dropped, !s.State.IsOpen)));
        return differences;
    }

    /// <summary>Whether an answer to the one is an answer to the other.</summary>
    public static bool SameWork(StepWork a, StepWork b) => (a, b) switch
    {
        (StepWork.Choice x, StepWork.Choice y) => x.Options.SequenceEqual(y.Options),
        (StepWork.Automatic x, StepWork.Automatic y) => x.Fact == y.Fact,
        _ => a == b,
    };
}
