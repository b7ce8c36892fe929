namespace YardRelay.Core.Checklists;

/// <summary>What the system itself can see about a swap.</summary>
public enum AutomaticFact
{
    /// <summary>The old computer was looked at.</summary>
    Surveyed,

    /// <summary>A trip without open snags is in the depot and was verified since.</summary>
    StagedAndVerified,

    /// <summary>The closing trip ended.</summary>
    ClosingTripDone,

    /// <summary>All of the parcel is on the new computer, read back.</summary>
    RestoredAndVerified,

    /// <summary>Every folder's account adds up with nothing open, on both sides where something is restored.</summary>
    AccountClosed,

    /// <summary>A survey after the change found no cloud's folder on the old computer any more.</summary>
    SignedOut,

    /// <summary>A survey of the new computer found the programs that are asked for.</summary>
    ProgramsFound,

    /// <summary>A survey of the new computer found as much room as is asked for.</summary>
    FreeDisk,

    /// <summary>A passphrase of the person's own opens the key of their sealed parcel.</summary>
    PassphraseSet,
}

/// <summary>How a step is done.</summary>
public abstract record StepWork
{
    private StepWork()
    {
    }

    /// <summary>A technician says it is done.</summary>
    public sealed record Tick : StepWork;

    /// <summary>The person says so, and the technician writes down that they did.</summary>
    public sealed record Confirmation : StepWork;

    /// <summary>Something is written down.</summary>
    public sealed record Text : StepWork;

    /// <summary>A number is read off.</summary>
    /// <param name="Unit">Its unit, as it is written behind it; may be empty.</param>
    /// <param name="Least">No smaller one is taken; null: any.</param>
    /// <param name="Most">No larger one is taken; null: any.</param>
    public sealed record Number(string Unit, decimal? Least, decimal? Most) : StepWork;

    /// <summary>One of several answers.</summary>
    /// <param name="ByGrowth">One is proposed by how fast the files grow (<see cref="Upkeep"/>); then the most frequent comes
    /// first.</param>
    public sealed record Choice(IReadOnlyList<string> Options, bool ByGrowth = false) : StepWork;

    /// <summary>Done again and again until a result is reached; each run counts.</summary>
    /// <param name="Until">The result, as it is asked for.</param>
    public sealed record Again(string Until) : StepWork;

    /// <summary>Begun, left to itself, and ended: how long it takes is measured.</summary>
    /// <param name="IsRestart">It is a restart of the computer.</param>
    public sealed record Timed(bool IsRestart) : StepWork;

    /// <summary>The asset tag read must be the expected one.</summary>
    /// <param name="New">True: the new computer's tag; false: the old one's.</param>
    public sealed record Scan(bool New) : StepWork;

    /// <summary>A photo is taken.</summary>
    public sealed record Photo : StepWork;

    /// <summary>Done when the fact holds; nobody can tick it.</summary>
    /// <param name="LeastGigabytes">Of free disk: room that there must be, in 1,000,000,000 bytes.</param>
    public sealed record Automatic(AutomaticFact Fact, int LeastGigabytes = 0) : StepWork
    {
        /// <summary>
        /// Of programs: the ones that must be there; <c>*</c> stands for any characters. None: those of the old computer that the catalogue
        /// knows.
        /// </summary>
        public IReadOnlyList<string> Programs { get; init; } = [];
    }
}
