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
/// <param name="descends">Whether to go into a folder; null: into each.</param>
internal sealed class TreeReader(string root, NameRule names, bool tellsCase, Func<DepotPath, bool>? descends = null)
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
        foreach (var found in Sorted(folder))
        {
            var (name, facts, errno) = (found.Name, found.Facts, found.Errno);
            byte[] path = raw.Length == 0 ? name : [.. raw, (byte)'/', .. name];
            var at = stored / found.Stored;
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
                if (descends?.Invoke(at) != false)
                    foreach (var item in WalkFolder(inside, path, at, cancel)) yield return item;
            }
            finally
            {
                inside.Release();
            }
        }
    }

    private List<Found> Sorted(FolderHandle folder)
    {
        var all = new List<Found>();
        foreach (var name in PosixFile.Names(folder.Handle))
        {
            var facts = PosixFile.TryStat(folder.Number, name, out var errno);
            all.Add(new(name, names.Store(name), facts, errno));
        }
        if (!tellsCase && all.Count > 1)
        {
            all.Sort((a, b) => a.Name.AsSpan().SequenceCompareTo(b.Name));
            var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            for (var i = 0; i < all.Count; i++)
                if (!taken.Add(all[i].Stored.Normalize(NormalizationForm.FormC))) all[i] = new(all[i].Name, names.StoreBeside(all[i].Name), all[i].Facts, all[i].Errno);
        }
        all.Sort((a, b) => DepotPath.CompareUtf8(a.Key, b.Key));
        return all;
    }

    /// <summary>One name of a folder. A class: sorting moves references, not all that is known of each name.</summary>
    private sealed class Found(byte[] name, string stored, NodeFacts? facts, int errno)
    {
        public byte[] Name => name;

        public string Stored => stored;

        public NodeFacts? Facts => facts;

        public int Errno => errno;

        /// <summary>Where it stands among its neighbours: a folder by what is in it.</summary>
        public string Key { get; } = facts?.Kind == NodeKind.Folder ? stored + "/" : stored;
    }
}
