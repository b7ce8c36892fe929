using System.Buffers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>The entries of a parcel, brought up to what a journal tells and to what was moved out of the way. Reads only.</summary>
internal static class JournalFold
{
    /// <summary>Merges them; null: there is no journal and nothing was moved, so that the parcel's own list is all there is.</summary>
    public static async Task<TagFile?> MergeAsync(
        IDepot depot, ParcelPaths paths, Displaced displaced, IWork work, CancellationToken cancel)
    {
        var parts = (await depot.ListAsync(paths.At(ParcelPaths.Journal), cancel))
            .Where(n => !n.IsFolder)
            .Select(n => n.Name.EndsWith(".age", StringComparison.Ordinal) ? n.Name[..^4] : n.Name)
            .Order(StringComparer.Ordinal).ToList();
        if (parts.Count == 0 && !displaced.Any) return null;
        var moved = displaced.Any ? await MovedAsync(depot, paths, displaced, cancel) : new();
        var entries = new TagFile(work);
        try
        {
            using var old = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
            // Entries are journaled in the order of the walk, so the parts one after the other are one sorted list.
            var last = "";
            foreach (var part in parts)
            {
                using var reader = await EntryReader.OpenAsync(depot, paths, $"{ParcelPaths.Journal}/{part}", null, cancel);
                for (; reader.Current is { } staged; await reader.NextAsync(cancel))
                {
                    if (DepotPath.CompareUtf8(staged.Key, last) < 0) continue;
                    last = staged.Key;
                    for (; old.Current is { } before && DepotPath.CompareUtf8(before.Key, staged.Key) < 0; await old.NextAsync(cancel))
                        Keep(before, old.Line);
                    if (old.Current?.Key == staged.Key) await old.NextAsync(cancel);
                    MovedBefore(staged.Key);
                    Copy(reader.Line);
                }
            }
            for (; old.Current is { } before; await old.NextAsync(cancel)) Keep(before, old.Line);
            MovedBefore(null);
            return entries;
        }
        catch
        {
            entries.Dispose();
            throw;
        }

        void Keep(Entry before, ReadOnlyMemory<byte> line)
        {
            MovedBefore(before.Key);
            if (displaced.Apply(before) is null) Copy(line);
        }

        void MovedBefore(string? key)
        {
            while (moved.TryPeek(out var next) && (key is null || DepotPath.CompareUtf8(next.Key, key) < 0))
            {
                moved.Dequeue();
                var line = new ArrayBufferWriter<byte>();
                next.Write(line);
                entries.Out.Write(line.WrittenSpan);
            }
        }

        void Copy(ReadOnlyMemory<byte> line)
        {
            entries.Out.Write(line.Span);
            entries.Out.WriteByte((byte)'\n');
        }
    }

    private static async Task<Queue<Entry>> MovedAsync(IDepot depot, ParcelPaths paths, Displaced displaced, CancellationToken cancel)
    {
        var found = new List<Entry>();
        using var old = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        for (; old.Current is { } entry; await old.NextAsync(cancel))
            if (displaced.Apply(entry) is { } moved) found.Add(moved);
        found.Sort((a, b) => DepotPath.CompareUtf8(a.Key, b.Key));
        return new(found);
    }
}
