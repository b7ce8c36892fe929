namespace YardRelay.Files.Names;

/// <summary>A number for a name, by which many are remembered in little room. Two names nearly never have the same.</summary>
public static class NameHash
{
    // FNV-1a of 64 bits, by Fowler, Noll and Vo: http://www.isthe.com/chongo/tech/comp/fnv/
    private const ulong Basis = 14695981039346656037, Prime = 1099511628211;

    /// <summary>Of a name as it stands.</summary>
    public static ulong Of(ReadOnlySpan<char> name)
    {
        var hash = Basis;
        foreach (var one in name) hash = (hash ^ one) * Prime;
        return hash;
    }

    /// <summary>The same for all names that a disk which tells case may take for one.</summary>
    public static ulong Formed(string name) => Of(NameFold.Form(name));

    /// <summary>The same for all names that some disk takes for one.</summary>
    public static ulong Folded(string name)
    {
        var hash = Basis;
        foreach (var one in name)
        {
            if (one > 0x7f) return Of(NameFold.Of(name));
            hash = (hash ^ char.ToLowerInvariant(one)) * Prime;
        }
        return hash;
    }
}
