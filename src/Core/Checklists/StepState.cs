namespace YardRelay.Core.Checklists;

/// <summary>How a step of one swap stands.</summary>
public abstract record StepState
{
    private StepState()
    {
    }

    /// <summary>Nobody has dealt with it.</summary>
    public sealed record Open : StepState;

    /// <summary>Done by a person, or seen by the system (then <paramref name="By"/> is <c>the system</c>).</summary>
    public sealed record Done(string By, DateTimeOffset At) : StepState;

    /// <summary>A person says that it does not apply here, and why.</summary>
    public sealed record NotApplicable(string By, DateTimeOffset At, string Reason) : StepState;
}

/// <summary>What somebody says about a step.</summary>
public abstract record StepClaim
{
    private StepClaim()
    {
    }

    /// <summary>It is done.</summary>
    public sealed record Ticked : StepClaim;

    /// <summary>This tag was read.</summary>
    public sealed record Scanned(string Tag) : StepClaim;

    /// <summary>It does not apply.</summary>
    public sealed record Inapplicable(string Reason) : StepClaim;

    /// <summary>It was claimed in error and is open again.</summary>
    public sealed record Reopened : StepClaim;
}

/// <summary>Decides about claims. Facts before ticks: an automatic step takes none.</summary>
public static class StepRule
{
    /// <summary>The state after a claim, or why it cannot be.</summary>
    /// <param name="expectedTag">Tag of the computer that a scan must read; null where the swap has none.</param>
    public static Result<StepState> Claim(StepTemplate step, StepClaim claim, string? expectedTag, string by, DateTimeOffset now) => (step.Work, claim) switch
    {
        (StepWork.Automatic, _) => new Problem("step.automatic", $"'{step.Title}' is checked by the system and cannot be set by a person. It is done as soon as the fact is there."),
        (_, StepClaim.Inapplicable { Reason: var why }) when string.IsNullOrWhiteSpace(why) => new Problem("step.reason", $"'{step.Title}' can only be not applicable with a reason. Say why."),
        (_, StepClaim.Inapplicable { Reason.Length: > 500 }) => new Problem("step.reason", "The reason is longer than 500 characters. Shorten it."),
        (_, StepClaim.Inapplicable { Reason: var why }) => new StepState.NotApplicable(by, now, why.Trim()),
        (_, StepClaim.Reopened) => new StepState.Open(),
        (StepWork.Tick, StepClaim.Ticked) => new StepState.Done(by, now),
        (StepWork.Tick, StepClaim.Scanned) => new Problem("step.kind", $"'{step.Title}' is ticked, not scanned."),
        (StepWork.Scan, StepClaim.Ticked) => new Problem("step.kind", $"'{step.Title}' needs the tag of the computer. Scan or type it."),
        (StepWork.Scan { New: var isNew }, StepClaim.Scanned { Tag: var tag }) => string.Equals(tag.Trim(), expectedTag, StringComparison.OrdinalIgnoreCase)
            ? new StepState.Done(by, now)
            : new Problem("step.wrong-computer", $"Wrong computer: {(tag.Trim().Length == 0 ? "nothing" : tag.Trim())} was read, and the {(isNew ? "new" : "old")} computer of this swap is {expectedTag ?? "not known"}. Look at the label again; do not go on with this one."),
        _ => throw new System.Diagnostics.UnreachableException(),
    };
}
