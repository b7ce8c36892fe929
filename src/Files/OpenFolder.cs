namespace YardRelay.Files;

/// <summary>How a folder is opened.</summary>
public enum FolderUse
{
    /// <summary>To be listed, and for all else.</summary>
    List,

    /// <summary>The same, leaving the time of its last access as it is, where the account may.</summary>
    ListQuietly,

    /// <summary>Only for what is done to names in it.</summary>
    Pass,
}

/// <summary>
/// An open folder. Names and paths are bytes as the system has them; a path is names with <c>/</c> between them, and lies below this
/// folder: none is ever followed through a link or out of it. An empty path is the folder itself.
/// </summary>
/// <param name="calls">How its side is asked.</param>
public abstract class OpenFolder(INodeCalls calls) : OpenNode(calls)
{
    /// <summary>The names in it, without those of itself and of the folder above, in the system's order.</summary>
    /// <exception cref="FileTroubleException">It cannot be listed to its end.</exception>
    public abstract List<byte[]> Names();

    /// <summary>The same with what the system says of each, or why it says nothing.</summary>
    /// <param name="afresh">
    /// What others did to a file over a network is to be told, too: a system else says for a while what it was told last. Costs a question
    /// to the server for each name; on a disk of the computer itself nothing.
    /// </param>
    /// <exception cref="FileTroubleException">It cannot be listed to its end.</exception>
    public abstract void Look(Action<byte[], NodeFacts?, Trouble> found, bool afresh = false);

    /// <summary>What the system says of a name; null with why it says nothing.</summary>
    public abstract NodeFacts? TryFacts(ReadOnlySpan<byte> name, out Trouble trouble);

    /// <summary>Opens a folder below it; null with why not.</summary>
    public abstract OpenFolder? TryOpenFolder(ReadOnlySpan<byte> path, FolderUse use, out Trouble trouble);

    /// <summary>Opens a file below it, or whatever else is no folder: look at its facts before it is read; null with why not.</summary>
    /// <param name="mode">What a file that is made may be done with, less what the program's mask forbids.</param>
    public abstract OpenFile? TryOpenFile(ReadOnlySpan<byte> path, FileUse use, out Trouble trouble, ushort mode = 0x180);

    /// <summary>Makes a file in it that has no name until <see cref="TryGiveName"/>, and is gone when it is closed without one.</summary>
    public abstract OpenFile? TryMakeUnnamed(out Trouble trouble);

    /// <summary>Gives a file made without a name one in this folder, only where none stands.</summary>
    public abstract bool TryGiveName(OpenFile file, ReadOnlySpan<byte> name, out Trouble trouble);

    /// <summary>Makes a folder.</summary>
    public abstract bool TryMakeFolder(ReadOnlySpan<byte> name, ushort mode, out Trouble trouble);

    /// <summary>Gives what bears a name another one, in this folder or another.</summary>
    /// <param name="replace">Whether what stands under the new name, and is no folder, gives way.</param>
    public abstract bool TryRename(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, bool replace, out Trouble trouble);

    /// <summary>Gives a file a further name, only where none stands.</summary>
    public abstract bool TryHardLink(ReadOnlySpan<byte> name, OpenFolder to, ReadOnlySpan<byte> newName, out Trouble trouble);

    /// <summary>Removes a name, or an empty folder.</summary>
    public abstract bool TryRemove(ReadOnlySpan<byte> name, bool isFolder, out Trouble trouble);

    /// <summary>Where a link points to, as it is written.</summary>
    /// <exception cref="FileTroubleException">It cannot be read.</exception>
    public abstract byte[] ReadLink(ReadOnlySpan<byte> name);

    /// <summary>Makes a link.</summary>
    /// <exception cref="FileTroubleException">It cannot be made.</exception>
    public abstract void MakeLink(ReadOnlySpan<byte> name, ReadOnlySpan<byte> target);

    /// <summary>Sets when a link was last changed, and not what it points to.</summary>
    /// <exception cref="FileTroubleException">It may not be set.</exception>
    public abstract void SetLinkModified(ReadOnlySpan<byte> name, Stamp modified);

    /// <summary>Gives a link to somebody else, and not what it points to; an administrator may.</summary>
    public abstract bool TrySetLinkOwner(ReadOnlySpan<byte> name, NodeOwner owner);

    /// <summary>What tells this folder from another one.</summary>
    /// <exception cref="FileTroubleException">The system does not say.</exception>
    public abstract NodeIdentity Identity();

    /// <summary>How much the file system of this folder holds.</summary>
    /// <exception cref="FileTroubleException">It does not say.</exception>
    public abstract Room Room();

    /// <summary>
    /// Asks the system to bring all that was written to the file system of this folder onto the medium, and waits until it is there.
    /// </summary>
    /// <exception cref="FileTroubleException">The medium did not take all of it, now or since the folder was opened.</exception>
    public abstract void Sync();

    /// <summary>
    /// Where what is read of its files comes from, once this computer keeps nothing of them: a medium of its own, which it reads through
    /// its own memory alone; that memory, where there is nothing else; or nobody can tell.
    /// </summary>
    public abstract ReadFrom ReadsFrom { get; }

    /// <summary>Whether its file system keeps permissions; false: those that it tells are the same for all, or nobody can tell.</summary>
    public abstract bool KeepsModes { get; }

    /// <summary>Opens a folder below it.</summary>
    /// <exception cref="FileTroubleException">It cannot be opened.</exception>
    public OpenFolder OpenFolderAt(ReadOnlySpan<byte> path, FolderUse use = FolderUse.List) =>
        TryOpenFolder(path, use, out var trouble) ?? throw new FileTroubleException(trouble, $"open {Shown(path)}");

    /// <summary>Opens a file below it.</summary>
    /// <exception cref="FileTroubleException">It cannot be opened.</exception>
    public OpenFile OpenFileAt(ReadOnlySpan<byte> path, FileUse use) =>
        TryOpenFile(path, use, out var trouble) ?? throw new FileTroubleException(trouble, $"open {Shown(path)}");

    /// <summary>Whether a path names the folder above somewhere: no side goes there.</summary>
    private protected static bool LeadsUp(ReadOnlySpan<byte> path)
    {
        for (var from = 0; path[from..].IndexOf(".."u8) is >= 0 and var found; from += found + 2)
        {
            var (begin, end) = (from + found, from + found + 2);
            if ((begin == 0 || path[begin - 1] == '/') && (end == path.Length || path[end] == '/')) return true;
        }
        return false;
    }

    private static string Shown(ReadOnlySpan<byte> path) => System.Text.Encoding.UTF8.GetString(path);
}
