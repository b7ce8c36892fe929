using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;

namespace YardRelay.Carriage.Trees;

/// <summary>A folder of a walk.</summary>
/// <param name="Handle">Opened.</param>
/// <param name="Raw">Its path below the root of the walk as bytes.</param>
/// <param name="Stored">The path it has in a depot.</param>
/// <param name="Depth">How many folders it lies below the root: 0 for the root.</param>
internal sealed record TreeFolder(SharedFolder Handle, byte[] Raw, DepotPath Stored, int Depth);

/// <summary>One name found in a source tree. Paths are put together when somebody asks: a walk that only counts never does.</summary>
/// <param name="folder">The folder it stands in; for the root, the root itself.</param>
/// <param name="name">Its name as bytes; empty for the root.</param>
/// <param name="stored">Its name in a depot; null: the same letters, all of them ASCII.</param>
/// <param name="facts">What the system says of it.</param>
/// <param name="trouble">Why it says nothing.</param>
internal sealed class TreeItem(TreeFolder folder, byte[] name, string? stored, NodeFacts? facts, Trouble trouble)
{
    private readonly byte[] _key = stored is null ? name : Encoding.UTF8.GetBytes(stored);
    private string? _stored = stored;
    private byte[]? _raw;
    private DepotPath? _at;

    /// <summary>The folder it stands in; <see cref="SharedFolder.Share"/> to keep it.</summary>
    public SharedFolder Parent => folder.Handle;

    /// <summary>Its name as bytes; empty for the root.</summary>
    public byte[] Name => name;

    /// <summary>Its name in a depot.</summary>
    public string StoredName => _stored ??= Encoding.ASCII.GetString(name);

    /// <summary>How many folders it lies below the root: 0 for the root, 1 for what lies in it.</summary>
    public int Depth => name.Length == 0 ? 0 : folder.Depth + 1;

    /// <summary>Its whole path below the root as bytes.</summary>
    public byte[] Raw => _raw ??= folder.Raw.Length == 0 ? name : [.. folder.Raw, (byte)'/', .. name];

    /// <summary>The path below the root as bytes of the folder it stands in.</summary>
    public byte[] RawOfParent => folder.Raw;

    /// <summary>The path it has in a depot.</summary>
    public DepotPath Stored => _at ??= name.Length == 0 ? DepotPath.Root : folder.Stored / StoredName;

    /// <summary>What the system says of it; null when it would not say.</summary>
    public NodeFacts? Facts => facts;

    /// <summary>Why a folder cannot be listed or a name not be looked at; null when all is well.</summary>
    public FileTroubleException? Trouble =>
        facts is null ? new(trouble, "stat") : OpenTrouble.Fault != Fault.None ? new(OpenTrouble, "open folder") : null;

    /// <summary>Whether it is a folder.</summary>
    public bool IsFolder => facts?.Kind == NodeKind.Folder;

    /// <summary>The folder itself, opened; null for all else.</summary>
    public OpenFolder? Opened { get; init; }

    /// <summary>Why the folder cannot be opened.</summary>
    public Trouble OpenTrouble { get; init; }

    /// <summary>What stands directly in the folder; empty for all else, and where the walk does not go into it.</summary>
    public IReadOnlyList<TreeItem> Below { get; init; } = [];

    /// <summary>By the bytes of the stored name; a folder stands where what is in it stands, as if its name ended with a slash.</summary>
    public static int InOrder(TreeItem a, TreeItem b)
    {
        var same = a._key.AsSpan().CommonPrefixLength(b._key);
        return a.After(same) - b.After(same);
    }

    /// <summary>The same name, stored under another one.</summary>
    public TreeItem As(string other) => new(folder, name, other, facts, trouble);

    /// <summary>The same folder, looked into.</summary>
    /// <param name="below">See <see cref="Below"/>.</param>
    public TreeItem With(OpenFolder? opened, Trouble openTrouble, IReadOnlyList<TreeItem>? below = null) =>
        new(folder, name, _stored, facts, trouble) { Opened = opened, OpenTrouble = openTrouble, Below = below ?? [] };

    private int After(int at) => at < _key.Length ? _key[at] : at == _key.Length && IsFolder ? '/' : -1;
}

