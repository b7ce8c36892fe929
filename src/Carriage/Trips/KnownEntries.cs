using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// What a parcel knows beside what it has: its entries in their order, each held against what lies in the depot under its name. Nothing of
/// it is read; a file that is not there, or of another length, is in doubt, and one that no entry names comes in between, unlisted.
/// </summary>
internal sealed class KnownEntries : IAsyncDisposable
{
    private const int Batch = 512;
    private readonly EntriesAhead _entries;
    private readonly HashSet<int>? _packs;
    private readonly Channel<List<(string Path, long Bytes)>>? _lying;
    private readonly CancellationTokenSource _stop;
    private readonly IWork _work;
    private Task _listing = Task.CompletedTask;
    private List<(string Path, long Bytes)> _batch = [];
    private int _at = -1;
    private bool _isOver;
    private bool _isUnlisted;

    private KnownEntries(EntriesAhead entries, HashSet<int>? packs, bool lists, IWork work, CancellationToken cancel)
    {
        (_entries, _packs, _work) = (entries, packs, work);
        _lying = lists ? work.Pipe<List<(string, long)>>(6) : null;
        _stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
    }

    /// <summary>The entry at hand; null at the end.</summary>
    public Entry? Current { get; private set; }

    /// <summary>Lower-case digest of the list as it is stored, once its end was reached; null: it is not there.</summary>
    public string? Sha256 => _entries.Sha256;

    /// <summary>Opens the parcel's list.</summary>
    /// <param name="looks">Whether what lies in the depot is looked at.</param>
    public static async Task<KnownEntries> OpenAsync(IDepot depot, ParcelPaths paths, bool looks, IWork work, CancellationToken cancel)
    {
        HashSet<int>? packs = null;
        if (looks && paths.Seal is not null)
            packs = [.. (await depot.ListAsync(paths.Data, cancel)).Where(n => !n.IsFolder).Select(n => PackPiece.TryNumber(n.Name) ?? 0)];
        var entries = await EntriesAhead.OpenAsync(depot, paths, ParcelPaths.Entries, work, cancel);
        var known = new KnownEntries(entries, packs, looks && packs is null, work, cancel);
        if (known._lying is not null) known._listing = work.Start(() => known.ListAsync(depot, paths));
        try
        {
            await known.SeeAsync();
            return known;
        }
        catch
        {
            await known.DisposeAsync();
            throw;
        }
    }

    /// <summary>Goes to the next entry.</summary>
    public ValueTask NextAsync()
    {
        if (_isUnlisted)
        {
            _at++;
            return SeeAsync();
        }
        var next = _entries.NextAsync();
        return next.IsCompletedSuccessfully ? SeeAsync() : AfterAsync(next);
    }

    private async ValueTask AfterAsync(ValueTask next)
    {
        await next;
        await SeeAsync();
    }

    private ValueTask SeeAsync()
    {
        (Current, _isUnlisted) = (_entries.Current, false);
        if (_packs is not null
            && Current is { Kind: EntryKind.File, Packs: { } pieces } file
            && pieces.Any(p => !_packs.Contains(p.Pack)))
            Current = file with { InDoubt = true };
        return _lying is null ? ValueTask.CompletedTask : HoldAsync();
    }

    // Files lie in the order of their paths, and so are the lines of the entries.
    private ValueTask HoldAsync()
    {
        var entry = _entries.Current;
        if (!_isOver && (_at < 0 || _at >= _batch.Count)) return RefilledAsync();
        var order = _isOver ? 1 : entry is null ? -1 : DepotPath.CompareUtf8(_batch[_at].Path, entry.Key);
        if (order < 0)
        {
            (Current, _isUnlisted) = (Leftovers.EntryOf(DepotPath.Of(_batch[_at].Path), isFolder: false, _work.Time.GetUtcNow()), true);
            Current = Current with { Bytes = _batch[_at].Bytes, Unlisted = true };
        }
        else if (order > 0)
        {
            if (entry is { Kind: EntryKind.File }) Current = entry with { InDoubt = true };
        }
        else
        {
            // What lies under the name of a link was there before it, and makes way where that matters.
            if (entry is { Kind: EntryKind.File } && _batch[_at].Bytes != entry.Bytes) Current = entry with { InDoubt = true };
            _at++;
        }
        return ValueTask.CompletedTask;
    }

    private async ValueTask RefilledAsync()
    {
        // What broke the listing comes out here.
        if (await _lying!.Reader.WaitToReadAsync(CancellationToken.None) && _lying.Reader.TryRead(out _batch!)) _at = 0;
        else _isOver = true;
        await HoldAsync();
    }

    private async Task ListAsync(IDepot depot, ParcelPaths paths)
    {
        try
        {
            var batch = new List<(string, long)>(Batch);
            await foreach (var (path, bytes) in DepotTree.FilesAsync(depot, paths.Data, _stop.Token))
            {
                batch.Add((path.Below(paths.Data).Text, bytes));
                if (batch.Count < Batch) continue;
                await _lying!.Writer.WriteAsync(batch, _stop.Token);
                batch = new(Batch);
            }
            if (batch.Count > 0) await _lying!.Writer.WriteAsync(batch, _stop.Token);
            _lying!.Writer.Complete();
        }
        catch (Exception broke)
        {
            _lying!.Writer.Complete(broke);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _work.CancelAsync(_stop);
        await _listing;
        await _entries.DisposeAsync();
        _stop.Dispose();
    }
}
