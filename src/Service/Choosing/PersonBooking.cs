using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Choosing;

/// <summary>Whether a person may choose another time, and the one way in which a chosen time is booked.</summary>
internal static class PersonBooking
{
    /// <summary>Why a person may not choose now; null: they may.</summary>
    public static string? Refusal(SwapRow swap, RefreshRow refresh, DateTimeOffset now)
    {
        if (swap.CalledOffAt is not null) return "called-off";
        if (SwapFacts.IsUnderWay(swap)) return "under-way";
        if (swap.PinnedStart is not null) return "fixed";
        return Until(swap, refresh) is { } until && now > until ? "too-late" : null;
    }

    /// <summary>When choosing ends; null: there is no time yet.</summary>
    public static DateTimeOffset? Until(SwapRow swap, RefreshRow refresh) => swap.Start - TimeSpan.FromHours(refresh.ChooseHours);

    /// <summary>Why, in words for the person.</summary>
    public static Problem? Shut(SwapRow swap, RefreshRow refresh, DateTimeOffset now) =>
        Refusal(swap, refresh, now) is { } why ? new SlotShutProblem(Words(why)) : null;

    public static async Task<BookingSeen> ReadAsync(
        YardDb db, SwapRow swap, RefreshRow refresh, DateTimeOffset now, CancellationToken cancel)
    {
        var refusal = Refusal(swap, refresh, now);
        var until = refusal is null or "too-late" ? Until(swap, refresh) : null;
        var wait = await db.Waits.AsNoTracking().FirstOrDefaultAsync(v => v.Swap == swap.Id, cancel);
        var ahead = wait is null
            ? 0
            : await db.Waits.CountAsync(
                v => v.Refresh == refresh.Key && v.At < wait.At && v.From < wait.Until && v.Until > wait.From, cancel);
        return new(
            until,
            refusal,
            wait is null ? null : new(wait.From, wait.Until, ahead),
            swap.Offer is not null,
            refusal is null ? await ExchangesAsync(db, swap, cancel) : []);
    }

    /// <summary>Questions about an exchange that still hold: both times are as they were.</summary>
    private static async Task<IReadOnlyList<ExchangeSeen>> ExchangesAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        var open = await db.Exchanges.AsNoTracking()
            .Where(x => x.End == null && (x.Asks == swap.Id || x.Asked == swap.Id))
            .OrderBy(x => x.At)
            .Take(Most)
            .ToListAsync(cancel);
        if (open.Count == 0) return [];
        var ids = open.SelectMany(x => new[] { x.Asks, x.Asked }).Distinct().ToList();
        var starts = await db.Swaps.AsNoTracking().Where(s => ids.Contains(s.Id)).ToDictionaryAsync(s => s.Id, s => s.Start, cancel);
        return [.. open.Where(x => starts[x.Asks] == x.AsksStart && starts[x.Asked] == x.AskedStart)
            .Select(x => x.Asks == swap.Id
                ? new ExchangeSeen(x.Id, x.AsksStart, x.AskedStart, true)
                : new(x.Id, x.AskedStart, x.AsksStart, false))];
    }

    /// <summary>Books a time that was chosen, or waited for.</summary>
    /// <param name="words">For the ledger.</param>
    public static async Task<Problem?> TakeAsync(
        Change w, SlotDesk.Held held, SwapRow row, DateTimeOffset start, string words, CancellationToken cancel)
    {
        var clock = new RefreshClock(w.Refresh);
        var (at, earliest) = (clock.MinuteOf(start), clock.MinuteOf(w.Now) + (SlotDesk.LeastNoticeMinutes / 2));
        if (clock.At(at) != start.ToUniversalTime() || at < earliest || at >= w.Refresh.Days * Minutes.PerDay)
            return new SlotPastProblem();
        if (!(await held.LaidAsync(w.Db, w.Refresh, [row.Id], cancel)).TryGet(out var laid, out var unlaid)) return unlaid;
        var taken = new SlotTakenProblem();
        if (laid.StartingAt(row.Site, at) >= (w.Refresh.MostPerSlot ?? int.MaxValue)) return taken;
        if (!(await held.DeskAsync(w, [row.Id], cancel)).TryGet(out var desk, out var problem)) return problem;
        if (desk.Soonest(row.Id, desk.WhoWorksAt(row.Site), at, at + 1) is null) return taken;
        w.Note("swap.chosen", row.Id, words);
        await desk.BookAsync("The person chose another time.", cancel);
        await SettleAsync(w, row, cancel);
        return null;
    }

    /// <summary>Whoever has chosen waits no longer, and offers the new time only by saying so.</summary>
    public static async Task SettleAsync(Change w, SwapRow row, CancellationToken cancel)
    {
        (row.ChosenAt, row.Offer) = (w.Now, null);
        if (await w.Db.Waits.FirstOrDefaultAsync(v => v.Swap == row.Id, cancel) is { } wait) w.Db.Waits.Remove(wait);
        foreach (var exchange in await w.Db.Exchanges.Where(x => x.End == null && (x.Asks == row.Id || x.Asked == row.Id))
            .ToListAsync(cancel))
            (exchange.End, exchange.EndedAt) = ("withdrawn", w.Now);
    }

    private static string Words(string refusal) => refusal switch
    {
        "called-off" => "Your change is called off, so there is no time to choose.",
        "under-way" => "Your change has begun already.",
        "fixed" => "Your time was fixed for you. Say that it does not suit, and somebody looks after it.",
        _ => "It is too late to choose another time here. Say that it does not suit, and somebody calls you.",
    };

    /// <summary>Most questions that wait for one person.</summary>
    public const int Most = 20;

    /// <summary>Most offers that are looked at for one person.</summary>
    public const int MostOffers = 40;
}