/// <summary>
/// Walks a source tree, each folder before what is in it; in the order of the stored paths' bytes where asked, so that two walks can be
/// merged in bounded memory.
/// Reads nothing but names and facts, follows no link.
/// </summary>
/// <param name="twins">The names that the parcel has, where its depot takes some for one; null: it tells all.</param>
/// <param name="descends">Whether to go into a folder; null: into each.</param>
/// <param name="inOrder">Whether names come in order; else as the system tells them, which is quicker for who only counts.</param>
/// <param name="afresh">See <see cref="OpenFolder.Look"/>.</param>
internal sealed class TreeReader(
    TreeRoot root, NameRule names, TwinNames? twins = null, Func<DepotPath, bool>? descends = null, bool inOrder = true,
    bool afresh = false)
{
    /// <summary>Walks. A folder that cannot be listed to its end comes with why, and without what is in it.</summary>
    /// <exception cref="SourceBrokeException">The root itself cannot be opened or listed.</exception>
    public IEnumerable<TreeItem> Walk(CancellationToken cancel)
    {
        var (top, facts, first) = Begin();
        try
        {
            yield return new(top, [], null, facts, default) { Opened = top.Handle.Opened };
            foreach (var item in WalkFolder(top, first, cancel)) yield return item;
        }
        finally
        {
            top.Handle.Release();
        }
    }

    private (TreeFolder Top, NodeFacts Facts, List<TreeItem> Names) Begin()
    {
        OpenFolder? open = null;
        try
        {
            open = root.Open();
            var top = new TreeFolder(new(open), [], DepotPath.Root, 0);
            return (top, open.Facts(afresh), All(top));
        }
        catch (FileTroubleException broke)
        {
            open?.Dispose();
            throw new SourceBrokeException(broke.Message, broke);
        }
    }

    private IEnumerable<TreeItem> WalkFolder(TreeFolder folder, List<TreeItem> names, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        foreach (var found in names)
        {
            if (!found.IsFolder)
            {
                yield return found;
                continue;
            }
            var open = folder.Handle.Opened.TryOpenFolder(found.Name, FolderUse.ListQuietly, out var trouble);
            if (open is null)
            {
                yield return found.With(null, trouble);
                continue;
            }
            var inside = new TreeFolder(new(open), found.Raw, found.Stored, folder.Depth + 1);
            try
            {
                var below = descends?.Invoke(inside.Stored) == false ? [] : TryAll(inside, out trouble);
                if (below is null)
                {
                    yield return found.With(null, trouble);
                    continue;
                }
                yield return found.With(open, default, below);
                foreach (var item in WalkFolder(inside, below, cancel)) yield return item;
            }
            finally
            {
                inside.Handle.Release();
            }
        }
    }

    // A list that broke off is no list: what it would have had is not known, and so nothing of it is gone.
    private List<TreeItem>? TryAll(TreeFolder folder, out Trouble trouble)
    {
        trouble = default;
        try
        {
            return All(folder);
        }
        catch (FileTroubleException broke)
        {
            trouble = broke.Trouble;
            return null;
        }
    }

    private List<TreeItem> All(TreeFolder folder)
    {
        var all = new List<TreeItem>();
        folder.Handle.Opened.Look((name, facts, trouble) =>
            all.Add(new(folder, name, names.IsKept(name) ? null : names.Store(name), facts, trouble)), afresh);
        if (twins is not null) KeepApart(all, twins);
        if (inOrder) all.Sort(TreeItem.InOrder);
        return all;
    }

    // What has its name in the parcel keeps it; what comes new makes way.
    private void KeepApart(List<TreeItem> all, TwinNames twins)
    {
        all.Sort((a, b) => a.Name.AsSpan().SequenceCompareTo(b.Name));
        var taken = new HashSet<ulong>();
        var comeNew = new List<int>();
        for (var i = 0; i < all.Count; i++)
        {
            var beside = all[i].As(names.StoreBeside(all[i].Name));
            if (twins.Has(beside.Stored.Text)) all[i] = beside;
            else if (twins.Has(all[i].Stored.Text)) taken.Add(twins.Fold(all[i].StoredName));
            else comeNew.Add(i);
        }
        foreach (var i in comeNew)
            if (twins.HasTwin(all[i].Stored.Text) || !taken.Add(twins.Fold(all[i].StoredName)))
                all[i] = all[i].As(names.StoreBeside(all[i].Name));
    }
}
