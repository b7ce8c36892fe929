namespace YardRelay.Carriage.Trips;

/// <summary>The folders that are carried.</summary>
internal static class Sources
{
    /// <summary>Why a folder cannot be read, found out before anything is begun; null: it can, as far as is known.</summary>
    public static SourceUnusable? Unusable(TreeRoot from)
    {
        using var open = from.TryOpen(out var trouble);
        if (trouble.Fault is Fault.NotThere or Fault.NotAFolder) return new(from.Path, "there is no such folder.");
        if (open is null) return new(from.Path, trouble.Said("it cannot be opened") + ".");
        try
        {
            open.Names();
            return null;
        }
        catch (FileTroubleException broke)
        {
            return new(from.Path, broke.Trouble.Said("it cannot be listed") + ".");
        }
    }
}
