namespace YardRelay.Contracts;

/// <summary>One thing to do in a technician's round.</summary>
/// <param name="Part">bench, first, go-on, back, or return for a return visit.</param>
/// <param name="Start">When it begins as things stand.</param>
/// <param name="Promised">What the person was told; null: nobody was told a time.</param>
/// <param name="LateMinutes">How long somebody waits beyond what was promised.</param>
/// <param name="Words">What there is to do, in a sentence.</param>
/// <param name="Step">Key of the next open step; null: none.</param>
public sealed record RoundTurnSeen(
    string Swap, string Name, string Site, string? Room, string Part, DateTimeOffset Start, DateTimeOffset End, DateTimeOffset? Promised,
    int LateMinutes, string Words, string? Step, string? StepTitle, SignSeen Sign);

/// <summary>What goes on by itself meanwhile.</summary>
/// <param name="Until">When it should end; null: nobody can tell.</param>
public sealed record RoundAlone(
    string Swap, string Name, string Site, string? Room, string Words, DateTimeOffset Since, DateTimeOffset? Until, MovingSeen? Moving);

/// <summary>A technician's round over all their swaps of a day.</summary>
/// <param name="Turns">In the order in which they come; the first is what to do now.</param>
/// <param name="Over">Swaps of the day that want nothing more of the technician.</param>
public sealed record RoundSeen(
    string Technician, string Name, DateOnly Day, DateTimeOffset Now, IReadOnlyList<RoundTurnSeen> Turns, IReadOnlyList<RoundAlone> Alone,
    int Over);

/// <summary>Passes a swap to another technician.</summary>
/// <param name="To">Key of a technician.</param>
/// <param name="Note">What they must know.</param>
/// <param name="DryRun">Only says what would change.</param>
public sealed record HandoverWanted(string To, string Note, bool DryRun = false);

/// <summary>One technician passed a swap to another.</summary>
/// <param name="Changes">Whose appointments change by it, and how, in sentences.</param>
/// <param name="Done">Whether it was done, and not only looked at.</param>
public sealed record HandoverSeen(
    string Swap, string Name, string From, string To, string Note, string By, DateTimeOffset At, IReadOnlyList<string> Changes,
    bool Done = true);

/// <summary>Passes the rest of a technician's day to others.</summary>
/// <param name="To">Keys of technicians, at least one.</param>
/// <param name="DryRun">Only says what would become of each.</param>
public sealed record DayHandoverWanted(IReadOnlyList<string> To, string Note, bool DryRun = false);

/// <summary>What became of one swap of a day that was handed over.</summary>
/// <param name="To">Name of who has it now; null: nobody of them, and the words say what stands.</param>
public sealed record DayHandoverLine(string Swap, string Name, string? To, DateTimeOffset? Was, DateTimeOffset? Start, string Words);

/// <summary>What became of a day that was handed over.</summary>
public sealed record DayHandoverSeen(string Technician, string Name, bool Done, IReadOnlyList<DayHandoverLine> Swaps);
