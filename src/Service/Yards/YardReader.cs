using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Swaps;

namespace YardRelay.Service.Yards;

/// <summary>Reads the whole yard: counted where the swaps are kept, so that only what differs is read.</summary>
internal sealed class YardReader(YardDb db, IDbContextFactory<YardDb> records, SwapReader reader)
{
    private const int MostStuck = 100;
    private static readonly int?[] AgeDays = [1, 3, 7, null];

    /// <summary>
    /// Swaps that are alike in where they are and whose they are, with how many of them there are, are done, are late, have no appointment,
    /// are ahead of their technician.
    /// </summary>
    private sealed record Group(
        string Site, SwapKind Kind, int Next, string? Wave, string? Technician, int Count, int Done, int Late, int WithoutAppointment,
        int Ahead);

    public async Task<YardSeen> ReadAsync(RefreshRow refresh, DateTimeOffset now, CancellationToken cancel)
    {
        var (key, clock) = (refresh.Key, new RefreshClock(refresh));
        var today = clock.DayOf(now);
        IQueryable<SwapRow> Of(YardDb from) => from.Swaps.AsNoTracking().Where(s => s.Refresh == key && s.CalledOffAt == null);
        var swaps = Of(db);
        // Counted where they are kept: only what differs comes here. What passes over all swaps is counted at once, each on a connection of
        // its own.
        // Done is done for the person; what comes after is about the old computer.
        var counting = OnItsOwnAsync(own => Of(own).GroupBy(s => new { s.Site, s.Kind, s.Next, s.Wave, s.Technician })
            .Select(g => new Group(
            g.Key.Site, g.Key.Kind, g.Key.Next, g.Key.Wave, g.Key.Technician, g.Count(), g.Count(s => s.AcceptedAt != null),
            g.Count(s => s.AcceptedAt == null && s.End < now),
            g.Count(s => s.Start == null && s.AcceptedAt == null), g.Count(s => s.Start != null && s.AcceptedAt == null)))
                .ToListAsync(cancel), cancel);
        var planning = OnItsOwnAsync(
            own => Of(own).Where(s => s.End != null).GroupBy(s => s.End).Select(g => new { g.Key, Count = g.Count() }).ToListAsync(cancel),
            cancel);
        var done = (await swaps.Where(s => s.AcceptedAt != null).Select(s => s.AcceptedAt).ToListAsync(cancel))
            .GroupBy(at => clock.DayOf(at!.Value))
            .ToDictionary(g => g.Key, g => g.Count());
        var groups = await counting;
        var ahead = groups.Where(g => g.Technician is not null)
            .GroupBy(g => g.Technician!)
            .ToDictionary(g => g.Key, g => g.Sum(s => s.Ahead));
        var planned = (await planning).GroupBy(g => clock.DayOf(g.Key!.Value)).ToDictionary(g => g.Key, g => g.Sum(x => x.Count));
        var (from, until) = (clock.StartOf(today), clock.StartOf(today.AddDays(1)));
        var todays = (await swaps.Where(s => s.Start >= from && s.Start < until && s.AcceptedAt == null && s.Technician != null)
            .Select(s => new { s.Technician, s.Start, s.HandsOnUntil, s.Finish, s.End })
            .ToListAsync(cancel))
            .ToLookup(s => s.Technician!, s => (s.HandsOnUntil - s.Start ?? TimeSpan.Zero) + (s.End - s.Finish ?? TimeSpan.Zero));

        var moving = (await OrderStates.Moving(db, now).AsNoTracking()
            .Where(o => o.Refresh == key)
            .Select(o => o.Swap).Distinct()
            .ToListAsync(cancel)).ToHashSet();
        var snags = await db.Snags.AsNoTracking()
            .Where(n => n.Refresh == key && n.End == "open")
            .Select(n => new { n.Swap, n.At })
            .ToListAsync(cancel);
        var failed = await OrderStates.OpenFailures(db).AsNoTracking()
            .Where(o => o.Refresh == key)
            .Select(o => o.Swap)
            .ToListAsync(cancel);
        var followUps = await db.FollowUps.AsNoTracking()
            .Where(f => f.Refresh == key && f.DoneAt == null)
            .Select(f => new { f.Owner, f.MadeAt })
            .ToListAsync(cancel);
        var stuck = snags.Select(n => n.Swap).Concat(failed).ToHashSet();
        List<string> marked = [.. moving.Union(stuck)];
        var cells = marked.Count == 0
            ? []
            : await swaps.Where(s => marked.Contains(s.Id)).Select(s => new { s.Id, s.Site, s.Kind, s.Next }).ToListAsync(cancel);
        var worst = failed.Concat(snags.OrderBy(n => n.At).Select(n => n.Swap)).Distinct().Take(MostStuck).ToList();
        var listed = worst.Count == 0
            ? []
            : (await reader.ListAsync(await db.Swaps.AsNoTracking().Where(s => worst.Contains(s.Id)).ToListAsync(cancel), cancel))
                .ToDictionary(s => s.Id);
        var names = await db.Technicians.AsNoTracking()
            .Where(t => t.Refresh == key)
            .OrderBy(t => t.Name)
            .Select(t => new { t.Key, t.Name })
            .ToListAsync(cancel);
        var waves = await db.Waves.AsNoTracking()
            .Where(v => v.Refresh == key)
            .OrderBy(v => v.From)
            .ThenBy(v => v.Key)
            .Select(v => new { v.Key, v.Name })
            .ToListAsync(cancel);

        var stations = Enum.GetValues<SwapKind>().ToDictionary(k => k, k => SwapLine.StationsOf(k).ToList());
        Station? NextOf(SwapKind kind, int next) => next < stations[kind].Count ? stations[kind][next] : null;
        static int Sum(IEnumerable<Group> of) => of.Sum(g => g.Count);
        static ProgressPart Part(string name, IReadOnlyCollection<Group> of) =>
            new(name, Sum(of), of.Sum(g => g.Done), of.Sum(g => g.Late));
        var bySite = groups.GroupBy(g => g.Site).OrderBy(g => g.Key, StringComparer.Ordinal).ToList();
        int Marked(string site, Station station, HashSet<string> of) =>
            cells.Count(c => c.Site == site && NextOf(c.Kind, c.Next) == station && of.Contains(c.Id));
        return new(
            today, now, Sum(groups), groups.Sum(g => g.Done), groups.Sum(g => g.Late), groups.Sum(g => g.WithoutAppointment),
            planned.Count == 0 ? null : planned.Keys.Max(),
            [.. bySite.Select(site => new YardSite(
                site.Key,
                Sum(site),
                Sum(site.Where(g => NextOf(g.Kind, g.Next) is null)),
                [.. site.Where(g => NextOf(g.Kind, g.Next) is not null)
                    .GroupBy(g => NextOf(g.Kind, g.Next)!.Value)
                    .OrderBy(c => c.Key)
                    .Select(c => new YardCell(c.Key, Sum(c), Marked(site.Key, c.Key, moving), Marked(site.Key, c.Key, stuck)))]))],
            [.. worst.Select(id => listed.GetValueOrDefault(id)).OfType<SwapListed>()
                .Where(s => s.Sign.Sign is "stopped" or "wants")
                .OrderBy(s => s.Sign.Sign == "stopped" ? 0 : 1)
                .ThenBy(s => s.Sign.Since ?? now)
                .Select(s => new NeedSeen(s.Id, s.Name, s.Sign.Sign, s.Sign.Words, s.Sign.Since ?? now, "open", "Open swap"))],
            Progress(refresh, today, planned, done), [.. bySite.Select(g => Part(g.Key, [.. g]))],
            [.. waves.Select(v => Part(v.Name, groups.FindAll(g => g.Wave == v.Key))).Where(p => p.Swaps > 0)],
            [.. AgeDays.Select((days, i) =>
                new AgeGroup(days, snags.Count(n => InGroup(now - n.At, i)), followUps.Count(f => InGroup(now - f.MadeAt, i))))],
            [.. names.Select(t => new TechnicianLoad(
                t.Key,
                t.Name,
                todays[t.Key].Count(),
                (int)todays[t.Key].Sum(h => h.TotalMinutes),
                ahead.GetValueOrDefault(t.Key),
                followUps.Count(f => f.Owner == t.Key)))]);
    }

    private async Task<T> OnItsOwnAsync<T>(Func<YardDb, Task<T>> read, CancellationToken cancel)
    {
        await using var own = db.LikeThis(await records.CreateDbContextAsync(cancel));
        return await read(own);
    }

    private static bool InGroup(TimeSpan age, int group) =>
        (group == 0 || age.TotalDays >= AgeDays[group - 1]) && (AgeDays[group] is not { } days || age.TotalDays < days);

    /// <summary>From the first day to the last that anything is planned or done on; running sums.</summary>
    private static List<ProgressDay> Progress(
        RefreshRow refresh, DateOnly today, Dictionary<DateOnly, int> planned, Dictionary<DateOnly, int> done)
    {
        // A refresh of many years would be a mistake in a date, not a plot.
        const int MostDays = 400;
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
