using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ids;
using YardRelay.Core.Readiness;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Days;
using YardRelay.Service.Depots;
using YardRelay.Service.Facts;
using YardRelay.Service.Notices;
using YardRelay.Service.Swaps;

namespace YardRelay.Service.Readiness;

/// <summary>Reads how ready the visits of a day, or of a wave, are.</summary>
internal sealed class ReadyReader(
    YardDb db, SwapReader swaps, DepotReader depots, FullDepots full, ServiceOptions options, TimeProvider time)
{
    private const int MostVisits = 1000;
    private const int MostDays = 10;

    /// <param name="day">Null: the next day after today on which something is booked.</param>
    /// <param name="wave">Its swaps, whatever their day; null: of the day.</param>
    public async Task<ReadyPage> ReadAsync(
        RefreshRow refresh, DateOnly? day, string? wave, string? site, CancellationToken cancel)
    {
        var (clock, now) = (new RefreshClock(refresh), time.GetUtcNow());
        var today = clock.DayOf(now);
        var open = db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == refresh.Key && s.CalledOffAt == null && s.AcceptedAt == null && (site == null || s.Site == site));
        var days = await DaysAsync(open, clock, today, cancel);
        var on = wave is not null ? (DateOnly?)null : day ?? days.Find(d => d.Day > today)?.Day ?? today.AddDays(1);
        var (from, until) = on is { } one ? (clock.StartOf(one), clock.StartOf(one.AddDays(1))) : default;
        var wanted = on is null ? open.Where(s => s.Wave == wave) : open.Where(s => s.Start >= from && s.Start < until);
        var total = await wanted.CountAsync(cancel);
        // Of a wave those without a time, too: they have the most to be done for them.
        var rows = await wanted.OrderBy(s => s.Start == null ? 0 : 1).ThenBy(s => s.Start).ThenBy(s => s.Id).Take(MostVisits)
            .ToListAsync(cancel);
        var facts = await FactsReader.ReadAsync(db, refresh, rows, options.Mail is not null, now, cancel);
        var listed = (await swaps.ListAsync(rows, cancel)).ToDictionary(s => s.Id);
        var fullOnes = await FullAsync(refresh.Key, cancel);
        var visits = new List<(ReadyState State, VisitReady Seen)>();
        foreach (var row in rows)
        {
            var ready = VisitReadiness.Of(facts.Of(row, listed[row.Id], fullOnes), now);
            visits.Add((ready.State, Seen(row, ready, facts, clock)));
        }
        return new(
            on, wave, site, refresh.Zone, now, days, facts.ToldUntil(rows),
            [
                .. visits.OrderBy(v => v.State)
                    .ThenBy(v => v.Seen.Start)
                    .ThenBy(v => v.Seen.Swap, StringComparer.Ordinal)
                    .Select(v => v.Seen)
            ],
            total);
    }

    /// <summary>The next days on which something is booked.</summary>
    private static async Task<List<ReadyDay>> DaysAsync(
        IQueryable<SwapRow> open, RefreshClock clock, DateOnly today, CancellationToken cancel)
    {
        var days = new List<ReadyDay>();
        var at = clock.StartOf(today);
        // A day with something after another: few questions, however many swaps there are.
        while (days.Count < MostDays && await open.Where(s => s.Start >= at).MinAsync(s => s.Start, cancel) is { } next)
        {
            var day = clock.DayOf(next);
            var (from, until) = (clock.StartOf(day), clock.StartOf(day.AddDays(1)));
            days.Add(new(day, await open.CountAsync(s => s.Start >= from && s.Start < until, cancel)));
            at = until;
        }
        return days;
    }

    /// <summary>Depots into which what was promised does not fit: name by key.</summary>
    private async Task<IReadOnlyDictionary<string, string>> FullAsync(string refresh, CancellationToken cancel)
    {
        var sums = await full.SumsAsync(db, refresh, cancel);
        return (await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh).ToListAsync(cancel))
            .Where(d => depots.FillOf(d, sums.GetValueOrDefault(d.Key) ?? DepotSums.None).State == DepotFillState.Full)
            .ToDictionary(d => d.Key, d => d.Name);
    }

    private static VisitReady Seen(SwapRow row, VisitReadiness ready, FactsReader facts, RefreshClock clock)
    {
        var id = SwapId.Parse(row.Id);
        string Local(DateTimeOffset at) => $"{clock.Local(at):ddd d MMM HH:mm}";
        return new(
            row.Id, row.Name, row.Site, row.Room, row.Start, row.Technician, facts.TechnicianOf(row), StateText(ready.State),
            [.. ready.Lacks.Select(l => new LackSeen(
                l.Kind, l.IsFinal, l.IsMinor, l.Count, l.Words(Local),
                [.. Cure.For(l, id).Select(c => new CureSeen(ActionText(c.Kind), c.Words, c.Command, c.Of))]))]);
    }

    private static string StateText(ReadyState state) => state switch
    {
        ReadyState.Cannot => "cannot",
        ReadyState.CanStill => "can-still",
        ReadyState.Nearly => "nearly",
        ReadyState.Ready => "ready",
        ReadyState.Begun => "begun",
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    private static string ActionText(CureKind kind) => kind switch
    {
        CureKind.Told => "told",
        CureKind.HandOver => "hand-over",
        CureKind.Give => "give",
        CureKind.AnotherTime => "another-time",
        CureKind.Decide => "decide",
        CureKind.Survey => "survey",
        CureKind.Trip => "trip",
        CureKind.Code => "code",
        CureKind.Depot => "depot",
        _ => throw new System.Diagnostics.UnreachableException(),
    };
}
