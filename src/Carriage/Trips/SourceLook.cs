using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Carriage.Trips;

/// <summary>A folder does not look like the one that the parcel was carried from; nothing was changed.</summary>
/// <param name="Doubt">What was seen.</param>
/// <param name="OnlyHere">Some names directly in the folder that the parcel has not.</param>
/// <param name="OnlyInParcel">Some files of the parcel that are not in the folder.</param>
public sealed record SourceDoubted(
    string Folder, string Parcel, SourceDoubt Doubt, IReadOnlyList<string> OnlyHere, IReadOnlyList<string> OnlyInParcel)
    : Problem(
        "carry.source-doubted",
        $"'{Folder}' does not look like what '{Parcel}' was carried from. {Doubt.Words} Nothing was changed.");

/// <summary>
/// Looks whether a folder is the one that a parcel was carried from, before a trip believes what it sees: a disk that is not mounted looks
/// like one on which all was deleted. First a few files of each folder; where these look odd, all of them.
/// </summary>
/// <param name="record">What the trip before left of its source; null: it left nothing.</param>
internal sealed class SourceLook(IDepot depot, ParcelPaths paths, CarryList list, SourceRecord? record)
{
    private const int OfEachFolder = 32;
    private const int MostFolders = 500;
    private const int MostTops = 10_000;
    private const int Examples = 5;
    private const string Others = "…";
    private static readonly byte[] Start = "{\"path\":\""u8.ToArray();

    private readonly Lazy<Clutter> _clutter = new(() => new());
    private readonly byte[][] _homes = [.. (record?.Homes ?? []).Select(h => Encoding.UTF8.GetBytes(h + "/"))];
    private readonly (string Group, byte[] Start)[] _mounts =
        [.. (record?.Mounts ?? []).Select(m => ("/" + m, Encoding.UTF8.GetBytes(m + "/")))];
    private readonly List<string> _missing = [];
    private readonly HashSet<string> _tops = new(StringComparer.Ordinal);

    /// <summary>Looks.</summary>
    /// <param name="now">The folder as it is now.</param>
    /// <param name="lastTrip">Number of the trip that left the entries.</param>
    /// <returns>What is doubtful; null: nothing, or there is nothing to hold it against.</returns>
    public async Task<SourceDoubted?> RunAsync(TreeRoot from, SourceRecord now, int lastTrip, CancellationToken cancel)
    {
        var isSamePlace = record is null || now.IsSamePlaceAs(record);
        try
        {
            var sample = await SampleAsync(cancel);
            // What is clutter takes long to find out, and seldom matters: only where it could hide what is gone, or be it.
            var all = Looked(from, sample, asksForClutter: false);
            if ((!all.Any(f => f.IsEmptied) && !SourceRule.IsWorthALook(all, isSamePlace))
                || !SourceRule.IsWorthALook(Looked(from, sample, asksForClutter: true), isSamePlace))
                return null;
            var folders = await AllAsync(from, cancel);
            if (SourceRule.Of(folders, isSamePlace) is not { } kind) return null;
            var sums = folders.Where(f => !f.IsMount).ToList();
            Amount Sum(Func<FolderOverlap, Amount> what) => sums.Aggregate(Amount.None, (sum, f) => sum + what(f));
            var doubt = new SourceDoubt(
                kind, lastTrip, Sum(f => f.Known), Sum(f => f.Same), Sum(f => f.Newer), Sum(f => f.Older),
                [.. folders.Where(f => f.Same != f.Known).OrderByDescending(f => f.Gone.Files).Take(MostFolders)],
                record is null ? [] : now.DiffersFrom(record));
            return new(from.Path, paths.Root.Text, doubt, OnlyHere(from), _missing);
        }
        catch (SealBrokenException)
        {
            // A list that cannot be read says nothing of the source; the trip itself tells what is wrong with it.
            return null;
        }
    }

    /// <summary>Some files of each folder, always the same ones: those whose lines have the smallest digests.</summary>
    private async Task<Dictionary<string, Picked>> SampleAsync(CancellationToken cancel)
    {
        var groups = new Dictionary<string, Picked>(StringComparer.Ordinal);
        if (await ParcelLists.OpenAsync(depot, paths, ParcelPaths.Entries, cancel) is not { } stream) return groups;
        using (var lines = new LineReader(stream))
            while (await lines.NextAsync(cancel) is { } line)
            {
                if (!line.Span.StartsWith(Start)
                    || line.Span.IndexOf("\"kind\":\"file\""u8) < 0
                    || line.Span.IndexOf("\"goneSince\""u8) >= 0)
                    continue;
                Pick(GroupOf(line.Span[Start.Length..]), line.Span);
                foreach (var (mount, start) in _mounts)
                    if (line.Span[Start.Length..].StartsWith(start)) Pick(mount, line.Span);
            }
        return groups;

        void Pick(string name, ReadOnlySpan<byte> line)
        {
            if (!groups.TryGetValue(name, out var picked))
            {
                if (groups.Count >= MostFolders) name = Others;
                if (!groups.TryGetValue(name, out picked)) groups[name] = picked = new();
            }
            picked.Add(line);
        }
    }

