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

/// <summary>What the system itself can see about a swap.</summary>
public enum AutomaticFact
{
    /// <summary>A trip without open snags is in the depot and was verified since.</summary>
    StagedAndVerified,

    /// <summary>All of the parcel is on the new computer, read back.</summary>
    RestoredAndVerified,
}

/// <summary>How a step is done.</summary>
public abstract record StepWork
{
    private StepWork()
    {
    }

    /// <summary>A person says it is done.</summary>
    public sealed record Tick : StepWork;

    /// <summary>The asset tag read must be the expected one.</summary>
    /// <param name="New">True: the new computer's tag; false: the old one's.</param>
    public sealed record Scan(bool New) : StepWork;

    /// <summary>Done when the fact holds; nobody can tick it.</summary>
    public sealed record Automatic(AutomaticFact Fact) : StepWork;
}

/// <summary>One step of a template.</summary>
/// <param name="Key">Stable within the template: lower-case letters, digits and '-'.</param>
/// <param name="Marks">The station of the line that is reached when the step is done; null: none.</param>
/// <param name="Help">What to do, for who does not know; may be empty.</param>
public sealed record StepTemplate(string Key, string Title, Phase Phase, StepWork Work, Station? Marks, string Help);

/// <summary>A checklist template, one version of it.</summary>
/// <param name="Kinds">The kinds of swap it is for; empty: all.</param>
public sealed record ChecklistTemplate(string Name, IReadOnlyList<SwapKind> Kinds, IReadOnlyList<StepTemplate> Steps)
{
    /// <summary>The steps that a swap of that kind has: no scan of a computer that is not there, no restore where there is none.</summary>
    public IEnumerable<StepTemplate> For(SwapKind kind) => Steps.Where(s => s.Work switch
    {
        StepWork.Automatic { Fact: AutomaticFact.StagedAndVerified } => kind.Stages(),
        StepWork.Automatic => kind.Restores(),
        StepWork.Scan { New: true } => kind.NeedsNew() || kind == SwapKind.Reimage,
        StepWork.Scan => kind.NeedsOld(),
        _ => s.Phase != Phase.HandIn || kind.HandsIn(),
    });
}
