using System.Text;

namespace YardRelay.Dav;

/// <summary>The tree below the folder that is served, open for as long as one request lasts. No link in it is ever followed.</summary>
internal sealed class DavTree(OpenFolder top) : IDisposable
{
    private static readonly byte[] _hidden = Encoding.UTF8.GetBytes(DavShare.Hidden);

    // What is served is reached through the server, and by nobody beside it.
    private const ushort FileMode = 0x180;
    private const ushort FolderMode = 0x1C0;

    public OpenFolder Top => top;

    /// <summary>What bears a name, a link too; null: nothing does, or can.</summary>
    /// <exception cref="FileTroubleException">Nobody can tell.</exception>
    public NodeFacts? Standing(DavPath at)
    {
        if (at.IsRoot) return top.Facts();
        using var folder = top.TryOpenFolder(at.Parent.Bytes, FolderUse.Pass, out var trouble);
        var facts = folder?.TryFacts(at.NameBytes, out trouble);
        return facts is not null || trouble.Fault is Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink or Fault.NameTooLong
            ? facts
            : throw new FileTroubleException(trouble, "look");
    }

    /// <summary>The file or folder that bears a name; null: neither does.</summary>
    public NodeFacts? Find(DavPath at) => Standing(at) is { Kind: NodeKind.File or NodeKind.Folder } found ? found : null;

    /// <summary>A folder, to put names into it.</summary>
    public OpenFolder Folder(DavPath at) => top.OpenFolderAt(at.Bytes, FolderUse.Pass);

    /// <summary>What is in a folder, files and folders, in the order of their names.</summary>
    public List<(string Name, NodeFacts Facts)> Below(DavPath at)
    {
        using var folder = top.OpenFolderAt(at.Bytes);
        return [.. Below(folder, at.IsRoot).OrderBy(b => b.Name, StringComparer.Ordinal)];
    }

    private static List<(string Name, NodeFacts Facts)> Below(OpenFolder folder, bool isTop)
    {
        var found = new List<(string, NodeFacts)>();
        folder.Look((name, facts, trouble) =>
        {
            if (isTop && name.AsSpan().SequenceEqual(_hidden)) return;
            if (facts is { Kind: NodeKind.File or NodeKind.Folder } known) found.Add((Encoding.UTF8.GetString(name), known));
            else if (facts is null && trouble.Fault != Fault.NotThere) throw new FileTroubleException(trouble, "list");
        });
        return found;
    }

    /// <summary>Bytes of content in all that is at a place and below it.</summary>
    public long Size(DavPath at, NodeFacts facts)
    {
        if (facts.Kind != NodeKind.Folder) return facts.Bytes;
        using var folder = top.OpenFolderAt(at.Bytes);
        return Size(folder, at.IsRoot);
    }

    private static long Size(OpenFolder folder, bool isTop)
    {
        long sum = 0;
        foreach (var (name, facts) in Below(folder, isTop))
        {
            using var below = facts.Kind == NodeKind.Folder ? folder.OpenFolderAt(Encoding.UTF8.GetBytes(name)) : null;
            sum += below is null ? facts.Bytes : Size(below, isTop: false);
        }
        return sum;
    }

    public OpenFile MakeFile(DavPath at)
    {
        using var folder = Folder(at.Parent);
        return folder.TryOpenFile(at.NameBytes, FileUse.MakeNew, out var trouble, FileMode)
            ?? throw new FileTroubleException(trouble, "make");
    }

    /// <summary>Makes a folder and those on the way to it, where they are not there.</summary>
    public void MakeFolders(DavPath at)
    {
        if (at.IsRoot || Standing(at) is not null) return;
        MakeFolders(at.Parent);
        using var folder = Folder(at.Parent);
        if (!folder.TryMakeFolder(at.NameBytes, FolderMode, out var trouble) && trouble.Fault != Fault.Taken)
            throw new FileTroubleException(trouble, "make folder");
    }

