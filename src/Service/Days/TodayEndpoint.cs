using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Hands;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Swaps;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Days;

/// <summary>A day at a glance: what needs me now, the day's visits, what is on the move.</summary>
internal static class TodayEndpoint
{
    private const int MostVisits = 300;
    private const int MostNeeds = 50;

    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/today", GetAsync).RequireAuthorization(Roles.Reads).WithName("GetToday").WithSummary("A day at a glance; day=2026-11-25 for another one.");

    private static async Task<Results<Ok<DaySeen>, ProblemHttpResult>> GetAsync(string refresh, YardDb db, SwapReader reader, TimeProvider time, CancellationToken cancel, DateOnly? day = null)
    {
        var row = await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel);
        if (row is null) return new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();
        var clock = new RefreshClock(row);
        var now = time.GetUtcNow();
        var on = day ?? clock.DayOf(now);
        var (from, until) = (clock.StartOf(on), clock.StartOf(on.AddDays(1)));
        var swaps = db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh && s.CalledOffAt == null);
        var visitRows = await swaps.Where(s => s.Start >= from && s.Start < until).OrderBy(s => s.Start).ThenBy(s => s.Id).Take(MostVisits).ToListAsync(cancel);
        var orders = db.Orders.AsNoTracking().Where(o => o.Refresh == refresh);
        var movingRows = await OfAsync(orders.Where(o => o.State == OrderStates.UnderWay).OrderBy(o => o.MadeAt).Select(o => o.Swap), MostVisits);
        // Each reason is asked for where the few that have it are found without passing over all swaps: what has waited longest first.
        List<SwapRow> needRows =
        [
            .. await OfAsync(db.Snags.AsNoTracking().Where(n => n.Refresh == refresh && n.End == "open").GroupBy(n => n.Swap).OrderBy(g => g.Min(n => n.At)).Select(g => g.Key), 4 * MostNeeds),
            .. await OfAsync(orders.Where(o => (o.State == OrderStates.Failed && !db.Orders.Any(later => later.Swap == o.Swap && later.MadeAt > o.MadeAt)) || (o.State == OrderStates.UnderWay && o.LeaseUntil < now)).OrderBy(o => o.MadeAt).Select(o => o.Swap), 4 * MostNeeds),
            .. await swaps.Where(s => s.LeftOutBecause != null).OrderBy(s => s.Id).Take(4 * MostNeeds).ToListAsync(cancel),
            .. await swaps.Where(s => s.RestoredAt != null && s.AcceptedAt == null).OrderBy(s => s.RestoredAt).Take(4 * MostNeeds).ToListAsync(cancel),
            .. await swaps.Where(s => s.End < now && s.SwappedAt == null && s.AcceptedAt == null).OrderBy(s => s.End).Take(4 * MostNeeds).ToListAsync(cancel),
        ];
        var all = (await reader.ListAsync([.. visitRows.Concat(movingRows).Concat(needRows).DistinctBy(s => s.Id)], cancel)).ToDictionary(s => s.Id);
        var visits = visitRows.ConvertAll(s => all[s.Id]);
        var moving = movingRows.Select(s => all[s.Id]).Where(s => s.Moving is not null).ToList();
        var needs = needRows.DistinctBy(s => s.Id).Select(s => all[s.Id]).Where(s => s.Sign.Sign is "wants" or "stopped").OrderBy(s => s.Sign.Sign == "stopped" ? 0 : 1).ThenBy(s => s.Sign.Since ?? now).Take(MostNeeds).Select(s => Need(s, now)).ToList();
        needs.InsertRange(0, await FollowUpNeedsAsync(db, refresh, until, now, cancel));
        needs.InsertRange(0, await DepotNeedsAsync(db, clock, refresh, now, cancel));
        var technicians = (await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ToListAsync(cancel)).ConvertAll(TechnicianEndpoints.Seen);
        // As things stand: what is late pushes the end by as much.
        DateTimeOffset? ends = visits.Count == 0 ? null : visits.Max(v => v.Sign.Sign == "done" ? v.Appointment!.End : v.Appointment!.End + (now > v.Appointment.Finish && v.Next < v.Line.Count - 1 ? now - v.Appointment.Finish : TimeSpan.Zero));
        return TypedResults.Ok(new DaySeen(
            on, row.Zone, now, visits.Count, visits.Select(v => v.Site).Distinct().Count(), visits.Count(v => v.Sign.Sign == "done" || v.Line.Any(l => l is { Station: Core.Swaps.Station.Accepted, At: not null })),
            visits.Count(v => v.Sign.Sign == "moving"), visits.Count(v => v.Sign.Sign == "stopped"), ends, visits, moving, needs, technicians));

        async Task<List<SwapRow>> OfAsync(IQueryable<string> ids, int most)
        {
            var few = await ids.Take(most).ToListAsync(cancel);
            return few.Count == 0 ? [] : await swaps.Where(s => few.Contains(s.Id)).OrderBy(s => s.Start).ThenBy(s => s.Id).ToListAsync(cancel);
        }
    }

    /// <summary>Follow-ups that are due by the end of the day.</summary>
    private static async Task<List<NeedSeen>> FollowUpNeedsAsync(YardDb db, string refresh, DateTimeOffset until, DateTimeOffset now, CancellationToken cancel)
    {
        var due = await db.FollowUps.AsNoTracking().Where(f => f.Refresh == refresh && f.DoneAt == null && f.Due <= until).OrderBy(f => f.Due).Take(MostNeeds)
            .Select(f => new { f.Swap, Name = db.Swaps.Where(s => s.Id == f.Swap).Select(s => s.Name).FirstOrDefault(), Owner = db.Accounts.Where(a => a.Name == f.Owner).Select(a => a.Shown).FirstOrDefault(), f.Words, f.Due, f.MadeAt }).ToListAsync(cancel);
        return due.ConvertAll(f => new NeedSeen(f.Swap, f.Name ?? f.Swap, "wants", $"{f.Words.TrimEnd('.')}. {(f.Due < now ? "Overdue" : "Due today")}, for {f.Owner}", f.MadeAt, "open", "Open swap"));
    }

    /// <summary>Depots that delete by themselves before what lies in them is safe.</summary>
    private static async Task<List<NeedSeen>> DepotNeedsAsync(YardDb db, RefreshClock clock, string refresh, DateTimeOffset now, CancellationToken cancel)
    {
        var (today, needs) = (clock.DayOf(now), new List<NeedSeen>());
        SwapKind[] restores = [.. Enum.GetValues<SwapKind>().Where(k => k.Restores())];
        foreach (var depot in await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh && d.EndsOn != null).OrderBy(d => d.EndsOn).ToListAsync(cancel))
        {
            var ends = depot.EndsOn!.Value;
            if (ends.DayNumber - today.DayNumber > Core.Carrying.Hold.AlarmDays) continue;
            var there = db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh && s.Depot == depot.Key && s.Trips > 0 && s.PurgedAt == null);
            var waiting = await there.CountAsync(s => s.RestoredAt == null && restores.Contains(s.Kind), cancel);
            var safe = clock.StartOf(ends.AddDays(1 - depot.HoldDays));
            var held = await there.CountAsync(s => !(s.RestoredAt == null && restores.Contains(s.Kind)) && !db.SignOffs.Any(o => o.Swap == s.Id && o.At < safe), cancel);
            if (waiting + held > 0)
                needs.Add(new("", depot.Name, waiting > 0 ? "stopped" : "wants", $"It deletes by itself on {ends:yyyy-MM-dd}: {(waiting > 0 ? $"{Parcels(waiting)} not restored" : "")}{(waiting > 0 && held > 0 ? ", and " : "")}{(held > 0 ? $"{Parcels(held)} to be held longer" : "")}", now, "depot", "See depots"));
        }
        return needs;

        static string Parcels(int count) => count == 1 ? "1 parcel is" : $"{count:#,0} parcels are";
    }

    private static NeedSeen Need(SwapListed s, DateTimeOffset now)
    {
        var (action, words) = s.Sign.Sign == "stopped" ? ("open", "See why") : s.OpenSnags > 0 ? ("open", "Show files") : s.Line.Any(l => l is { Station: Core.Swaps.Station.Restored, At: not null }) ? ("open", "Work checklist") : ("open", "Open swap");
        return new(s.Id, s.Name, s.Sign.Sign, s.Sign.Words, s.Sign.Since ?? now, action, words);
    }
}
