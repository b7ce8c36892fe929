using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Days;

/// <summary>The work behind <see cref="TodayEndpoint"/>.</summary>
internal static class TodayHandler
{
    private const int MostVisits = 300;

    internal static async Task<Results<Ok<List<NeedSeen>>, ProblemHttpResult>> NeedsAsync(
        RefreshKey refresh, YardDb db, SwapReader reader, NeedsDesk desk, TimeProvider time, CancellationToken cancel)
    {
        var row = await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel);
        if (row is null) return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var needs = desk.Of(row, time.GetUtcNow());
        var rows = await needs.RowsAsync(cancel);
        return TypedResults.Ok(await needs.ReadAsync(rows, (await reader.ListAsync(rows, cancel)).ToDictionary(s => s.Id), cancel));
    }

    internal static async Task<Results<Ok<DaySeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, SwapReader reader, NeedsDesk desk, TimeProvider time, CancellationToken cancel,
        DateOnly? day = null)
    {
        var row = await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel);
        if (row is null) return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var clock = new RefreshClock(row);
        var now = time.GetUtcNow();
        var on = day ?? clock.DayOf(now);
        if (DayTooFar.Is(on, row)) return new DayTooFar(on, row.Starts).ToHttp();
        var (from, until) = (clock.StartOf(on), clock.StartOf(on.AddDays(1)));
        var swaps = db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh && s.CalledOffAt == null);
        var visitRows = await swaps.Where(s => s.Start >= from && s.Start < until)
            .OrderBy(s => s.Start)
            .ThenBy(s => s.Id)
            .Take(MostVisits)
            .ToListAsync(cancel);
        var needs = desk.Of(row, now);
        var movingRows = await needs.SwapsAsync(
            OrderStates.Moving(db, now).AsNoTracking()
                .Where(o => o.Refresh == refresh)
                .OrderBy(o => o.MadeAt)
                .Select(o => o.Swap),
            MostVisits,
            cancel);
        var needRows = await needs.RowsAsync(cancel);
        var all = (await reader.ListAsync([.. visitRows.Concat(movingRows).Concat(needRows).DistinctBy(s => s.Id)], cancel))
            .ToDictionary(s => s.Id);
        var visits = visitRows.ConvertAll(s => all[s.Id]);
        var moving = movingRows.Select(s => all[s.Id]).Where(s => s.Moving is not null).ToList();
        var waiting = await needs.ReadAsync(needRows, all, cancel);
        var technicians = (await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ToListAsync(cancel))
            .ConvertAll(WorldView.Seen);
        // As things stand: what is late pushes the end by as much.
        DateTimeOffset? ends = visits.Count == 0
            ? null
            : visits.Max(v =>
                v.Sign.Sign == "done"
                    ? v.Appointment!.End
                    : v.Appointment!.End
                        + (now > v.Appointment.Finish && v.Next < v.Line.Count - 1 ? now - v.Appointment.Finish : TimeSpan.Zero));
        return TypedResults.Ok(new DaySeen(
            on,
            row.Zone,
            now,
            visits.Count,
            visits.Select(v => v.Site).Distinct().Count(),
            visits.Count(v => v.Sign.Sign == "done" || v.Line.Any(l => l is { Station: Core.Swaps.Station.Accepted, At: not null })),
            visits.Count(v => v.Sign.Sign == "moving"), visits.Count(v => v.Sign.Sign == "stopped"), ends, visits, moving, waiting,
            technicians, (await Crew.ReadAsync(db, [refresh], cancel)).AwayBetween(refresh, from, until)));
    }
}
