using System.Threading.Channels;
using YardRelay.Carriage.Depots;

namespace YardRelay.Carriage.Parcels;

/// <summary>
/// The entries of one file, read and understood on another core while the caller is busy with those before; a few thousand at most wait.
/// </summary>
internal sealed class EntriesAhead : IAsyncDisposable
{
    private const int Batch = 512;
    private readonly Channel<List<Entry>> _batches = Channel.CreateBounded<List<Entry>>(new BoundedChannelOptions(6)
    {
        SingleReader = true,
        SingleWriter = true
    });
    private readonly CancellationTokenSource _stop;
    private readonly Task _reading;
    private List<Entry> _batch = [];
    private int _at = -1;

    private EntriesAhead(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        _stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        _reading = Task.Run(() => ReadAsync(depot, paths, below, _stop.Token), CancellationToken.None);
    }

    /// <summary>The entry at hand; null at the end.</summary>
    public Entry? Current { get; private set; }

    /// <summary>Opens a file of entries; one that is missing has none, and a line that is no entry is passed over.</summary>
    public static async Task<EntriesAhead> OpenAsync(IDepot depot, ParcelPaths paths, string below, CancellationToken cancel)
    {
        var ahead = new EntriesAhead(depot, paths, below, cancel);
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
            using var entries = await EntryReader.OpenAsync(depot, paths, below, null, cancel);
            var batch = new List<Entry>(Batch);
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                batch.Add(entry);
                if (batch.Count < Batch) continue;
                await _batches.Writer.WriteAsync(batch, cancel);
                batch = new(Batch);
            }
            if (batch.Count > 0) await _batches.Writer.WriteAsync(batch, cancel);
            _batches.Writer.Complete();
        }
        catch (Exception broke)
        {
            _batches.Writer.Complete(broke);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _stop.CancelAsync();
        await _reading;
        _stop.Dispose();
    }
}
