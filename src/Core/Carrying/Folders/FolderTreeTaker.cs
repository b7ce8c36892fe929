namespace YardRelay.Core.Carrying.Folders;

/// <summary>A folder of a tree to pick from.</summary>
/// <param name="Path">Below what was looked at, with '/' between parts; bytes that are no text as <c>%XX</c>.</param>
/// <param name="Files">All that is in it, its folders included.</param>
/// <param name="Newest">When the newest file in it was changed; null: there is none.</param>
/// <param name="Smaller">Folders in it that are not in the tree by themselves.</param>
public sealed record FolderNode(string Path, Amount Files, DateTimeOffset? Newest, int Smaller);

/// <summary>Sums up a walk folder by folder, and keeps the largest: a tree of bounded depth and size, with nothing uncounted.</summary>
/// <param name="deepest">How many folders deep a path of the tree is at most; deeper ones count in theirs.</param>
public sealed class FolderTreeTaker(int deepest)
{
    private sealed class Sum(string path, Sum? parent, int depth)
    {
        public readonly string Path = path;
        public readonly Sum? Parent = parent;
        public readonly int Depth = depth;
        public Amount Files;
        public DateTimeOffset? Newest;
        public int Folders;
    }

    private readonly List<Sum> _all = [];
    private readonly Stack<Sum> _open = new();
    private int _below;

    /// <summary>A folder is entered, after all before it were left. What lies in it follows.</summary>
    /// <param name="depth">1 for what lies directly in what is looked at.</param>
    public void Enter(string path, int depth)
    {
        Leave(depth);
        if (depth > deepest)
        {
            _below++;
            return;
        }
        var parent = _open.Count > 0 ? _open.Peek() : null;
        var sum = new Sum(path, parent, depth);
        if (parent is not null) parent.Folders++;
        _all.Add(sum);
        _open.Push(sum);
    }

    /// <summary>A file, or a link, is met.</summary>
    /// <param name="depth">As for a folder.</param>
    public void File(int depth, long bytes, DateTimeOffset modified)
    {
        Leave(depth);
        foreach (var sum in _open)
        {
            sum.Files += Amount.File(bytes);
            if (sum.Newest is null || modified > sum.Newest) sum.Newest = modified;
        }
    }

    private void Leave(int depth)
    {
        while (_open.Count > 0 && _open.Peek().Depth >= depth) _open.Pop();
    }

    /// <summary>Folders that were too deep for the tree.</summary>
    public int Deeper => _below;

    /// <summary>Ends the walk.</summary>
    /// <param name="most">Folders in the tree at most: the largest, each with all that it lies in.</param>
    /// <returns>The folders, each before what is in it, the larger before the smaller.</returns>
    public IReadOnlyList<FolderNode> Finish(int most)
    {
        // A folder is never larger than the one it lies in, so the largest ones are always a tree.
        var kept = _all.OrderByDescending(s => s.Files.Bytes)
            .ThenBy(s => s.Depth)
            .ThenBy(s => s.Path, StringComparer.Ordinal)
            .Take(most).ToHashSet();
        var children = kept.ToLookup(s => s.Parent);
        var nodes = new List<FolderNode>(kept.Count);
        void Add(Sum? parent)
        {
            foreach (var sum in children[parent].OrderByDescending(s => s.Files.Bytes).ThenBy(s => s.Path, StringComparer.Ordinal))
            {
                nodes.Add(new(sum.Path, sum.Files, sum.Newest, sum.Folders - children[sum].Count()));
                Add(sum);
            }
        }

        Add(null);
        return nodes;
    }
}
