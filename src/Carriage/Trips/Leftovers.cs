using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What a trip that broke off left in the parcel without a word about it: files that were saved after the last line of its journal.
/// Most still stand at the source and are carried anew. The others were deleted there meanwhile, and are kept and counted as such.
/// </summary>
internal static class Leftovers
{
    /// <summary>
    /// Journals an entry for each file and folder under <c>data/</c> that the entries do not know, as deleted at the source.
    /// </summary>
    /// <param name="notTaken">The medium may not have what reads as whole: it is written anew.</param>
    public static async Task AdoptAsync(
        IDepot depot, ParcelPaths paths, Journal journal, int trip, bool notTaken, IWork work, CancellationToken cancel)
    {
        using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        await foreach (var (path, isFolder, _) in DepotTree.AllAsync(depot, paths.Data, cancel))
        {
            var below = path.Below(paths.Data);
            var key = isFolder ? below.Text + "/" : below.Text;
            while (entries.Current is { } before && DepotPath.CompareUtf8(before.Key, key) < 0) await entries.NextAsync(cancel);
            // A link lies nowhere in a parcel: what lies under its name was there before it.
            if (entries.Current is { Kind: not EntryKind.Link } known && known.Key == key) continue;
            var entry = EntryOf(below, isFolder, work.Time.GetUtcNow()) with { GoneSince = trip };
            var staged = isFolder ? entry : await AsStagedAsync(depot, paths, entry, notTaken, work, cancel);
            await journal.AddAsync(staged, unproven: false, cancel);
        }
        await journal.FlushAsync(cancel);
    }

    /// <summary>What can be told of a name that lies in the parcel without a word about it: for the owner alone, of that time.</summary>
    public static Entry EntryOf(DepotPath below, bool isFolder, DateTimeOffset when)
    {
        var raw = below.Text.Split('/').Select(NameRule.Read).Aggregate((path, name) => [.. path, (byte)'/', .. name]);
        return new()
        {
            Path = below,
            Raw = PercentText.Encode(raw) == below.Text ? null : raw,
            Kind = isFolder ? EntryKind.Folder : EntryKind.File,
            Mode = (ushort)(isFolder ? 0x1C0 : 0x180),
            Modified = new(when.ToUnixTimeSeconds(), 0),
        };
    }

    // Nobody else has it any more, and the medium may not either.
    private static async Task WriteAnewAsync(IDepot depot, ParcelPaths paths, Entry kept, IWork work, CancellationToken cancel)
    {
        var path = paths.Data.Join(kept.Path);
        // It takes the place of what is in memory only once it was read back from the medium.
        var content = new Content(Open, kept.Bytes) { SettlesFirst = depot.HasMedium, Sha256 = () => kept.Sha256! };
        var saved = await depot.SaveAsync(path, paths.At(ParcelPaths.Aside) / "anew", content, cancel);
        if (!saved.IsOk) throw depot.Broke(saved.Problem);

        Stream Open() => work.Wait(() => depot.OpenAsync(path, cancel)).Value;
    }

    /// <summary>
    /// The entry of a file with length and digest of what the depot holds of it; the same entry when the depot holds nothing.
    /// </summary>
    /// <param name="notTaken">The medium may not have it: it is taken out of memory, before that forgets it, and written anew.</param>
    public static async Task<Entry> AsStagedAsync(
        IDepot depot, ParcelPaths paths, Entry entry, bool notTaken, IWork work, CancellationToken cancel)
    {
        if (notTaken)
        {
            if (!(await depot.OpenAsync(paths.Data.Join(entry.Path), cancel)).TryGet(out var reads, out _)) return entry;
            Entry kept;
            await using (reads) kept = await AsReadAsync(reads, entry, cancel);
            // Also where a list has its digest: that list was made while the medium was believed.
            await WriteAnewAsync(depot, paths, kept, work, cancel);
            return kept;
        }
        if (!(await depot.OpenBackAsync(paths.Data.Join(entry.Path), cancel)).TryGet(out var back, out _)) return entry;
        await using (back.Stream) return await AsReadAsync(back.Stream, entry, cancel);
    }

    /// <summary>The same by what is read now, wherever that comes from: nothing is to be proven.</summary>
    public static async Task<Entry> AsItReadsAsync(IDepot depot, ParcelPaths paths, Entry entry, CancellationToken cancel)
    {
        if (!(await depot.OpenAsync(paths.Data.Join(entry.Path), cancel)).TryGet(out var stream, out _)) return entry;
        await using (stream) return await AsReadAsync(stream, entry, cancel);
    }

    private static async Task<Entry> AsReadAsync(Stream stream, Entry entry, CancellationToken cancel)
    {
        var (sha256, bytes) = await Digest.OfAsync(stream, null, cancel);
        return sha256 == entry.Sha256 ? entry : entry with { Sha256 = sha256, Bytes = bytes, Data = null };
    }
}