    private IReadOnlyCollection<FolderOverlap> Looked(TreeRoot from, Dictionary<string, Picked> sample, bool asksForClutter)
    {
        using var looker = new Looker(from, this) { AsksForClutter = asksForClutter };
        foreach (var (name, picked) in sample)
            foreach (var line in picked.Lines.UnorderedItems.Select(l => l.Element))
                if (Entry.TryParse(line) is { } entry) looker.Look(entry, name);
        return looker.Folders(name => sample[name].Count);
    }

    private async Task<IReadOnlyCollection<FolderOverlap>> AllAsync(TreeRoot from, CancellationToken cancel)
    {
        using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        using var looker = new Looker(from, this) { Missing = _missing };
        for (; entries.Current is { } entry; await entries.NextAsync(cancel))
        {
            if (entry.Path.Parent.IsRoot && _tops.Count < MostTops) _tops.Add(entry.Shown);
            if (entry.Kind != EntryKind.File || entry.GoneSince is not null) continue;
            looker.Look(entry, GroupOf(Encoding.UTF8.GetBytes(entry.Path.Text + "\"")));
            foreach (var mount in record?.Mounts ?? [])
                if (entry.Path.IsIn(DepotPath.Of(mount))) looker.Look(entry, "/" + mount);
        }
        return looker.Folders(_ => 0);
    }

    /// <summary>The folder that a file counts in: the first of its path, or of its path below somebody's home.</summary>
    /// <param name="path">With a quotation mark at its end.</param>
    private string GroupOf(ReadOnlySpan<byte> path)
    {
        foreach (var home in _homes)
            if (path.StartsWith(home) && path[home.Length..].IndexOfAny((byte)'/', (byte)'"') is var end and >= 0)
                return Encoding.UTF8.GetString(path[..(path[home.Length + end] == '"' ? home.Length - 1 : home.Length + end)]);
        var cut = path.IndexOfAny((byte)'/', (byte)'"');
        return cut < 0 || path[cut] == '"' ? "." : Encoding.UTF8.GetString(path[..cut]);
    }

    /// <summary>A path below the home that it lies in; places are known by such.</summary>
    private string BelowHome(string shown) =>
        record?.Homes.FirstOrDefault(h => shown.StartsWith(h + "/", StringComparison.Ordinal)) is { } home
            ? shown[(home.Length + 1)..]
            : shown;

    private List<string> OnlyHere(TreeRoot from)
    {
        using var open = from.TryOpen(out _);
        try
        {
            return [.. (open?.Names() ?? []).Select(n => PercentText.Encode(n)).Where(n => !_tops.Contains(n))
                .Order(StringComparer.Ordinal).Take(Examples)];
        }
        catch (FileTroubleException)
        {
            return [];
        }
    }

    /// <summary>Lines of one folder: those few that are looked at, and how many there are.</summary>
    private sealed class Picked
    {
        public PriorityQueue<byte[], uint> Lines { get; } = new();

        public long Count { get; private set; }

        public void Add(ReadOnlySpan<byte> line)
        {
            Count++;
            // As good as chance, and the same on each run.
            var path = line[Start.Length..];
            var order = Fnv(path[..Math.Max(0, path.IndexOf((byte)'"'))]);
            if (Lines.Count < OfEachFolder) Lines.Enqueue(line.ToArray(), order);
            else if (Lines.TryPeek(out _, out var least) && order > least) Lines.DequeueEnqueue(line.ToArray(), order);
        }

        private static uint Fnv(ReadOnlySpan<byte> bytes)
        {
            var hash = 2166136261u;
            foreach (var b in bytes) hash = (hash ^ b) * 16777619;
            return hash;
        }
    }

    /// <summary>Holds entries against what stands under their names.</summary>
    private sealed class Looker(TreeRoot from, SourceLook look) : IDisposable
    {
        private readonly Dictionary<string, Counts> _counts = new(StringComparer.Ordinal);
        private readonly OpenFolder? _top = from.TryOpen(out _);
        private OpenFolder? _folder;
        private Trouble _trouble;
        private byte[]? _at;

