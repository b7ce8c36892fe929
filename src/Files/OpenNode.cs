namespace YardRelay.Files;

/// <summary>An open file or folder; closed once. What is asked of it holds for what was opened, whatever bears its name by now.</summary>
public abstract class OpenNode : IDisposable
{
    /// <summary>What the system says of it.</summary>
    /// <exception cref="FileTroubleException">It does not say.</exception>
    public abstract NodeFacts Facts();

    /// <summary>Extended attributes by name; null where it has none, or the file system has no such thing.</summary>
    public abstract SortedDictionary<string, byte[]>? Attributes();

    /// <summary>Sets one extended attribute; false when the file system or the rights forbid it.</summary>
    public abstract bool TrySetAttribute(string name, byte[] value);

    /// <summary>Takes one extended attribute away; false when it is not there, or the rights forbid it.</summary>
    public abstract bool TryRemoveAttribute(string name);

    /// <summary>Sets permissions and the three bits above them.</summary>
    /// <exception cref="FileTroubleException">It may not be set.</exception>
    public abstract void SetMode(ushort mode);

    /// <summary>Sets when its content last changed; the time of its last access stays.</summary>
    /// <exception cref="FileTroubleException">It may not be set.</exception>
    public abstract void SetModified(Stamp modified);

    /// <inheritdoc/>
    public void Dispose()
    {
        Dispose(true);
        GC.SuppressFinalize(this);
    }

    /// <summary>Closes it.</summary>
    protected abstract void Dispose(bool disposing);
}
