using System.Buffers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What a trip has staged but not yet entered: numbered files of entries under <c>yard/journal</c>, written after the files they name.
/// Journal last: after a crash a file too many in the parcel is found again, a line too many would be believed.
/// </summary>
internal sealed class Journal(IDepot depot, ParcelPaths paths, IWork work, TimeSpan every, int files)
{
    private readonly ArrayBufferWriter<byte> _lines = new(64 * 1024);
    private int _count;
    private bool _isLost;
    private int _number;
    private long _since = work.Time.GetTimestamp();

    private DepotPath Folder => paths.At(ParcelPaths.Journal);

    public async ValueTask AddAsync(Entry entry, CancellationToken cancel)
    {
        entry.Write(_lines);
        if (++_count >= files || work.Time.GetElapsedTime(_since) > every) await FlushAsync(cancel);
    }

    public async Task FlushAsync(CancellationToken cancel)
    {
        _since = work.Time.GetTimestamp();
        if (_count == 0 || _isLost) return;
        // What a part names is on the medium before the part is: after a power cut nothing else would tell that it is not.
        try
        {
            await SettleAsync(depot, paths, cancel);
        }
        catch (DepotNotTakenException)
        {
            // A system tells it once; asked again it would know nothing of it.
            _isLost = true;
            throw;
        }
        using (var part = new TagFile(work))
        {
            part.Out.Write(_lines.WrittenSpan);
            await part.MustSaveAsync(depot, paths, $"{ParcelPaths.Journal}/{++_number:00000000}.jsonl", cancel);
        }
        _lines.ResetWrittenCount();
        _count = 0;
    }

    /// <summary>
    /// Enters what was staged and what was moved out of the way into the entries, so that the next trip is an ordinary one. Repeatable.
    /// </summary>
    public async Task FoldAsync(Displaced displaced, CancellationToken cancel)
    {
        var parts = (await depot.ListAsync(Folder, cancel))
            .Where(n => !n.IsFolder)
            .Select(n => n.Name.EndsWith(".age", StringComparison.Ordinal) ? n.Name[..^4] : n.Name)
            .Order(StringComparer.Ordinal).ToList();
        if (parts.Count == 0 && !displaced.Any) return;
        var moved = displaced.Any ? await MovedAsync(displaced, cancel) : new();
        using var entries = new TagFile(work);
        using (var old = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel))
        {
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
        }
        await SettleAsync(depot, paths, cancel);
        await entries.MustSaveAsync(depot, paths, ParcelPaths.Entries, cancel);
        await depot.RemoveAsync(Folder, cancel);
        await displaced.EndAsync(cancel);

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

    /// <summary>
    /// Brings onto the medium what a list is about to say is there. What it did not take reads as whole until the computer forgets it, so
    /// no journal says any more that it is staged.
    /// </summary>
    /// <exception cref="DepotNotTakenException">It did not take all of it.</exception>
    public static async Task SettleAsync(IDepot depot, ParcelPaths paths, CancellationToken cancel)
    {
        try
        {
            await depot.SettleAsync(cancel);
        }
        catch (DepotNotTakenException)
        {
            await depot.RemoveAsync(paths.At(ParcelPaths.Journal), cancel);
            await depot.SaveAsync(
                paths.At(ParcelPaths.NotTaken), paths.At(ParcelPaths.Aside) / "not-taken", () => new MemoryStream([(byte)'\n']), 1, cancel);
            throw;
        }
    }

    private async Task<Queue<Entry>> MovedAsync(Displaced displaced, CancellationToken cancel)
    {
        var found = new List<Entry>();
        using var old = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        for (; old.Current is { } entry; await old.NextAsync(cancel))
            if (displaced.Apply(entry) is { } moved) found.Add(moved);
        found.Sort((a, b) => DepotPath.CompareUtf8(a.Key, b.Key));
        return new(found);
    }
}