        public List<string>? Missing { get; init; }

        public bool AsksForClutter { get; init; } = true;

        public void Look(Entry entry, string group)
        {
            // What was taken in from somebody's copy was never seen at a source.
            if (entry.Adopted || look.IsNothing(entry.Shown, AsksForClutter)) return;
            var raw = entry.RawPath;
            var cut = raw.AsSpan().LastIndexOf((byte)'/');
            var facts = FactsOf(raw.AsSpan(0, Math.Max(0, cut)), raw.AsSpan(cut + 1), out var trouble);
            var isGone = facts is null
                ? trouble.Fault is Fault.NotThere or Fault.NotAFolder or Fault.ThroughLink
                : facts.Value.Kind != NodeKind.File;
            // What cannot be looked at is not known to be gone.
            if (facts is null && !isGone) return;
            if (!_counts.TryGetValue(group, out var counts)) _counts[group] = counts = new();
            var file = Amount.File(entry.Bytes);
            counts.Known += file;
            if (isGone)
            {
                if (Missing?.Count < Examples && !group.StartsWith('/')) Missing.Add(entry.Shown);
                return;
            }
            var (now, modified) = (facts!.Value, entry.Modified);
            if (now.Bytes == entry.Bytes && now.Modified == modified) counts.Same += file;
            else if (now.Modified.IsBefore(modified)) counts.Older += file;
            else counts.Newer += file;
        }

        /// <summary>What was found, told as of all files of a folder where only some were looked at.</summary>
        /// <param name="all">How many there are; 0: those that were looked at.</param>
        public IReadOnlyCollection<FolderOverlap> Folders(Func<string, long> all) =>
            [.. _counts.Select(c =>
            {
                var scale = Math.Max(1, (double)all(c.Key) / Math.Max(1, c.Value.Known.Files));
                return new FolderOverlap(
                    c.Key.TrimStart('/'), Scaled(c.Value.Known, scale), Scaled(c.Value.Same, scale), Scaled(c.Value.Newer, scale),
                    Scaled(c.Value.Older, scale), c.Key.StartsWith('/'));
            })];

        private static Amount Scaled(Amount amount, double by) => new((long)(amount.Files * by), (long)(amount.Bytes * by));

        private NodeFacts? FactsOf(ReadOnlySpan<byte> folder, ReadOnlySpan<byte> name, out Trouble trouble)
        {
            if (_at is null || !folder.SequenceEqual(_at))
            {
                if (_folder != _top) _folder?.Dispose();
                _at = folder.ToArray();
                (_folder, _trouble) = (_top, default);
                if (folder.Length > 0) _folder = _top?.TryOpenFolder(folder, FolderUse.Pass, out _trouble);
            }
            trouble = _trouble;
            return _folder?.TryFacts(name, out trouble);
        }

        public void Dispose()
        {
            if (_folder != _top) _folder?.Dispose();
            _top?.Dispose();
        }

        private sealed class Counts
        {
            public Amount Known, Same, Newer, Older;
        }
    }

    private bool IsNothing(string shown, bool asksForClutter) =>
        list.Of(shown, false, out _) == CarryVerdict.Leave || (asksForClutter && _clutter.Value.Has(BelowHome(shown)));

    /// <summary>Whether a file lies in a cache, the trash or a cloud: these come and go by themselves.</summary>
    private sealed class Clutter
    {
        private readonly PlacePattern[] _folders = Patterns(files: false), _files = Patterns(files: true);
        private readonly Dictionary<string, bool> _known = new(StringComparer.Ordinal);

        public bool Has(string path)
        {
            var cut = path.LastIndexOf('/');
            var folder = cut < 0 ? "" : path[..cut];
            var parts = folder.Length == 0 ? [] : folder.Split('/');
            if (_files.Any(p => p.MatchesFile(parts, path[(cut + 1)..], tellsCase: false))) return true;
            if (_known.TryGetValue(folder, out var known)) return known;
            if (_known.Count > 10_000) _known.Clear();
            return _known[folder] = Enumerable.Range(1, parts.Length)
                .Any(n => _folders.Any(p => p.Matches(parts.AsSpan(0, n), tellsCase: false)));
        }

        private static PlacePattern[] Patterns(bool files) =>
            [.. PlaceRules.Standard.All
                .Where(r => r.Files == files && r.Kind is PlaceKind.Clutter or PlaceKind.Cloud && r.Marks.Count == 0)
                .SelectMany(r => r.Paths.Values).SelectMany(p => p).DistinctBy(p => p.Text)];
    }
}
