using YardRelay.Carriage.Computers;
using YardRelay.Carriage.Depots;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Carriage.Trips;

/// <summary>One pass over a source: some paths of it, or all.</summary>
/// <param name="Only">Paths below the source as they are stored; null: all of it.</param>
internal sealed record Pass(IReadOnlyList<DepotPath>? Only)
{
    /// <summary>Whether a name lies in the pass, or on the way to what does.</summary>
    public bool Touches(DepotPath at) => Only is null || at.IsRoot || Only.Any(o => at == o || at.IsIn(o) || o.IsIn(at));

    /// <summary>Whether a name is carried in this pass, and not only on the way.</summary>
    public bool Holds(DepotPath at) => Only is null || Only.Any(o => at == o || at.IsIn(o));

    /// <summary>All passes of a trip: what is needed first, then everything.</summary>
    public static IReadOnlyList<Pass> Of(CarryList list, TreeRoot from, bool isShort)
    {
        var homes = isShort ? Homes.Find(path => HomeFolders.Names(Path.Combine(from.Path, path))) : [];
        return [
            .. NeedOrder.Passes(list.First, homes, home => HomeFolders.Of(home, from.Path), isShort)
                .Select(p => new Pass([.. p.Select(DepotPath.TryParse).OfType<DepotPath>()]))
                .Where(p => p.Only!.Count > 0),
            new Pass(Only: null)
        ];
    }
}

/// <summary>What may still be brought where there is less room than data. For several threads at once.</summary>
internal sealed class RoomLeft(long bytes)
{
    private long _left = bytes;

    /// <summary>Takes room for a file; false: it does not fit any more.</summary>
    public bool TryTake(long bytes)
    {
        while (true)
        {
            var left = Interlocked.Read(ref _left);
            if (bytes > left) return false;
            if (Interlocked.CompareExchange(ref _left, left - bytes, left) == left) return true;
        }
    }
}

/// <summary>What stayed for want of room, by the first two folders.</summary>
internal sealed class ForWantOfRoom
{
    private readonly SortedDictionary<string, Amount> _folders = new(StringComparer.Ordinal);

    public void Add(string shown, long bytes)
    {
        var first = shown.IndexOf('/', StringComparison.Ordinal);
        var second = first < 0 ? -1 : shown.IndexOf('/', first + 1);
        var folder = first < 0 ? "./" : shown[..((second < 0 ? first : second) + 1)];
        _folders[folder] = _folders.GetValueOrDefault(folder) + Amount.File(bytes);
    }

    public void Clear() => _folders.Clear();

    public IEnumerable<Snag> Snags() =>
        _folders.Select(f => new Snag(
            f.Key,
            SnagKind.NoRoom,
            f.Value.Bytes,
            $"No room in the depot for {ByteText.Files(f.Value.Files)}, {ByteText.Of(f.Value.Bytes)}. Make room or take another depot, "
                + $"then run another trip: it brings what is missing.",
            Files: f.Value.Files));
}
