using System.Buffers;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// Entries and manifest as a trip leaves them. As long as all stands as it was, nothing is written: the old files stay good.
/// </summary>
internal sealed class NewEntries(IDepot depot, ParcelPaths paths, PackList? packs, bool differs, IWork work) : IDisposable
{
    private static readonly DepotPath Data = DepotPath.Of("data");
    private readonly ArrayBufferWriter<byte> _line = new(4096);
    private long _unchanged;

    public TagFile Entries { get; } = new(work);

    public TagFile Manifest { get; } = new(work);

    /// <summary>Whether they differ from those in the parcel.</summary>
    public bool Differs { get; private set; } = differs;

    /// <summary>Files and bytes under <c>data/</c>.</summary>
    public Amount Payload => packs?.Payload ?? _files;

    private Amount _files;

    /// <summary>All entries are there: the manifest of packs can be written.</summary>
    public Task CloseAsync(CancellationToken cancel) => packs is null || !Differs ? Task.CompletedTask : packs.WriteAsync(Manifest, cancel);

    /// <summary>Takes away packs that no entry needs any more.</summary>
    /// <returns>Whether there were any.</returns>
    public Task<bool> TidyAsync(CancellationToken cancel) =>
        packs is null || !Differs ? Task.FromResult(false) : packs.RemoveOthersAsync(cancel);

    /// <summary>An old entry has no successor.</summary>
    public Task DropAsync(CancellationToken cancel) => BeginAsync(cancel);

    /// <summary>Adds the next entry.</summary>
    /// <param name="same">Whether the parcel holds the very same entry already.</param>
    public async ValueTask AddAsync(Entry entry, bool same, CancellationToken cancel)
    {
        if (entry.Kind == EntryKind.File) _files += Amount.File(entry.Bytes);
        if (same && !Differs)
        {
            _unchanged++;
            return;
        }
        await BeginAsync(cancel);
        _line.ResetWrittenCount();
        entry.Write(_line);
        Entries.Out.Write(_line.WrittenSpan);
        List(entry);
    }

    private async Task BeginAsync(CancellationToken cancel)
    {
        if (Differs) return;
        Differs = true;
        using var old = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel);
        for (; _unchanged > 0 && old.Current is { } entry; _unchanged--, await old.NextAsync(cancel))
        {
            Entries.Out.Write(old.Line.Span);
            Entries.Out.WriteByte((byte)'\n');
            List(entry);
        }
    }

    private void List(Entry entry)
    {
        if (packs is not null) packs.Need(entry);
        else if (entry.Kind == EntryKind.File) Manifest.WriteText(new ManifestLine(entry.Sha256!, Data.Join(entry.Path)).Text);
    }

    public void Dispose()
    {
        Entries.Dispose();
        Manifest.Dispose();
    }
}
