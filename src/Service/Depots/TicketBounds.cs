using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Files.Working;
using YardRelay.Records;

namespace YardRelay.Service.Depots;

/// <summary>
/// What a ticket is given beside its time: so many bytes, as fast as its depot's and its site's limits leave it, and so many requests at
/// once. One attempt of an order has one ticket.
/// </summary>
internal sealed class TicketBounds
{
    /// <summary>Requests of one ticket at once; a hand has some thirty.</summary>
    public const int MostAtOnce = 64;

    private const int MostKept = 10_000;
    private const int TimesSurveyed = 3;
    private const long MostUnsurveyed = 4L << 40;
    private const long Spare = 64L << 30;

    private readonly ConcurrentDictionary<DepotTicket, Ticket> _tickets = new();

    /// <summary>What one ticket has used.</summary>
    internal sealed class Ticket(long most, IWork work)
    {
        // A hand keeps to its share by itself, and draws a moment in advance.
        private const double Slack = 1.25;

        private readonly RateGate _pace = new(work);
        private long _bytes;
        private int _open;

        /// <summary>Takes some bytes; false: it has had all.</summary>
        public bool Take(long bytes) => Interlocked.Add(ref _bytes, bytes) <= most;

        /// <summary>How fast it may bring them from now on, in bytes a second; 0: nothing for now; null: no limit holds.</summary>
        public void Keep(long? share) => _pace.BytesPerSecond = share is { } rate ? (long)(rate * Slack) : null;

        /// <summary>Waits until so many bytes may come.</summary>
        public ValueTask PassAsync(int bytes, CancellationToken cancel) => _pace.PassAsync(bytes, cancel);

        /// <summary>Whether so many more would be too many.</summary>
        public bool HasRoom(long bytes) => Interlocked.Read(ref _bytes) + bytes <= most;

        /// <summary>Begins a request; false: there are too many. Each one is ended, also one that did not begin.</summary>
        public bool Begin() => Interlocked.Increment(ref _open) <= MostAtOnce;

        /// <summary>Ends a request.</summary>
        public void End() => Interlocked.Decrement(ref _open);
    }

    /// <summary>That of a ticket. How much it may bring goes by what the survey of its computer found.</summary>
    /// <param name="share">How fast it may bring it now.</param>
    public async Task<Ticket> OfAsync(DepotTicket ticket, long? share, IDbContextFactory<YardDb> records, CancellationToken cancel)
    {
        var its = await OfAsync(ticket, records, cancel);
        its.Keep(share);
        return its;
    }

    private async Task<Ticket> OfAsync(DepotTicket ticket, IDbContextFactory<YardDb> records, CancellationToken cancel)
    {
        if (_tickets.TryGetValue(ticket, out var known)) return known;
        await using var db = await records.CreateDbContextAsync(cancel);
        var swap = db.Orders.Where(o => o.Id == ticket.Order).Select(o => o.Swap);
        var surveyed = await db.Folders.Where(f => swap.Contains(f.Swap)).SumAsync(f => f.OldBytes, cancel);
        if (_tickets.Count > MostKept) _tickets.Clear();
        return _tickets.GetOrAdd(ticket, new Ticket(
            surveyed == 0 ? MostUnsurveyed : (TimesSurveyed * surveyed) + Spare, ThreadWork.Here));
    }
}

/// <summary>A body of which each byte is taken from its ticket.</summary>
internal sealed class TicketedBody(Stream body, TicketBounds.Ticket ticket) : Stream
{
    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => throw new NotSupportedException();

    public override long Position
    {
        get => throw new NotSupportedException();
        set => throw new NotSupportedException();
    }

    private volatile bool _isOver;

    /// <summary>The ticket has ended: what still comes is not taken any more.</summary>
    public void End() => _isOver = true;

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var got = await body.ReadAsync(buffer, cancellationToken);
        await ticket.PassAsync(got, cancellationToken);
        if (_isOver) throw new IOException("The ticket of this order has ended.");
        return ticket.Take(got) ? got : throw new IOException("The ticket of this order has brought all that it may.");
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override void Flush() { }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
}
