using System.Collections.Concurrent;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Live;

/// <summary>
/// The newest entries of each refresh's ledger in the form in which streams send them: read once, however many streams there are.
/// </summary>
internal sealed class LedgerTail(EventHub hub, IDbContextFactory<YardDb> records, TimeProvider time) : IDisposable
{
    private const int MostKept = 2000;
    private const int MostAtOnce = 200;

    // Another process may have written without our being told, if its word was lost.
    private static readonly TimeSpan Fresh = TimeSpan.FromSeconds(5);

    private readonly ConcurrentDictionary<string, Tail> _tails = new();

    /// <summary>An entry as it is sent.</summary>
    /// <param name="Site">Of the swap that it is about; null: it is about none.</param>
    public readonly record struct Sent(long Number, string? Site, byte[] Bytes);

    private sealed class Tail : IDisposable
    {
        public readonly SemaphoreSlim Gate = new(1);
        public Sent[] Entries = [];
        public long Grown = -1;
        public long ReadAt;

        public void Dispose() => Gate.Dispose();
    }

    /// <summary>The entries after a number, oldest first, 200 at most; fewer: these are all.</summary>
    public async Task<IReadOnlyList<Sent>> AfterAsync(string refresh, long last, CancellationToken cancel)
    {
        var tail = _tails.GetOrAdd(refresh, _ => new());
        var grown = hub.Grown(refresh);
        if (!IsFresh(tail, grown))
        {
            await tail.Gate.WaitAsync(cancel);
            try
            {
                // Read anew whatever came before this: what the one before us at the gate has read may do for us, too.
                grown = hub.Grown(refresh);
                if (!IsFresh(tail, grown)) await ReadOnAsync(refresh, tail, grown, cancel);
            }
            finally
            {
                tail.Gate.Release();
            }
        }
        var entries = tail.Entries;
        if (entries.Length == 0 || last >= entries[^1].Number) return [];
        // Who was away for longer than what is kept here reads for itself.
        if (last + 1 < entries[0].Number) return await ReadAsync(refresh, last, cancel);
        var from = Array.FindIndex(entries, e => e.Number > last);
        return new ArraySegment<Sent>(entries, from, Math.Min(MostAtOnce, entries.Length - from));
    }

    public void Dispose()
    {
        foreach (var tail in _tails.Values) tail.Dispose();
    }

    private bool IsFresh(Tail tail, long grown) => tail.Grown >= grown && time.GetElapsedTime(tail.ReadAt) < Fresh;

    private async Task ReadOnAsync(string refresh, Tail tail, long grown, CancellationToken cancel)
    {
        var now = time.GetTimestamp();
        if (tail.Entries.Length == 0)
        {
            await using var db = await records.CreateDbContextAsync(cancel);
            var newest = await db.Refreshes.AsNoTracking()
                .Where(r => r.Key == refresh)
                .Select(r => r.LedgerNumber)
                .FirstOrDefaultAsync(cancel);
            tail.Entries = [.. await ReadAsync(refresh, Math.Max(0, newest - MostAtOnce), cancel)];
        }
        else
        {
            IReadOnlyList<Sent> more;
            do
            {
                more = await ReadAsync(refresh, tail.Entries[^1].Number, cancel);
                if (more.Count > 0) tail.Entries = [.. tail.Entries.Concat(more).TakeLast(MostKept)];
            }
            while (more.Count == MostAtOnce);
        }
        (tail.Grown, tail.ReadAt) = (grown, now);
    }

    private async Task<IReadOnlyList<Sent>> ReadAsync(string refresh, long last, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        return (await db.Ledger.AsNoTracking()
            .Where(l => l.Refresh == refresh && l.Number > last)
            .OrderBy(l => l.Number)
            .Take(MostAtOnce)
            .Select(l => new
            {
                l.Number,
                l.Kind,
                l.Swap,
                Site = db.Swaps.Where(s => s.Id == l.Swap).Select(s => s.Site).FirstOrDefault()
            })
            .ToListAsync(cancel))
            .ConvertAll(e => new Sent(
                e.Number,
                e.Site,
                Encoding.UTF8.GetBytes(
                    $"id: {e.Number}\nevent: entry\ndata: "
                        + $"{JsonSerializer.Serialize(new { number = e.Number, kind = e.Kind, swap = e.Swap })}\n\n")));
    }
}
