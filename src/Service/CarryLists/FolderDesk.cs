using System.Collections.Concurrent;
using YardRelay.Contracts;
using YardRelay.Core.Carrying.Folders;

namespace YardRelay.Service.CarryLists;

/// <summary>
/// Trees of folders to pick from, in memory only and for a quarter of an hour: names of a person's folders are nothing for the records.
/// Where there are several processes, the tree is with the one that its hand reported to; whoever asks again meets it.
/// </summary>
internal sealed class FolderDesk(TimeProvider time)
{
    private const int Most = 200;
    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(15);
    private readonly ConcurrentDictionary<string, FoldersSeen> _trees = new();

    public void Put(string swap, IReadOnlyList<FolderNode> folders, int deeper)
    {
        Forget();
        if (_trees.Count >= Most && _trees.MinBy(t => t.Value.At) is { Key: { } oldest }) _trees.TryRemove(oldest, out _);
        _trees[swap] = new(time.GetUtcNow(), folders, deeper);
    }

    public FoldersSeen? Get(string swap)
    {
        Forget();
        return _trees.GetValueOrDefault(swap);
    }

    private void Forget()
    {
        var before = time.GetUtcNow() - Kept;
        foreach (var (swap, tree) in _trees)
            if (tree.At < before) _trees.TryRemove(swap, out _);
    }
}
