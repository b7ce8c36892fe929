namespace YardRelay.Carriage.Depots;

/// <summary>The folder at a depot's root in which it is tried out. Whoever made it removes it; one whose maker was killed stays.</summary>
public static class ProbeFolder
{
    /// <summary>How its name begins.</summary>
    public const string Prefix = "yard-probe-";

    /// <summary>Another one, unlike any other.</summary>
    /// <param name="id">What nothing else bears.</param>
    public static DepotPath New(Guid id) => DepotPath.Of(Prefix + id.ToString("N")[..12]);

    /// <summary>Removes what killed ones left in a folder of this computer that nobody else uses yet.</summary>
    /// <exception cref="IOException">Something of it cannot be removed.</exception>
    public static void RemoveLeftOver(string folder)
    {
        foreach (var left in Directory.EnumerateDirectories(folder, Prefix + "*"))
            // A link goes, and not what it leads to.
            if (new DirectoryInfo(left).LinkTarget is null) Directory.Delete(left, recursive: true);
            else File.Delete(left);
    }
}