    /// <summary>Opens a file to write in its place; makes it where it is not there.</summary>
    public OpenFile OpenToWrite(DavPath at)
    {
        using var folder = Folder(at.Parent);
        return folder.TryOpenFile(at.NameBytes, FileUse.Make, out var trouble, FileMode)
            ?? throw new FileTroubleException(trouble, "write");
    }

    public void MakeFolder(DavPath at)
    {
        using var folder = Folder(at.Parent);
        if (!folder.TryMakeFolder(at.NameBytes, FolderMode, out var trouble)) throw new FileTroubleException(trouble, "make folder");
    }

    /// <summary>Gives another name, in one step; what is no folder gives way where that is wanted.</summary>
    public void Move(DavPath from, DavPath to, bool replace)
    {
        using var there = Folder(from.Parent);
        using var target = Folder(to.Parent);
        if (there.TryRename(from.NameBytes, target, to.NameBytes, replace, out var trouble)) return;
        // Some file systems know no renaming that spares what stands; that nothing does was looked at while nobody else changed anything.
        if (replace
            || trouble.Fault is not (Fault.Invalid or Fault.NotSupported)
            || !there.TryRename(from.NameBytes, target, to.NameBytes, replace: true, out trouble))
            throw new FileTroubleException(trouble, "move");
    }

    /// <summary>Removes what bears a name, with all that is in it; nothing there is no fault.</summary>
    public void Remove(DavPath at)
    {
        using var folder = top.TryOpenFolder(at.Parent.Bytes, FolderUse.Pass, out var trouble);
        if (folder is not null) Remove(folder, at.NameBytes);
        else if (trouble.Fault != Fault.NotThere) throw new FileTroubleException(trouble, "remove");
    }

    private static void Remove(OpenFolder folder, byte[] name)
    {
        var facts = folder.TryFacts(name, out var trouble);
        if (facts is null && trouble.Fault == Fault.NotThere) return;
        var isFolder = facts is { Kind: NodeKind.Folder };
        if (isFolder)
        {
            using var inside = folder.OpenFolderAt(name);
            foreach (var below in inside.Names()) Remove(inside, below);
        }
        if (facts is null || (!folder.TryRemove(name, isFolder, out trouble) && trouble.Fault != Fault.NotThere))
            throw new FileTroubleException(trouble, "remove");
    }

    public void Copy(DavPath from, DavPath to, bool deep)
    {
        using var there = Folder(from.Parent);
        using var target = Folder(to.Parent);
        Copy(there, from.NameBytes, target, to.NameBytes, deep);
    }

    private static void Copy(OpenFolder from, byte[] name, OpenFolder to, byte[] newName, bool deep)
    {
        var facts = from.TryFacts(name, out var trouble) ?? throw new FileTroubleException(trouble, "copy");
        if (facts.Kind == NodeKind.File) CopyFile(from, name, to, newName);
        if (facts.Kind != NodeKind.Folder) return;
        if (!to.TryMakeFolder(newName, FolderMode, out trouble)) throw new FileTroubleException(trouble, "make folder");
        if (!deep) return;
        using var inside = from.OpenFolderAt(name);
        using var target = to.OpenFolderAt(newName, FolderUse.Pass);
        foreach (var below in inside.Names()) Copy(inside, below, target, below, deep: true);
    }

    private static void CopyFile(OpenFolder from, byte[] name, OpenFolder to, byte[] newName)
    {
        using var source = from.OpenFileAt(name, FileUse.Read);
        var facts = source.Facts();
        if (facts.Kind != NodeKind.File) throw new FileTroubleException(new(Fault.GoneMeanwhile), "copy");
        using var copy = to.TryOpenFile(newName, FileUse.MakeNew, out var trouble, FileMode)
            ?? throw new FileTroubleException(trouble, "copy");
        var buffer = new byte[64 * 1024];
        long at = 0;
        while (source.Read(at, buffer) is > 0 and var got)
        {
            copy.Write(at, buffer.AsSpan(0, got));
            at += got;
        }
        copy.SetModified(facts.Modified);
    }

    public void Dispose() => top.Dispose();
}
