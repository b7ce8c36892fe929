using System.Buffers;
using YardRelay.Carriage.Depots;

namespace YardRelay.Carriage.Parcels;

/// <summary>
/// What a trip has staged but not yet entered: numbered files of entries under <c>yard/journal</c>, written after the files they name.
/// Journal last: after a crash a file too many in the parcel is found again, a line too many would be believed.
/// </summary>
internal sealed class Journal(IDepot depot, ParcelPaths paths, TimeProvider time, TimeSpan every, int files)
{
    private readonly ArrayBufferWriter<byte> _lines = new(64 * 1024);
    private int _count;
    private int _number;
    private long _since = time.GetTimestamp();

    private DepotPath Folder => paths.At(ParcelPaths.Journal);

    public async ValueTask AddAsync(Entry entry, CancellationToken cancel)
    {
        entry.Write(_lines);
        if (++_count >= files || time.GetElapsedTime(_since) > every) await FlushAsync(cancel);
    }

    public async Task FlushAsync(CancellationToken cancel)
    {
        _since = time.GetTimestamp();
        if (_count == 0) return;
        var bytes = _lines.WrittenSpan.ToArray();
        var name = $"{++_number:00000000}.jsonl";
        var saved = await depot.SaveAsync(Folder / name, paths.At(ParcelPaths.Aside) / $"journal-{name}", () => new MemoryStream(bytes), bytes.Length, cancel);
        if (!saved.IsOk) throw saved.Problem is DepotFull full ? new DepotFullException(full) : new DepotUnreachableException(depot.Address, saved.Problem.Message);
        _lines.ResetWrittenCount();
        _count = 0;
    }

    /// <summary>Enters what a trip that broke off had staged into the entries, so that the next trip is an ordinary one. Repeatable.</summary>
    public async Task FoldAsync(CancellationToken cancel)
    {
        var parts = (await depot.ListAsync(Folder, cancel)).Where(n => !n.IsFolder).Select(n => n.Name).Order(StringComparer.Ordinal).ToList();
        if (parts.Count == 0) return;
        using var entries = new TagFile();
        using (var old = await EntryReader.OpenAsync(depot, paths.At(ParcelPaths.Entries), null, cancel))
        {
            // Entries are journaled in the order of the walk, so the parts one after the other are one sorted list.
            var last = "";
            foreach (var part in parts)
            {
                using var reader = await EntryReader.OpenAsync(depot, Folder / part, null, cancel);
                for (; reader.Current is { } staged; await reader.NextAsync(cancel))
                {
                    if (DepotPath.CompareUtf8(staged.Key, last) < 0) continue;
                    last = staged.Key;
                    for (; old.Current is { } before && DepotPath.CompareUtf8(before.Key, staged.Key) < 0; await old.NextAsync(cancel)) Copy(old.Line);
                    if (old.Current?.Key == staged.Key) await old.NextAsync(cancel);
                    Copy(reader.Line);
                }
            }
            for (; old.Current is not null; await old.NextAsync(cancel)) Copy(old.Line);
        }
        var saved = await entries.SaveAsync(depot, paths, ParcelPaths.Entries, cancel);
        if (!saved.IsOk) throw saved.Problem is DepotFull full ? new DepotFullException(full) : new DepotUnreachableException(depot.Address, saved.Problem.Message);
        await depot.RemoveAsync(Folder, cancel);

        void Copy(ReadOnlyMemory<byte> line)
        {
            entries.Out.Write(line.Span);
            entries.Out.WriteByte((byte)'\n');
        }
    }
}
