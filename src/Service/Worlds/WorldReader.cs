using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Roster;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Worlds;

/// <summary>Reads what a plan is made from out of the records.</summary>
internal static class WorldReader
{
    /// <summary>Minutes of which every appointment's start is a multiple.</summary>
    public const int Grid = 15;

    /// <summary>The whole world of a refresh.</summary>
    public static Task<World> ReadAsync(YardDb db, RefreshRow refresh, CancellationToken cancel) =>
        ReadAsync(db, refresh, null, cancel);

    /// <param name="within">Only what is booked between these moments: enough for who is free then, while nothing goes to another day. What
    /// is staged stays as it is, so no depot has a bound. Null: all.</param>
    public static async Task<World> ReadAsync(
        YardDb db, RefreshRow refresh, (DateTimeOffset From, DateTimeOffset Until)? within, CancellationToken cancel)
    {
        var (key, clock) = (refresh.Key, new RefreshClock(refresh));
        var sites = await db.Sites.AsNoTracking().Where(s => s.Refresh == key).OrderBy(s => s.Key).ToListAsync(cancel);
        var technicians = await db.Technicians.AsNoTracking().Where(t => t.Refresh == key).OrderBy(t => t.Key).ToListAsync(cancel);
        var ways = await db.Ways.AsNoTracking().Where(w => w.Refresh == key).OrderBy(w => w.From).ThenBy(w => w.To).ToListAsync(cancel);
        var closures = await db.Closures.AsNoTracking().Where(c => c.Refresh == key).OrderBy(c => c.Key).ToListAsync(cancel);
        var deliveries = await db.Deliveries.AsNoTracking().Where(d => d.Refresh == key).OrderBy(d => d.Key).ToListAsync(cancel);
        var waves = await db.Waves.AsNoTracking().Where(v => v.Refresh == key).OrderBy(v => v.Key).ToListAsync(cancel);
        var depots = await db.Depots.AsNoTracking().Where(d => d.Refresh == key).OrderBy(d => d.Key).ToListAsync(cancel);
        var rules = await db.Estimates.AsNoTracking()
            .Where(e => e.Refresh == key)
            .OrderBy(e => e.Scope)
            .ThenBy(e => e.Of)
            .ToListAsync(cancel);
        var wanted = db.Swaps.AsNoTracking().Where(s => s.Refresh == key);
        if (within is var (from, until))
            wanted = wanted.Where(s => (s.Start < until && s.End > from) || (s.BenchStart < until && s.BenchEnd > from));
        var cargo = await CargoAsync(db, wanted, cancel);
        var sums = within is null && depots.Exists(d => d.CapacityBytes is not null || d.FreeBytes is not null)
            ? await DepotSums.ReadAsync(db, key, cancel)
            : new Dictionary<string, DepotSums>();
        var swaps = await wanted.OrderBy(s => s.Id).ToListAsync(cancel);
        return new(
            key, refresh.Starts, refresh.Days, TimeZoneInfo.FindSystemTimeZoneById(refresh.Zone), Grid,
            [.. sites.Select(s => new WorldSite(
                s.Key,
                s.Name,
                s.Benches,
                [.. s.Rooms.Select(WorldView.RoomOf).Select(r => new Room(r.Name, r.Benches))],
                ShiftRule.Parse(s.Opens).Value))],
            [.. technicians.Select(t => new WorldTechnician(
                t.Key,
                t.Name,
                t.Skills,
                t.Sites,
                [.. t.Shifts.Select(s => ShiftRule.Parse(s).Value)],
                [.. t.Absences.Select(a => LocalSpan.Parse(a).Value)]))],
            [.. ways.Select(w => new Way(w.From, w.To, w.Minutes))],
            [.. closures.Select(c => new Closure(c.Key, c.Name, c.Site, LocalSpan.Parse(c.At).Value))],
            [.. deliveries.Select(d =>
                new Delivery(d.Key, d.Name, DateTime.ParseExact(d.Arrives, "yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture), d.Tags))],
            [.. waves.Select(v => new Wave(v.Key, v.Name, v.From, v.Until))],
            [.. depots.Select(d => within is null
                ? new WorldDepot(d.Key, d.Name, RoomOf(d, sums), d.DailyBytes, d.HoldDays, DepotRates.Of(d))
                : new WorldDepot(d.Key, d.Name, null, null, d.HoldDays, DepotRates.Of(d)))],
            [.. rules.Select(RuleOf)],
            [.. swaps.Where(s => !SwapFacts.IsOver(s)).Select(s => SwapOf(s, cargo.GetValueOrDefault(s.Id), clock))],
            await ReturnsAsync(db, key, clock, cancel),
            [.. (await db.Groups.AsNoTracking().Where(g => g.Refresh == key).OrderBy(g => g.Key).ToListAsync(cancel))
                .Select(g => new WorldGroup(g.Key, g.Name, g.Swaps, g.AtOnce, g.OneDay))]);
    }

    /// <summary>Return visits that are promised, or still to be.</summary>
    private static async Task<List<WorldReturn>> ReturnsAsync(YardDb db, string refresh, RefreshClock clock, CancellationToken cancel) =>
        (await db.FollowUps.AsNoTracking()
            .Where(f => f.Refresh == refresh && f.DoneAt == null && f.VisitMinutes != null)
            .OrderBy(f => f.Swap)
            .Join(db.Swaps, f => f.Swap, s => s.Id, (f, s) =>
                new { f.Swap, s.Site, s.Skills, f.VisitMinutes, f.Due, f.VisitTechnician, f.VisitStart, f.VisitEnd })
            .ToListAsync(cancel))
        .ConvertAll(r => new WorldReturn(
            r.Swap, r.Site, r.Skills, r.VisitMinutes!.Value, Minutes.DayOf(Math.Max(0, clock.MinuteOf(r.Due))),
            r is { VisitTechnician: { } who, VisitStart: { } start, VisitEnd: { } end }
                ? new(who, clock.MinuteOf(start), clock.MinuteOf(end), clock.MinuteOf(end), clock.MinuteOf(end))
                : null));

    /// <summary>
    /// What a plan may fill of a depot: what is free, and what the plan's own swaps have there. What lies there of swaps that are over is
    /// in its way.
    /// </summary>
    private static long? RoomOf(DepotRow depot, IReadOnlyDictionary<string, DepotSums> sums)
    {
        var sum = sums.GetValueOrDefault(depot.Key) ?? DepotSums.None;
        return sum.FillOf(depot, depot.FreeBytes).WholeBytes - sum.OverBytes;
    }

    /// <summary>What the survey found on the computers of some swaps, by swap.</summary>
    public static async Task<Dictionary<string, Cargo>> CargoAsync(YardDb db, IQueryable<SwapRow> swaps, CancellationToken cancel) =>
        (await db.Folders.AsNoTracking()
            .Where(f => swaps.Any(s => s.Id == f.Swap))
            .GroupBy(f => f.Swap)
                .Select(g => new
                {
                    g.Key,
                    Bytes = g.Sum(f => f.OldBytes - f.LeftOutBytes),
                    Files = g.Sum(f => f.OldFiles - f.LeftOutFiles),
                    Library = g.Sum(f =>
                        f.Folder == "Pictures" || f.Folder == "Music" || f.Folder == "Videos" ? f.OldBytes - f.LeftOutBytes : 0)
                })
                .ToListAsync(cancel))
            .ToDictionary(g => g.Key, g => new Cargo(g.Bytes, g.Files, g.Library));

    public static EstimateRule RuleOf(EstimateRow r) =>
        new(
            r.Scope,
            r.Of,
            r.BeforeMinutes,
            r.UnattendedMinutes,
            r.AfterMinutes,
            r.HasBench ? new(r.BenchSite, r.BenchHandsOnMinutes, r.BenchUnattendedMinutes, r.BenchGapMinutes) : null);

    private static WorldSwap SwapOf(SwapRow s, Cargo? cargo, RefreshClock clock)
    {
        Booked? appointment = s is
        {
            Start: { } start, HandsOnUntil: { } until, Finish: { } finish, End: { } end, Technician: { } technician
        }
            ? new(technician, clock.MinuteOf(start), clock.MinuteOf(until), clock.MinuteOf(finish), clock.MinuteOf(end)) : null;
        Booked? bench = s is { BenchStart: { } b, BenchHandsOnUntil: { } bu, BenchEnd: { } be, BenchTechnician: { } bt }
            ? new(bt, clock.MinuteOf(b), clock.MinuteOf(bu), clock.MinuteOf(be), clock.MinuteOf(be)) : null;
        var pin = s.PinnedStart is null && s.PinnedTechnician is null
            ? null
            : new Pin(s.PinnedStart is { } at ? clock.MinuteOf(at) : null, s.PinnedTechnician);
        var underWay = SwapFacts.IsUnderWay(s);
        return new(
            s.Id, s.Name, s.Site, s.Kind, s.Skills, s.Weight, s.NewTag, s.NewModel, s.Wave, s.Depot, cargo, [.. s.Free.Select(FreeOf)],
            [.. s.Preferred.Select(FreeOf)], pin, appointment, bench,
            underWay, underWay || s.Prepared);
    }

    public static FreeTime FreeOf(string text) => TryFree(text) ?? throw new FormatException($"'{text}' is no free time.");

    /// <summary><c>2026-11-25 08:00-12:00</c></summary>
    public static FreeTime? TryFree(string text) =>
        text.Trim().Split(' ', 2) is [var date, var hours] && hours.Split('-') is [var from, var until]
        && DateOnly.TryParseExact(date, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
        && TimeOnly.TryParseExact(from, "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var begin)
            && TimeOnly.TryParseExact(until, "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var end)
            && begin < end
            ? new(day, begin, end)
            : null;
}
