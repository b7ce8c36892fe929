using System.Buffers;
using System.Text;
using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What a parcel holds whose last trip broke off, gathered from its list of entries, its journal, what was moved out of the way, and what
/// lies in it without a word. Only reads. What the trip before left comes back as that one left it, or as the one that broke off found it
/// later; of which files no list says how they must be, is told one by one.
/// </summary>
internal sealed class UnfinishedParcel : IDisposable
{
    /// <summary>The digest of a file of which no list says one; no content has it.</summary>
    public static readonly string NoDigest = new('0', 64);

    private readonly IDepot _depot;
    private readonly ParcelPaths _paths;
    private readonly Func<string, bool> _wants;
    private readonly ArrayBufferWriter<byte> _line = new(4096);
    private readonly TagFile _entries;
    private readonly HashSet<string> _superseded = new(StringComparer.Ordinal);
    private readonly HashSet<int> _packs = [];
    private readonly List<Snag> _snags = [];
    private readonly UnfinishedTrip _trip;
    private long _newer;
    private bool _knowsBefore;

    private UnfinishedParcel(IDepot depot, ParcelPaths paths, UnfinishedTrip trip, Func<string, bool> wants, IWork work) =>
        (_depot, _paths, _trip, _wants, _entries) = (depot, paths, trip, wants, new(work));

    /// <summary>What broke off; how many files no list names is not counted here.</summary>
    public UnfinishedTrip Trip => _trip with { NewerFiles = _knowsBefore || _trip.Last is null ? _newer : null };

    /// <summary>What nobody can bring, by its path in the bag.</summary>
    public IReadOnlyList<Snag> Snags => _snags;

