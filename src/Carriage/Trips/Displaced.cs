using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// A line of <c>yard/displaced.jsonl</c>: something deleted at the source that lay in the parcel where something of another kind stands
/// now.
/// </summary>
/// <param name="From">Where it lay below <c>data/</c>.</param>
/// <param name="To">Where it lies now.</param>
/// <param name="IsFolder">A folder with all in it; else a file.</param>
/// <param name="Trip">The trip that moved it.</param>
internal sealed record Displacement(string From, string To, bool IsFolder, int Trip);

/// <summary>
/// Makes way in a parcel. A file that became a folder, or a folder that became a file, needs the name under which the deleted one is kept:
/// that one is moved beside it, and keeps its true name in its entry. What will be moved is written down before it is moved, so that a trip
/// that broke off between is mended.
/// </summary>
internal sealed class Displaced(IDepot depot, ParcelPaths paths, IWork work)
{
    private readonly List<Displacement> _all = [];
    private Sorted? _sorted;

    /// <summary>Whether an entry bears a name that it was given to make way, in that trip.</summary>
    public static bool MadeWay(Entry entry, int trip) =>
        entry.GoneSince == trip && entry.Path.Text.Contains(FormattableString.Invariant($"=~gone-{trip}-"), StringComparison.Ordinal);

    /// <summary>Whether anything was moved that the entries do not know of yet.</summary>
    public bool Any => _all.Count > 0;

    /// <summary>Reads what a trip that broke off wrote down, and moves what it had not moved yet.</summary>
    public async Task RecoverAsync(CancellationToken cancel)
    {
        foreach (var one in await WrittenDownAsync(cancel))
        {
            Add(one);
            if (!await HasMovedAsync(one, cancel))
                await depot.MoveAsync(
                    paths.Data.Join(DepotPath.Of(one.From)), paths.Data.Join(DepotPath.Of(one.To)), cancel);
        }
    }

    /// <summary>Reads what a trip that broke off wrote down and had moved. Changes nothing.</summary>
    public async Task ReadAsync(CancellationToken cancel)
    {
        foreach (var one in await WrittenDownAsync(cancel))
            if (await HasMovedAsync(one, cancel)) Add(one);
    }

    private async Task<List<Displacement>> WrittenDownAsync(CancellationToken cancel)
    {
        var all = new List<Displacement>();
        foreach (var line in Encoding.UTF8.GetString(await ParcelLists.ReadAsync(depot, paths, ParcelPaths.Displaced, cancel) ?? [])
            .Split('\n', StringSplitOptions.RemoveEmptyEntries))
            if (JsonSerializer.Deserialize<Displacement>(line, TripJson.Lines) is { } one
                && DepotPath.TryParse(one.From) is { IsRoot: false }
                && DepotPath.TryParse(one.To) is { IsRoot: false })
                all.Add(one);
        return all;
    }

    // In packs nothing moves; only the entry learns its new name.
    private async Task<bool> HasMovedAsync(Displacement one, CancellationToken cancel) =>
        paths.Seal is not null
            || (await depot.ListAsync(paths.Data.Join(DepotPath.Of(one.To)).Parent, cancel)).Any(n => n.Name == DepotPath.Of(one.To).Name);

