namespace YardRelay.Carriage.Trips;

/// <summary>The folders that are carried.</summary>
internal static class Sources
{
    /// <summary>Why a folder cannot be read; null: it can.</summary>
    public static SourceUnusable? Unusable(TreeRoot from)
    {
        using var open = from.TryOpen(out var trouble);
        if (open is not null) return null;
        return new(
            from.Path,
            trouble.Fault is Fault.NotThere or Fault.NotAFolder ? "there is no such folder." : trouble.Said("it cannot be opened") + ".");
    }
}
