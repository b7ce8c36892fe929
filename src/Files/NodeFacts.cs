namespace YardRelay.Files;

/// <summary>What bears a name.</summary>
public enum NodeKind
{
    /// <summary>A file with content.</summary>
    File,

    /// <summary>A folder.</summary>
    Folder,

    /// <summary>A symbolic link.</summary>
    Link,

    /// <summary>A device.</summary>
    Device,

    /// <summary>A named pipe.</summary>
    Pipe,

    /// <summary>A socket.</summary>
    Socket,
}

/// <summary>To which account and group something belongs, by their numbers on this computer.</summary>
public readonly record struct NodeOwner(uint User, uint Group);

/// <summary>What the system says about a name or an open file, without following a link.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Mode">Permissions and the three bits above them, as POSIX keeps them.</param>
/// <param name="Bytes">Length of the content; of a link, of its target.</param>
/// <param name="Blocks">How much is stored, in units of 512 bytes.</param>
/// <param name="Links">How many names it has.</param>
/// <param name="Device">The mount; for comparing within one look only.</param>
/// <param name="Inode">Which file of the mount it is; for comparing within one look only.</param>
/// <param name="Modified">When its content last changed, as anybody may set it.</param>
/// <param name="Changed">When anything of it last changed, as the system alone sets it.</param>
public readonly record struct NodeFacts(
    NodeKind Kind, ushort Mode, long Bytes, long Blocks, uint Links, ulong Device, ulong Inode, Stamp Modified, Stamp Changed)
{
    /// <summary>To whom it belongs.</summary>
    public NodeOwner Owner { get; init; }

    /// <summary>Whether fewer blocks are stored than the length needs.</summary>
    public bool MayBeSparse => Kind == NodeKind.File && Blocks * 512 < Bytes;

    /// <summary>Whether two names are names of one file; only within one look at one mount.</summary>
    public bool IsSameNodeAs(in NodeFacts other) => (Inode, Device) == (other.Inode, other.Device);
}
