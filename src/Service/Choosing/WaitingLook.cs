using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Choosing;

/// <summary>Gives times that have become free to those who wait for them, whoever waits longest first.</summary>
internal sealed class WaitingLook(
    IDbContextFactory<YardDb> records, Writer writer, SlotDesk slots, TimeProvider time, ILogger<WaitingLook> log)
    : RegularLook(TimeSpan.FromSeconds(5), time, log)
{
    private const int MostAtOnce = 500;
    private readonly ConcurrentDictionary<string, (long World, DateTimeOffset Newest, long Hour)> _seen = new();

    protected override string What => "Those who wait for a time";

    /// <summary>One look at every refresh in which something has changed, or somebody waits anew.</summary>
    public override async Task RoundAsync(CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        foreach (var waits in await db.Waits.AsNoTracking()
            .GroupBy(v => v.Refresh)
            .Select(g => new { Refresh = g.Key, Newest = g.Max(v => v.At) })
            .ToListAsync(cancel))
        {
            var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == waits.Refresh, cancel);
            // Once an hour besides: what somebody waited for may be over.
            var now = (refresh.WorldVersion, waits.Newest, Time.GetUtcNow().Ticks / TimeSpan.TicksPerHour);
            if (_seen.GetValueOrDefault(refresh.Key) == now) continue;
            foreach (var wait in await db.Waits.AsNoTracking()
                .Where(v => v.Refresh == refresh.Key)
                .OrderBy(v => v.At)
                .ThenBy(v => v.Swap)
                .Take(MostAtOnce)
                .ToListAsync(cancel))
                await LookAsync(db, wait, cancel);
            _seen[refresh.Key] = now;
        }
    }

    private async Task LookAsync(YardDb db, WaitRow wait, CancellationToken cancel)
    {
        using var held = await slots.HoldAsync(wait.Refresh, cancel);
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == wait.Refresh, cancel);
        if (await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == wait.Swap, cancel) is not { } swap) return;
        var (clock, now) = (new RefreshClock(refresh), Time.GetUtcNow());
        var isOver = wait.Until <= now
            || PersonBooking.Refusal(swap, refresh, now) is not null
            || (swap.Start >= wait.From && swap.End <= wait.Until);
        FreeSlot? free = null;
        if (!isOver && (await held.LaidAsync(db, refresh, [swap.Id], cancel)).TryGet(out var laid, out _))
        {
            // Whoever gets a time unasked must hear of it in time.
            var from = Math.Max(clock.MinuteOf(wait.From), clock.MinuteOf(now) + (refresh.ChooseHours * 60));
            var until = clock.MinuteOf(wait.Until);
            free = SlotDesk.Free(laid, refresh, swap, from, until, SlotDesk.Most)
                .Find(s => s.End <= until && clock.At(s.At.Start) != swap.Start);
        }
        if (!isOver && free is null) return;
        var done = await writer.WriteAsync<long>(wait.Refresh, async w =>
        {
            if (await w.Db.Waits.FirstOrDefaultAsync(v => v.Swap == wait.Swap && v.At == wait.At, cancel) is not { } row)
                return w.Refresh.WorldVersion;
            var own = await w.Db.Swaps.FirstAsync(s => s.Id == wait.Swap, cancel);
            if (isOver)
            {
                w.Db.Waits.Remove(row);
                return w.Refresh.WorldVersion;
            }
            var start = clock.At(free!.At.Start);
            return await PersonBooking.TakeAsync(
                w, held, own, start, $"{own.Name} waited for {clock.Local(start):ddd d MMM HH:mm} and gets it", cancel) is { } refused
                ? refused
                : w.Refresh.WorldVersion;
        }, cancel, "the system");
        if (done.IsOk) held.Keep(done.Value);
    }
}
