namespace YardRelay.Files;

/// <summary>What a side of the seam is asked about an open file and an open folder alike; disposed of, it is closed.</summary>
public interface INodeCalls : IDisposable
{
    /// <summary>What the system says of it.</summary>
    /// <param name="afresh">See <see cref="OpenFolder.Look"/>.</param>
    /// <exception cref="FileTroubleException">It does not say.</exception>
    NodeFacts Facts(bool afresh = false);

    /// <summary>Extended attributes by name; null where it has none, or the file system has no such thing.</summary>
    /// <exception cref="FileTroubleException">It has some, or may have, and they cannot be read.</exception>
    SortedDictionary<string, byte[]>? Attributes();

    /// <summary>Sets one extended attribute; false when the file system or the rights forbid it.</summary>
    bool TrySetAttribute(string name, byte[] value);

    /// <summary>Takes one extended attribute away; false when it is not there, or the rights forbid it.</summary>
    bool TryRemoveAttribute(string name);

    /// <summary>Sets permissions and the three bits above them.</summary>
    /// <exception cref="FileTroubleException">It may not be set.</exception>
    void SetMode(ushort mode);

    /// <summary>Sets when its content last changed; the time of its last access stays.</summary>
    /// <exception cref="FileTroubleException">It may not be set.</exception>
    void SetModified(Stamp modified);

    /// <summary>
    /// Holds it for whoever opened it here, until it is closed or the program ends, however that comes; false: another holds it. It hinders
    /// nobody who does not ask the same. Where a file system knows no such thing, it is held.
    /// </summary>
    bool TryHold();

    /// <summary>Gives it to somebody else; an administrator may. Takes the bits away that let it run as its owner.</summary>
    bool TrySetOwner(NodeOwner owner);
}

/// <summary>An open file or folder; closed once. What is asked of it holds for what was opened, whatever bears its name by now.</summary>
/// <param name="calls">How its side is asked.</param>
public abstract class OpenNode(INodeCalls calls) : INodeCalls
{
    /// <inheritdoc/>
    public NodeFacts Facts(bool afresh = false) => calls.Facts(afresh);

    /// <inheritdoc/>
    public SortedDictionary<string, byte[]>? Attributes() => calls.Attributes();

    /// <inheritdoc/>
    public bool TrySetAttribute(string name, byte[] value) => calls.TrySetAttribute(name, value);

    /// <inheritdoc/>
    public bool TryRemoveAttribute(string name) => calls.TryRemoveAttribute(name);

    /// <inheritdoc/>
    public void SetMode(ushort mode) => calls.SetMode(mode);

    /// <inheritdoc/>
    public void SetModified(Stamp modified) => calls.SetModified(modified);

    /// <inheritdoc/>
    public bool TryHold() => calls.TryHold();

    /// <inheritdoc/>
    public bool TrySetOwner(NodeOwner owner) => calls.TrySetOwner(owner);

    /// <inheritdoc/>
    public void Dispose()
    {
        calls.Dispose();
        GC.SuppressFinalize(this);
    }
}
