using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Parcels;

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
        IDepot depot, ParcelPaths paths, Journal journal, int trip, DateTimeOffset now, bool notTaken, CancellationToken cancel)
    {
        using var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        await foreach (var (path, isFolder, _) in DepotTree.AllAsync(depot, paths.Data, cancel))
        {
            var below = path.Below(paths.Data);
            var key = isFolder ? below.Text + "/" : below.Text;
            while (entries.Current is { } before && DepotPath.CompareUtf8(before.Key, key) < 0) await entries.NextAsync(cancel);
            if (entries.Current?.Key == key) continue;
            var entry = new Entry
            {
                Path = below,
                Kind = isFolder ? EntryKind.Folder : EntryKind.File,
                Mode = (ushort)(isFolder ? 0x1C0 : 0x180),
                Modified = new(now.ToUnixTimeSeconds(), 0),
                GoneSince = trip
            };
            await journal.AddAsync(isFolder ? entry : await AsStagedAsync(depot, paths, entry, notTaken, cancel), cancel);
        }
        await journal.FlushAsync(cancel);
    }

    // Nobody else has it any more, and the medium may not either.
    private static async Task WriteAnewAsync(IDepot depot, ParcelPaths paths, DepotPath path, long bytes, CancellationToken cancel)
    {
        var saved = await depot.SaveAsync(paths.Data.Join(path), paths.At(ParcelPaths.Aside) / "anew", Open, bytes, cancel);
        if (!saved.IsOk) throw depot.Broke(saved.Problem);

        // Answers at once: only a folder of this computer asks its medium.
        Stream Open() => depot.OpenAsync(paths.Data.Join(path), cancel).GetAwaiter().GetResult().Value;
    }

    /// <summary>
    /// The entry of a file with length and digest of what the depot holds of it; the same entry when the depot holds nothing.
    /// </summary>
    public static async Task<Entry> AsStagedAsync(
        IDepot depot, ParcelPaths paths, Entry entry, bool notTaken, CancellationToken cancel)
    {
        var opened = await depot.OpenAsync(paths.Data.Join(entry.Path), cancel);
        if (!opened.TryGet(out var stream, out _)) return entry;
        await using (stream)
        {
            var (sha256, bytes) = await Digest.OfAsync(stream, null, cancel);
            if (sha256 == entry.Sha256) return entry;
            if (notTaken) await WriteAnewAsync(depot, paths, entry.Path, bytes, cancel);
            return entry with { Sha256 = sha256, Bytes = bytes, Data = null };
        }
    }
}
