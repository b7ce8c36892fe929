using YardRelay.Core.Swaps;

namespace YardRelay.Core.Checklists;

/// <summary>When in a swap a step belongs.</summary>
public enum Phase
{
    /// <summary>Before the appointment.</summary>
    Before,

    /// <summary>At the appointment, until the new computer takes over.</summary>
    Swap,

    /// <summary>At the new computer.</summary>
    After,

    /// <summary>The old computer's end.</summary>
    HandIn,
}

/// <summary>One step of a template.</summary>
/// <param name="Key">Stable within the template: lower-case letters, digits and '-'.</param>
/// <param name="Marks">The station of the line that is reached when the step is done; null: none.</param>
/// <param name="Help">What to do, for who does not know: Markdown; may be empty.</param>
/// <param name="When">Where the step is needed; null: everywhere.</param>
/// <param name="IsByPerson">The person does it and says so on their own page; a technician may write down that they did.</param>
/// <param name="IsOnNew">It is done to the new computer: where another one takes its place, it is to be done again.</param>
public sealed record StepTemplate(
    string Key, string Title, Phase Phase, StepWork Work, Station? Marks, string Help, StepCondition? When = null, bool IsOnNew = false,
    bool IsByPerson = false);

/// <summary>A checklist template, one version of it.</summary>
/// <param name="Kinds">The kinds of swap it is for; empty: all.</param>
public sealed record ChecklistTemplate(string Name, IReadOnlyList<SwapKind> Kinds, IReadOnlyList<StepTemplate> Steps)
{
    /// <summary>Whether a template is for a kind of swap.</summary>
    public bool IsFor(SwapKind kind) => Kinds.Count == 0 || Kinds.Contains(kind);

    /// <summary>Whether a condition asks for the programs that a survey found.</summary>
    public bool AsksForPrograms => Steps.Any(s => s.When is { Programs.Count: > 0 });

    /// <summary>
    /// The steps that a swap has, each with how it stands: those whose condition holds, and no scan of a computer that is not there, no
    /// restore where there is none.
    /// A condition looks at earlier steps only, so one way through is enough.
    /// </summary>
    /// <param name="subject">What is known of the swap.</param>
    /// <param name="stateOf">How a step stands.</param>
    public IReadOnlyList<StepNow> For(StepSubject subject, Func<StepTemplate, StepState> stateOf)
    {
        var steps = new List<StepNow>();
        var states = new Dictionary<string, StepState>(StringComparer.Ordinal);
        foreach (var step in Steps)
        {
            if (!Has(subject, step) || step.When?.Holds(subject, states) == false) continue;
            states[step.Key] = stateOf(step);
            steps.Add(new(step, states[step.Key]));
        }
        return steps;
    }

    private static bool Has(StepSubject subject, StepTemplate step) =>
        Has(subject.Kind, step) && (subject.IsSealed || step.Work is not StepWork.Automatic { Fact: AutomaticFact.PassphraseSet });

    private static bool Has(SwapKind kind, StepTemplate step) => step.Work switch
    {
        StepWork.Automatic { Fact: AutomaticFact.StagedAndVerified or AutomaticFact.ClosingTripDone } => kind.Stages(),
        StepWork.Automatic { Fact: AutomaticFact.RestoredAndVerified } => kind.Restores(),
        StepWork.Automatic { Fact: AutomaticFact.Surveyed or AutomaticFact.SignedOut } => kind.NeedsOld(),
        StepWork.Automatic { Fact: AutomaticFact.ProgramsFound or AutomaticFact.FreeDisk } => kind.NeedsNew() || kind == SwapKind.Reimage,
        StepWork.Automatic { Fact: AutomaticFact.PassphraseSet } => kind.Stages(),
        StepWork.Automatic { Fact: AutomaticFact.AccountClosed } => kind.Stages() || kind.Restores(),
        StepWork.Scan { New: true } => kind.NeedsNew() || kind == SwapKind.Reimage,
        StepWork.Scan => kind.NeedsOld(),
        _ => step.Phase != Phase.HandIn || kind.HandsIn(),
    };
}

/// <summary>A step with how it stands.</summary>
public sealed record StepNow(StepTemplate Step, StepState State)
{
    /// <summary>It asks for the closing trip, and none is made: what changed since the last trip is at the old computer and nowhere else.
    /// </summary>
    public bool IsOpenClosing => State.IsOpen && Step.Work is StepWork.Automatic { Fact: AutomaticFact.ClosingTripDone };
}
