using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Posix;

namespace YardRelay.Carriage.Trees;

/// <summary>One name found in a source tree.</summary>
/// <param name="Parent">The folder it stands in; for the root, the root itself. <see cref="FolderHandle.Share"/> to keep it.</param>
/// <param name="Name">Its name as bytes; empty for the root.</param>
/// <param name="Raw">Its whole path below the root as bytes.</param>
/// <param name="Stored">The path it has in a depot.</param>
/// <param name="Facts">What the system says of it; null when it would not say.</param>
/// <param name="Trouble">Why a folder cannot be listed or a name not be looked at; null when all is well.</param>
internal sealed record TreeItem(FolderHandle Parent, byte[] Name, byte[] Raw, DepotPath Stored, NodeFacts? Facts, PosixException? Trouble, PosixHandle? Opened)
{
    public bool IsFolder => Facts?.Kind == NodeKind.Folder;
}

/// <summary>
/// Walks a source tree in the order of the stored paths' bytes, each folder before what is in it, so that two walks can be merged in bounded memory.
/// Reads nothing but names and facts, follows no link.
/// </summary>
internal sealed class TreeReader(string root, NameRule names, bool tellsCase)
{
    public static PosixHandle OpenRoot(string root) => PosixFile.Open(Libc.AtCurrent, Encoding.UTF8.GetBytes(root), Libc.Directory);

    public IEnumerable<TreeItem> Walk(CancellationToken cancel)
    {
        var handle = OpenRoot(root);
        var top = new FolderHandle(handle);
        try
        {
            yield return new(top, [], [], DepotPath.Root, PosixFile.Stat(handle), null, handle);
            foreach (var item in WalkFolder(top, [], DepotPath.Root, cancel)) yield return item;
        }
        finally
        {
            top.Release();
        }
    }

    private IEnumerable<TreeItem> WalkFolder(FolderHandle folder, byte[] raw, DepotPath stored, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        foreach (var (name, storedName, facts, errno) in Sorted(folder))
        {
            byte[] path = raw.Length == 0 ? name : [.. raw, (byte)'/', .. name];
            var at = stored / storedName;
            if (facts is not { Kind: NodeKind.Folder } f)
            {
                yield return new(folder, name, path, at, facts, facts is null ? new PosixException(errno, "stat") : null, null);
                continue;
            }
            var open = PosixFile.TryOpen(folder.Number, name, Libc.Directory | Libc.NoFollow | Libc.NoAccessTime, out var openErrno)
                ?? PosixFile.TryOpen(folder.Number, name, Libc.Directory | Libc.NoFollow, out openErrno);
            if (open is null)
            {
                yield return new(folder, name, path, at, f, new PosixException(openErrno, "open folder"), null);
                continue;
            }
            var inside = new FolderHandle(open);
            try
            {
                yield return new(folder, name, path, at, f, null, open);
                foreach (var item in WalkFolder(inside, path, at, cancel)) yield return item;
            }
            finally
            {
                inside.Release();
            }
        }
    }

    private List<(byte[] Name, string Stored, NodeFacts? Facts, int Errno)> Sorted(FolderHandle folder)
    {
        var found = new List<(byte[] Name, string Stored, NodeFacts? Facts, int Errno)>();
        foreach (var name in PosixFile.Names(folder.Handle))
        {
            var facts = PosixFile.TryStat(folder.Number, name, out var errno);
            found.Add((name, names.Store(name), facts, errno));
        }
        if (!tellsCase && found.Count > 1)
        {
            found.Sort((a, b) => a.Name.AsSpan().SequenceCompareTo(b.Name));
            var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            for (var i = 0; i < found.Count; i++)
                if (!taken.Add(found[i].Stored.Normalize(NormalizationForm.FormC))) found[i] = found[i] with { Stored = names.StoreBeside(found[i].Name) };
        }
        found.Sort((a, b) => DepotPath.CompareUtf8(Key(a), Key(b)));
        return found;

        static string Key((byte[] Name, string Stored, NodeFacts? Facts, int Errno) one) => one.Facts?.Kind == NodeKind.Folder ? one.Stored + "/" : one.Stored;
    }
}
