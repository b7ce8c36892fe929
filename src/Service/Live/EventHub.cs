using System.Collections.Concurrent;
using System.Threading.Channels;

namespace YardRelay.Service.Live;

/// <summary>Something that a live stream or a waiting hand should look at.</summary>
/// <param name="Progress">JSON of a trip's progress, sent as it is and kept nowhere; null: the ledger grew.</param>
/// <param name="Tag">An order waits for the hand at this computer; only that hand is woken.</param>
/// <param name="Site">Of progress: the site of its swap.</param>
internal sealed record Wake(string Refresh, string? Progress, string? Tag = null, string? Site = null);

/// <summary>Wakes whoever waits for news of a refresh, in this process; on PostgreSQL also in the others.</summary>
internal sealed class EventHub
{
    private readonly ConcurrentDictionary<Guid, (string? Refresh, string? Tag, Channel<Wake> Channel)> _waiting = new();

    private readonly ConcurrentDictionary<string, long> _grown = new();

    /// <summary>The live streams that are open here.</summary>
    public OpenStreams Streams { get; } = new();

    /// <summary>How often a refresh's ledger was heard to grow: another number, something new.</summary>
    public long Grown(string refresh) => _grown.GetValueOrDefault(refresh);

    /// <summary>Told of each wake that starts here, to pass it on to other processes.</summary>
    public Func<Wake, Task>? PassOn { get; set; }

    /// <summary>Listens to a refresh.</summary>
    /// <param name="refresh">Its key; null: all of them.</param>
    /// <param name="tag">A hand hears of its own orders only; null: a live stream hears of everything else.</param>
    public Listening Listen(string? refresh, string? tag = null)
    {
        var id = Guid.NewGuid();
        // A slow reader loses wakes, never entries: it reads the ledger from where it was.
        var channel = Channel.CreateBounded<Wake>(new BoundedChannelOptions(256) { FullMode = BoundedChannelFullMode.DropOldest });
        _waiting[id] = (refresh, tag, channel);
        return new(channel.Reader, () => _waiting.TryRemove(id, out _));
    }

    public Task LedgerGrewAsync(string refresh) => SendAsync(new(refresh, null));

    public Task OrderWaitsAsync(string refresh, string tag) => SendAsync(new(refresh, null, tag));

    public Task ProgressAsync(string refresh, string site, string json) => SendAsync(new(refresh, json, Site: site));

    private Task SendAsync(Wake wake)
    {
        Deliver(wake);
        return PassOn?.Invoke(wake) ?? Task.CompletedTask;
    }

    public void Deliver(Wake wake)
    {
        if (wake is { Progress: null, Tag: null }) _grown.AddOrUpdate(wake.Refresh, 1, (_, before) => before + 1);
        foreach (var (refresh, tag, channel) in _waiting.Values)
            if ((refresh is null || refresh == wake.Refresh) && tag == wake.Tag) channel.Writer.TryWrite(wake);
    }

    internal sealed record Listening(ChannelReader<Wake> Reader, Action Stop) : IDisposable
    {
        public void Dispose() => Stop();

        /// <summary>Waits for a wake, at most so long; null: none came.</summary>
        public async Task<Wake?> NextAsync(TimeSpan most, CancellationToken cancel)
        {
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(most);
            try
            {
                return await Reader.ReadAsync(limit.Token);
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                return null;
            }
        }
    }
}
