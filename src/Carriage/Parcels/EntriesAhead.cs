using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Parcels;

/// <summary>
/// The entries of one file, read and understood on another core while the caller is busy with those before; a few thousand at most wait.
/// </summary>
internal sealed class EntriesAhead : IAsyncDisposable
{
    private const int Batch = 512;
    private readonly Channel<List<Entry>> _batches;
    private readonly IWork _work;
    private readonly CancellationTokenSource _stop;
    private readonly Task _reading;
    private List<Entry> _batch = [];
    private int _at = -1;

    private EntriesAhead(IDepot depot, ParcelPaths paths, string below, IWork work, CancellationToken cancel)
    {
        (_work, _batches) = (work, work.Pipe<List<Entry>>(6));
        _stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        _reading = work.Start(() => ReadAsync(depot, paths, below, _stop.Token));
    }

    /// <summary>The entry at hand; null at the end.</summary>
    public Entry? Current { get; private set; }

    /// <summary>Lower-case digest of the file as it is stored, once its end was reached; null: it is not there.</summary>
    public string? Sha256 { get; private set; }

    /// <summary>Opens a file of entries; one that is missing has none, and a line that is no entry is passed over.</summary>
    public static async Task<EntriesAhead> OpenAsync(
        IDepot depot, ParcelPaths paths, string below, IWork work, CancellationToken cancel)
    {
        var ahead = new EntriesAhead(depot, paths, below, work, cancel);
        await ahead.NextAsync();
        return ahead;
    }

    /// <summary>Goes to the next entry.</summary>
    public ValueTask NextAsync()
    {
        if (++_at >= _batch.Count) return RefillAsync();
        Current = _batch[_at];
        return ValueTask.CompletedTask;
    }

    private async ValueTask RefillAsync()
    {
        // What broke the reading comes out here, at the entry that could not be had.
        Current = await _batches.Reader.WaitToReadAsync(CancellationToken.None) && _batches.Reader.TryRead(out _batch!)
            ? _batch[_at = 0]
            : null;
    }

    private async Task ReadAsync(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        try
        {
            HashedStream? hashed = null;
            using var entries = await EntryReader.OpenAsync(depot, paths, below, null, cancel, told => hashed = told);
            var batch = new List<Entry>(Batch);
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                batch.Add(entry);
                if (batch.Count < Batch) continue;
                await _batches.Writer.WriteAsync(batch, cancel);
                batch = new(Batch);
            }
            if (batch.Count > 0) await _batches.Writer.WriteAsync(batch, cancel);
            Sha256 = hashed?.Sha256;
            _batches.Writer.Complete();
        }
        catch (Exception broke)
        {
            _batches.Writer.Complete(broke);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _work.CancelAsync(_stop);
        await _reading;
        _stop.Dispose();
    }
}