    /// <summary>Moves what the parcel keeps under old entries out of the way; all of it is written down before any is moved.</summary>
    /// <param name="all">In the order of their paths.</param>
    public async Task MoveAsync(IReadOnlyList<Entry> all, int trip, CancellationToken cancel)
    {
        if (all.Count == 0) return;
        var moves = new List<(Displacement Move, bool Stands)>();
        (DepotPath Folder, HashSet<string> Taken)? at = null;
        foreach (var old in all)
        {
            if (at?.Folder != old.Path.Parent) at = (old.Path.Parent, await TakenAsync(old.Path.Parent, cancel));
            var taken = at.Value.Taken;
            var stands = taken.Contains(old.Path.Name);
            var mark = $"=~gone-{trip}-{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(old.Path.Name)))[..8]}";
            // A trip that goes on after it broke off may have to move a name once more: a file that became a folder is a file again.
            var name = "";
            for (var number = 0; name.Length == 0 || taken.Contains(name); number++)
            {
                var ending = number == 0 ? mark : $"{mark}-{number}";
                name = NameRule.Shorten(old.Path.Name, ending.Length) + ending;
            }
            taken.Add(name);
            moves.Add((new(old.Path.Text, (old.Path.Parent / name).Text, old.Kind == EntryKind.Folder, trip), stands));
        }
        foreach (var (move, _) in moves) Add(move);
        await SaveAsync(cancel);
        // Packs hold what they hold under any name; there only the entry learns the new one.
        if (paths.Seal is not null) return;
        foreach (var (move, stands) in moves)
            if (!await depot.MoveAsync(paths.Data.Join(DepotPath.Of(move.From)), paths.Data.Join(DepotPath.Of(move.To)), cancel) && stands)
                throw new DepotUnreachableException(depot.Address, $"{move.From} could not be moved out of the way.");
    }

    private async Task<HashSet<string>> TakenAsync(DepotPath folder, CancellationToken cancel)
    {
        var taken = paths.Seal is null
            ? (await depot.ListAsync(paths.Data.Join(folder), cancel)).Select(n => n.Name).ToHashSet(StringComparer.Ordinal)
            : [];
        taken.UnionWith(_all.Select(o => DepotPath.Of(o.To)).Where(o => o.Parent == folder).Select(o => o.Name));
        return taken;
    }

    /// <summary>The entry as it is to be kept; null where it stays as it is. Asked twice, it answers the same.</summary>
    public Entry? Apply(Entry entry)
    {
        foreach (var one in (_sorted ??= new(_all)).For(entry))
        {
            var from = DepotPath.Of(one.From);
            var isIt = entry.Path == from
                ? entry.Kind == (one.IsFolder ? EntryKind.Folder : EntryKind.File)
                : one.IsFolder && entry.Path.IsIn(from);
            if (!isIt) continue;
            var sameAs = entry.SameAs is { } first && one.IsFolder && DepotPath.TryParse(first) is { } at && at.IsIn(from)
                ? one.To + first[one.From.Length..]
                : entry.SameAs;
            return entry with
            {
                Path = DepotPath.Of(one.To + entry.Path.Text[one.From.Length..]),
                Raw = entry.RawPath,
                GoneSince = entry.GoneSince ?? one.Trip,
                SameAs = sameAs
            };
        }
        return null;
    }

    /// <summary>Forgets all of it: the entries know.</summary>
    public async Task EndAsync(CancellationToken cancel)
    {
        _all.Clear();
        _sorted = null;
        await depot.RemoveAsync(paths.At(ParcelPaths.Displaced), cancel);
    }

    private void Add(Displacement one)
    {
        _all.Add(one);
        _sorted = null;
    }

    private async Task SaveAsync(CancellationToken cancel)
    {
        using var file = new TagFile(work);
        foreach (var one in _all) file.WriteText(TripJson.Write(one) + "\n");
        await file.MustSaveAsync(depot, paths, ParcelPaths.Displaced, cancel);
    }

    /// <summary>Those of files by their paths: there may be thousands, and each entry is held against them.</summary>
    private sealed class Sorted(List<Displacement> all)
    {
        private readonly Displacement[] _folders = [.. all.Where(o => o.IsFolder)];
        private readonly ILookup<string, Displacement> _files = all.Where(o => !o.IsFolder).ToLookup(o => o.From, StringComparer.Ordinal);

        public IEnumerable<Displacement> For(Entry entry) =>
            _files.Contains(entry.Path.Text) ? _files[entry.Path.Text].Concat(_folders) : _folders;
    }
}
