namespace YardRelay.Carriage.Depots;

/// <summary>The depot filled up in the middle of work that cannot go on without room.</summary>
public sealed class DepotFullException(DepotFull full) : IOException(full.Message)
{
    /// <summary>Which depot, and the file that did not fit.</summary>
    public DepotFull Full { get; } = full;
}

/// <summary>Words for what a depot answers where there is no going on without it.</summary>
internal static class DepotFaults
{
    /// <summary>The exception for a refusal of the parcel's own files.</summary>
    public static IOException Broke(this IDepot depot, Core.Problem problem) =>
        problem is DepotFull full ? new DepotFullException(full) : new DepotUnreachableException(depot.Address, problem.Message);
}
