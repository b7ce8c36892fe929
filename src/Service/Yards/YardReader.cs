using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Hands;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Swaps;

namespace YardRelay.Service.Yards;

/// <summary>Reads the whole yard: one narrow look at all swaps, the rest is counted from it.</summary>
internal sealed class YardReader(YardDb db, SwapReader reader)
{
    private const int MostStuck = 100;
    private static readonly int?[] AgeDays = [1, 3, 7, null];

    private sealed record Narrow(string Id, string Site, SwapKind Kind, int Next, string? Wave, string? Technician, DateTimeOffset? Start, DateTimeOffset? HandsOnUntil, DateTimeOffset? Finish, DateTimeOffset? End, DateTimeOffset? AcceptedAt)
    {
        public TimeSpan HandsOn => (HandsOnUntil - Start ?? TimeSpan.Zero) + (End - Finish ?? TimeSpan.Zero);
    }

    public async Task<YardSeen> ReadAsync(RefreshRow refresh, DateTimeOffset now, CancellationToken cancel)
    {
        var (key, clock) = (refresh.Key, new RefreshClock(refresh));
        var today = clock.DayOf(now);
        var all = await db.Swaps.AsNoTracking().Where(s => s.Refresh == key).Select(s => new Narrow(s.Id, s.Site, s.Kind, s.Next, s.Wave, s.Technician, s.Start, s.HandsOnUntil, s.Finish, s.End, s.AcceptedAt)).ToListAsync(cancel);
        var moving = (await db.Orders.AsNoTracking().Where(o => o.Refresh == key && o.State == OrderStates.UnderWay).Select(o => o.Swap).Distinct().ToListAsync(cancel)).ToHashSet();
        var snags = await db.Snags.AsNoTracking().Where(n => n.Refresh == key && n.End == "open").Select(n => new { n.Swap, n.At }).ToListAsync(cancel);
        var failed = await db.Orders.AsNoTracking().Where(o => o.Refresh == key && o.State == OrderStates.Failed && !db.Orders.Any(l => l.Swap == o.Swap && l.MadeAt > o.MadeAt)).Select(o => o.Swap).ToListAsync(cancel);
        var followUps = await db.FollowUps.AsNoTracking().Where(f => f.Refresh == key && f.DoneAt == null).Select(f => new { f.Owner, f.MadeAt }).ToListAsync(cancel);
        var stuck = snags.Select(n => n.Swap).Concat(failed).ToHashSet();
        var worst = failed.Concat(snags.OrderBy(n => n.At).Select(n => n.Swap)).Distinct().Take(MostStuck).ToList();
        var listed = (await reader.ListAsync(await db.Swaps.AsNoTracking().Where(s => worst.Contains(s.Id)).ToListAsync(cancel), cancel)).ToDictionary(s => s.Id);
        var names = await db.Technicians.AsNoTracking().Where(t => t.Refresh == key).OrderBy(t => t.Name).Select(t => new { t.Key, t.Name }).ToListAsync(cancel);
        var waves = await db.Waves.AsNoTracking().Where(v => v.Refresh == key).OrderBy(v => v.From).ThenBy(v => v.Key).Select(v => new { v.Key, v.Name }).ToListAsync(cancel);

        var stations = Enum.GetValues<SwapKind>().ToDictionary(k => k, k => SwapLine.StationsOf(k).ToList());
        Station? NextOf(Narrow s) => s.Next < stations[s.Kind].Count ? stations[s.Kind][s.Next] : null;
        // Done for the person: what comes after is about the old computer.
        static bool IsDone(Narrow s) => s.AcceptedAt is not null;
        bool IsLate(Narrow s) => !IsDone(s) && s.End < now;
        ProgressPart Part(string name, IReadOnlyCollection<Narrow> of) => new(name, of.Count, of.Count(IsDone), of.Count(IsLate));
        var bySite = all.GroupBy(s => s.Site).OrderBy(g => g.Key, StringComparer.Ordinal).ToList();
        var ahead = all.FindAll(s => s.Start is not null && !IsDone(s));
        var (from, until) = (clock.StartOf(today), clock.StartOf(today.AddDays(1)));
        return new(
            today, now, all.Count, all.Count(IsDone), all.Count(IsLate), all.Count(s => s.Start is null && !IsDone(s)), all.Max(s => s.Start) is { } last ? clock.DayOf(last) : null,
            [.. bySite.Select(g => new YardSite(g.Key, g.Count(), g.Count(s => NextOf(s) is null), [.. g.Where(s => NextOf(s) is not null).GroupBy(s => NextOf(s)!.Value).OrderBy(c => c.Key).Select(c => new YardCell(c.Key, c.Count(), c.Count(s => moving.Contains(s.Id)), c.Count(s => stuck.Contains(s.Id))))]))],
            [.. worst.Select(id => listed.GetValueOrDefault(id)).OfType<SwapListed>().Where(s => s.Sign.Sign is "stopped" or "wants").OrderBy(s => s.Sign.Sign == "stopped" ? 0 : 1).ThenBy(s => s.Sign.Since ?? now).Select(s => new NeedSeen(s.Id, s.Name, s.Sign.Sign, s.Sign.Words, s.Sign.Since ?? now, "open", "Open swap"))],
            Progress(refresh, clock, today, all), [.. bySite.Select(g => Part(g.Key, [.. g]))],
            [.. waves.Select(v => Part(v.Name, all.FindAll(s => s.Wave == v.Key))).Where(p => p.Swaps > 0)],
            [.. AgeDays.Select((days, i) => new AgeGroup(days, snags.Count(n => InGroup(now - n.At, i)), followUps.Count(f => InGroup(now - f.MadeAt, i))))],
            [.. names.Select(t =>
            {
                var mine = ahead.FindAll(s => s.Technician == t.Key);
                var todays = mine.FindAll(s => s.Start >= from && s.Start < until);
                return new TechnicianLoad(t.Key, t.Name, todays.Count, (int)todays.Sum(s => s.HandsOn.TotalMinutes), mine.Count, (int)mine.Sum(s => s.HandsOn.TotalMinutes), followUps.Count(f => f.Owner == t.Key));
            })]);
    }

    private static bool InGroup(TimeSpan age, int group) => (group == 0 || age.TotalDays >= AgeDays[group - 1]) && (AgeDays[group] is not { } days || age.TotalDays < days);

    /// <summary>From the first day to the last that anything is planned or done on; running sums.</summary>
    private static List<ProgressDay> Progress(RefreshRow refresh, RefreshClock clock, DateOnly today, List<Narrow> all)
    {
        // A refresh of many years would be a mistake in a date, not a plot.
        const int MostDays = 400;
        var planned = all.Where(s => s.End is not null).GroupBy(s => clock.DayOf(s.End!.Value)).ToDictionary(g => g.Key, g => g.Count());
        var done = all.Where(s => s.AcceptedAt is not null).GroupBy(s => clock.DayOf(s.AcceptedAt!.Value)).ToDictionary(g => g.Key, g => g.Count());
        var days = planned.Keys.Concat(done.Keys).Append(refresh.Starts).ToList();
        var (first, last) = (days.Min(), days.Max() is var latest && latest > today ? latest : today);
        var (sum, sumDone, list) = (0, 0, new List<ProgressDay>());
        // Both begin at nothing, the evening before.
        for (var day = first.AddDays(-1); day <= last && list.Count < MostDays; day = day.AddDays(1))
        {
            (sum, sumDone) = (sum + planned.GetValueOrDefault(day), sumDone + done.GetValueOrDefault(day));
            list.Add(new(day, sum, day <= today ? sumDone : null));
        }
        return list;
    }
}