    /// <summary>Gathers it.</summary>
    /// <param name="wants">Whether a path is to be restored.</param>
    /// <returns>Null: the trip that looks as if it broke off came to its end, and the parcel is whole.</returns>
    public static async Task<UnfinishedParcel?> GatherAsync(
        IDepot depot, ParcelPaths paths, Func<string, bool> wants, IWork work, CancellationToken cancel)
    {
        var begun = await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.OpenTrip), cancel) is { } text ? Read<TripBegun>(text) : null;
        var digests = await ListDigests.ReadAsync(depot, paths, cancel);
        var ended = Encoding.UTF8.GetString(await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Trips), cancel) ?? [])
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => Read<TripEnded>(Encoding.UTF8.GetBytes(l))).OfType<TripEnded>().ToList();
        if (begun is not null
            && ended.Exists(e => e.Trip == begun.Trip)
            && await digests.WrongAsync(depot, paths, ParcelPaths.Trips, cancel) is null
            && await digests.WrongAsync(depot, paths, ParcelPaths.Entries, cancel) is null)
            return null;
        var last = ended.FindLast(e => begun is null || e.Trip < begun.Trip);
        var number = begun?.Trip ?? (last?.Trip ?? 0) + 1;
        var trip = new UnfinishedTrip(number, begun?.Started, last?.Trip, last?.Ended, null, Amount.None, []);
        var gathered = new UnfinishedParcel(depot, paths, trip, wants, work);
        try
        {
            var displaced = new Displaced(depot, paths, work);
            await displaced.ReadAsync(cancel);
            using var folded = await JournalFold.MergeAsync(depot, paths, displaced, work, cancel);
            await gathered.GatherAsync(folded, digests, cancel);
            return gathered;
        }
        catch
        {
            gathered.Dispose();
            throw;
        }
    }

    /// <summary>The entries, in their order.</summary>
    public Task<EntryReader> OpenAsync(Action<string>? damaged, CancellationToken cancel) =>
        EntryReader.OfAsync(_entries.Read(), damaged, cancel);

    /// <summary>A file as the depot really has it; null: as it is listed, or not at all.</summary>
    public async Task<Entry?> AsItStandsAsync(Entry entry, CancellationToken cancel)
    {
        if (_paths.Seal is not null) return null;
        var standing = await Leftovers.AsItReadsAsync(_depot, _paths, entry, cancel);
        return standing.Sha256 == entry.Sha256 ? null : standing;
    }

    /// <summary>What is said of a file that is restored as the depot has it.</summary>
    public Snag Doubt(Entry listed, Entry standing) =>
        new(standing.Shown, SnagKind.Unfinished, standing.Bytes, _trip.Doubt(listed.Sha256 != NoDigest), CountsAsFile: false);

    private static T? Read<T>(byte[] text) where T : class
    {
        try
        {
            return JsonSerializer.Deserialize<T>(text, TripJson.Lines);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private async Task GatherAsync(TagFile? folded, ListDigests digests, CancellationToken cancel)
    {
        await SeeSupersededAsync(folded, cancel);
        using var listed = await EntriesAsync(folded, cancel);
        using var before = await LastManifest.OpenAsync(_depot, _paths, digests, cancel);
        _knowsBefore = before.IsKnown;
        await using var there = Lying(cancel).GetAsyncEnumerator(cancel);
        var more = await there.MoveNextAsync();
        for (; listed.Current is { } entry; await listed.NextAsync(cancel))
        {
            await LeftoversAsync(entry.Key);
            if (more && there.Current.Key == entry.Key) more = await there.MoveNextAsync();
            Add(await RevivedAsync(entry, before, cancel));
        }
        await LeftoversAsync(null);
        if (_paths.Seal is not null) await SeePacksAsync(cancel);

        async Task LeftoversAsync(string? key)
        {
            for (; more && (key is null || DepotPath.CompareUtf8(there.Current.Key, key) < 0); more = await there.MoveNextAsync())
            {
                var (path, isFolder, bytes, _) = there.Current;
                var said = isFolder ? null : await before.OfAsync(path, cancel) ?? NoDigest;
                Add(Leftovers.EntryOf(path, isFolder, _trip.Began ?? DateTimeOffset.UnixEpoch) with { Bytes = bytes, Sha256 = said });
            }
        }
    }

    private async IAsyncEnumerable<(DepotPath Path, bool IsFolder, long Bytes, string Key)> Lying(
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        if (_paths.Seal is not null) yield break;
        await foreach (var (path, isFolder, bytes) in DepotTree.AllAsync(_depot, _paths.Data, cancel))
        {
            var below = path.Below(_paths.Data);
            yield return (below, isFolder, bytes, isFolder ? below.Text + "/" : below.Text);
        }
    }

    private Task<EntryReader> EntriesAsync(TagFile? folded, CancellationToken cancel) =>
        folded is null
            ? EntryReader.OpenAsync(_depot, _paths, ParcelPaths.Entries, null, cancel)
            : EntryReader.OfAsync(folded.Read(), null, cancel);

    // What made way for a newer state of the same name has its successor; what made way for one that never came has none.
    private async Task SeeSupersededAsync(TagFile? folded, CancellationToken cancel)
    {
        var madeWay = new HashSet<string>(StringComparer.Ordinal);
        using (var entries = await EntriesAsync(folded, cancel))
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
                if (Displaced.MadeWay(entry, _trip.Trip)) madeWay.Add(NameOf(entry));
        if (madeWay.Count == 0) return;
        using var again = await EntriesAsync(folded, cancel);
        for (; again.Current is { } entry; await again.NextAsync(cancel))
            if (entry.GoneSince is null && NameOf(entry) is var name && madeWay.Contains(name)) _superseded.Add(name);
    }

    private static string NameOf(Entry entry) => $"{entry.Kind} {entry.Shown}";

    // That something is gone at the source is the word of a trip that ended; the one that broke off said so only of what it did not know.
    private async Task<Entry> RevivedAsync(Entry entry, LastManifest before, CancellationToken cancel)
    {
        foreach (var piece in entry.Packs ?? []) _packs.Add(piece.Pack);
        var isFile = entry.Kind == EntryKind.File;
        var asBefore = isFile
            && (entry.Packs is { } pieces
                ? pieces.All(p => before.HasPack(p.Pack))
                : await before.OfAsync(entry.Path, cancel) is { } said && said == entry.Sha256);
        if (entry.GoneSince == _trip.Trip)
        {
            var madeWay = Displaced.MadeWay(entry, _trip.Trip);
            if (madeWay && _superseded.Contains(NameOf(entry))) return entry;
            var isLeftover = isFile && !madeWay && !asBefore && _paths.Seal is null;
            entry = entry with { GoneSince = null, Sha256 = isLeftover ? NoDigest : entry.Sha256 };
        }
        else if (isFile && !asBefore && entry.GoneSince is null && _wants(entry.Shown)) _newer++;
        return entry;
    }

    private async Task SeePacksAsync(CancellationToken cancel)
    {
        foreach (var name in (await _depot.ListAsync(_paths.Data, cancel)).OrderBy(n => n.Name, StringComparer.Ordinal))
            if (!name.IsFolder && PackPiece.TryNumber(name.Name) is { } number && !_packs.Contains(number))
                _snags.Add(new(
                    $"data/{name.Name}",
                    SnagKind.Unfinished,
                    name.Bytes,
                    $"Trip {_trip.Trip} brought this pack, and broke off before it wrote down what is in it. The parcel's key opens it "
                        + "with age; inside is a tar archive. Look whether something in it is missed.",
                    CountsAsFile: false));
    }

    private void Add(Entry entry)
    {
        _line.ResetWrittenCount();
        entry.Write(_line);
        _entries.Out.Write(_line.WrittenSpan);
    }

    public void Dispose() => _entries.Dispose();

    /// <summary>The manifest that the last trip left which ended, as far as it can be believed; asked in the order of paths.</summary>
    private sealed class LastManifest : IDisposable
    {
        private static readonly DepotPath Data = DepotPath.Of("data");
        private readonly LineReader? _lines;
        private readonly HashSet<int> _packs = [];
        private ManifestLine? _at;

        private LastManifest(LineReader? lines) => _lines = lines;

        public static async Task<LastManifest> OpenAsync(IDepot depot, ParcelPaths paths, ListDigests digests, CancellationToken cancel)
        {
            if (digests.Of(ParcelPaths.Manifest) is null
                || await digests.WrongAsync(depot, paths, ParcelPaths.Manifest, cancel) is not null
                || !(await depot.OpenAsync(paths.At(ParcelPaths.Manifest), cancel)).TryGet(out var stream, out _))
                return new(null);
            var manifest = new LastManifest(new(stream));
            await manifest.NextAsync(cancel);
            for (; paths.Seal is not null && manifest._at is { } line; await manifest.NextAsync(cancel))
                if (PackPiece.TryNumber(line.Path.Name) is { } number) manifest._packs.Add(number);
            return manifest;
        }

        public bool IsKnown => _lines is not null;

        public bool HasPack(int pack) => _packs.Contains(pack);

        /// <summary>The digest that it names for a file below <c>data/</c>; null: none.</summary>
        public async ValueTask<string?> OfAsync(DepotPath path, CancellationToken cancel)
        {
            while (_at is { } line && line.Path.Below(Data).CompareTo(path) < 0) await NextAsync(cancel);
            return _at is { } found && found.Path.Below(Data) == path ? found.Sha256 : null;
        }

        private async ValueTask NextAsync(CancellationToken cancel)
        {
            _at = null;
            while (_at is null && _lines is not null && await _lines.NextAsync(cancel) is { } line)
                if (ManifestLine.TryParse(line.Span) is { } parsed && parsed.Path.IsIn(Data)) _at = parsed;
        }

        public void Dispose() => _lines?.Dispose();
    }
}
