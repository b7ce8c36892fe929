namespace YardRelay.Carriage.Depots;

/// <summary>The depot filled up in the middle of work that cannot go on without room.</summary>
public sealed class DepotFullException(DepotFull full) : IOException(full.Message)
{
    /// <summary>Which depot, and the file that did not fit.</summary>
    public DepotFull Full { get; } = full;
}
