namespace YardRelay.Contracts;

/// <summary>What taking one row does or would do.</summary>
/// <param name="Change">added, changed, or gone (in the refresh, not in this roster; left alone).</param>
public sealed record RosterChange(string Swap, string Person, string Change, string What);

/// <summary>A row that was not taken, with all that is needed to mend it.</summary>
public sealed record RosterRejected(int Line, string Column, string Value, string Reason, string Remedy);

/// <summary>A column of the file and the column of the roster that it is read as.</summary>
/// <param name="Column">Empty: it is left out.</param>
/// <param name="By">name (it is called so), hand (somebody matched it), guess, or none.</param>
public sealed record ColumnMatch(string Head, string Column, string By, IReadOnlyList<string> Samples);

/// <summary>What taking a roster did, or would do in a dry run.</summary>
/// <param name="Number">Number of the taking, to undo it; 0: nothing was changed.</param>
/// <param name="Changes">The first 1,000.</param>
/// <param name="Rejected">Rows with faults, the first 1,000: in a dry run, or where the good rows alone were taken.</param>
public sealed record RosterTaken(
    bool DryRun, int Number, int Rows, int Added, int Changed, int Same, int Gone, IReadOnlyList<RosterChange> Changes,
    IReadOnlyList<RosterRejected> Rejected, IReadOnlyList<ColumnMatch> Columns);

/// <summary>How far a roster that is being taken has come.</summary>
/// <param name="Stage">waiting (nothing is being read under that name), reading, comparing, or saving.</param>
/// <param name="Rows">Rows done in this stage, of <paramref name="Of"/>.</param>
public sealed record RosterProgress(string Stage, int Rows, int Of);

/// <summary>A taking in the past.</summary>
/// <param name="WhyNotUndone">Why it cannot be undone any more; null: it can.</param>
public sealed record TakingSeen(int Number, string By, DateTimeOffset At, int Added, int Changed, string? WhyNotUndone);
