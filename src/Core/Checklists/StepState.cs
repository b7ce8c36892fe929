namespace YardRelay.Core.Checklists;

/// <summary>How a step of one swap stands.</summary>
public abstract record StepState
{
    private StepState()
    {
    }

    /// <summary>Nobody has dealt with it.</summary>
    public sealed record Open : StepState;

    /// <summary>Begun and not ended, or run and not yet at its result.</summary>
    /// <param name="By">Who began it, or ran it last.</param>
    /// <param name="Since">When it was begun.</param>
    /// <param name="Runs">How often it was run; 0 for what is begun once.</param>
    public sealed record UnderWay(string By, DateTimeOffset Since, int Runs) : StepState;

    /// <summary>Done by a person, or seen by the system (then <paramref name="By"/> is <c>the system</c>).</summary>
    /// <param name="Value">What was answered; null where nothing is asked.</param>
    /// <param name="StartedAt">When it was begun, where that was told.</param>
    /// <param name="Runs">How often it was run; 0 for what is done once.</param>
    public sealed record Done(string By, DateTimeOffset At, string? Value = null, DateTimeOffset? StartedAt = null, int Runs = 0)
        : StepState;

    /// <summary>A person says that it does not apply here, and why.</summary>
    public sealed record NotApplicable(string By, DateTimeOffset At, string Reason) : StepState;

    /// <summary>Whether it still waits for somebody.</summary>
    public bool IsOpen => this is Open or UnderWay;
}

/// <summary>What somebody says about a step.</summary>
public abstract record StepClaim
{
    private StepClaim()
    {
    }

    /// <summary>It is done.</summary>
    public sealed record Ticked : StepClaim;

    /// <summary>It is begun, and goes on by itself.</summary>
    public sealed record Started : StepClaim;

    /// <summary>It was run once more, without its result.</summary>
    public sealed record Ran : StepClaim;

    /// <summary>This was answered.</summary>
    public sealed record Answered(string Value) : StepClaim;

    /// <summary>This tag was read.</summary>
    public sealed record Scanned(string Tag) : StepClaim;

    /// <summary>This photo was taken.</summary>
    /// <param name="Sha256">Of the photo as it is kept, in hexadecimal.</param>
    public sealed record Photographed(string Sha256) : StepClaim;

    /// <summary>It does not apply.</summary>
    public sealed record Inapplicable(string Reason) : StepClaim;

    /// <summary>It was claimed in error and is open again.</summary>
    public sealed record Reopened : StepClaim;
}
