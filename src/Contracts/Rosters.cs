namespace YardRelay.Contracts;

/// <summary>What taking one row does or would do.</summary>
/// <param name="Change">added, changed, same, or kept (not in the roster, and left alone).</param>
public sealed record RosterChange(string Swap, string Person, string Change, string What);

/// <summary>What taking a roster did, or would do in a dry run.</summary>
public sealed record RosterTaken(bool DryRun, int Rows, int Added, int Changed, int Same, IReadOnlyList<RosterChange> Changes);
