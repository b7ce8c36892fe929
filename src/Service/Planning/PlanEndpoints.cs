using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Roster;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>Plans a refresh with the engine of Core and books what it places.</summary>
internal static class PlanEndpoints
{
    private const int Grid = 15;

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/plan", GetAsync).RequireAuthorization(Roles.Reads).WithName("GetPlan").WithSummary("Appointments, and what is left out and why.");
        routes.MapPost("/refreshes/{refresh}/plan", MakeAsync).RequireAuthorization(Roles.Leads).WithName("MakePlan").WithSummary("Plans all swaps that have not begun and books them.");
    }

    private static async Task<Results<Ok<PlanSeen>, ProblemHttpResult>> GetAsync(string refresh, YardDb db, CancellationToken cancel) =>
        await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel) ? TypedResults.Ok(await SeenAsync(db, refresh, 0, cancel)) : new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();

    private static async Task<PlanSeen> SeenAsync(YardDb db, string refresh, int cost, CancellationToken cancel)
    {
        var swaps = await db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh && (s.Start != null || s.LeftOutBecause != null)).OrderBy(s => s.Start).ThenBy(s => s.Id).ToListAsync(cancel);
        return new([.. swaps.Where(s => s.Start is not null).Select(s => SwapReader.AppointmentOf(s)!)], [.. swaps.Where(s => s.Start is null).Select(s => new LeftOutSeen(s.Id, s.Name, s.LeftOutBecause!))], cost);
    }

    private static async Task<Results<Ok<PlanSeen>, ProblemHttpResult>> MakeAsync(string refresh, PlanWanted wanted, Writer writer, TimeProvider time, ClaimsPrincipal user, YardDb db, CancellationToken cancel)
    {
        if (wanted.Steps is < 0 or > 1_000_000) return new Problem[] { new("plan.steps", $"Steps are 0 to 1,000,000, not {wanted.Steps}.") }.ToHttp();
        // Solved outside the transaction: the engine may take its time, and a plan that no longer fits is seen when it is written.
        var row = await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel);
        if (row is null) return new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();
        var clock = new RefreshClock(row);
        var (sites, technicians) = (await db.Sites.AsNoTracking().Where(s => s.Refresh == refresh).ToListAsync(cancel), await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).ToListAsync(cancel));
        if (technicians.Count == 0) return new Problem[] { new("plan.no-technician", "There is no technician to plan with. Add one with 'yardline technician set'.") }.ToHttp();
        var swaps = await db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh).OrderBy(s => s.Id).ToListAsync(cancel);
        var sizes = await db.Folders.AsNoTracking().Where(f => db.Swaps.Any(s => s.Id == f.Swap && s.Refresh == refresh)).GroupBy(f => f.Swap).Select(g => new { g.Key, Bytes = g.Sum(f => f.OldBytes) }).ToDictionaryAsync(g => g.Key, g => g.Bytes, cancel);
        var built = Build(row, clock, sites, technicians, swaps, sizes, time.GetUtcNow());
        if (!built.TryGet(out var problem, out _)) return built.Problems.ToHttp();
        var plan = await Task.Run(() => PlanEngine.Solve(problem, PlanBudget.OfSteps(wanted.Steps, () => cancel.IsCancellationRequested), wanted.Seed), cancel);
        if (PlanChecker.Check(problem, plan).FirstOrDefault() is { } breach) throw new InvalidOperationException($"The engine broke rule {breach.Rule}: {breach.Message}");
        var cost = PlanChecker.Cost(problem, plan).Total;
        return (await writer.WriteAsync<PlanSeen>(refresh, async w =>
        {
            var now = await w.Db.Swaps.Where(s => s.Refresh == refresh).ToDictionaryAsync(s => s.Id, cancel);
            foreach (var placed in plan.Placed)
                if (now.TryGetValue(placed.Id, out var swap) && !SwapFacts.IsUnderWay(swap)) Book(w, swap, problem.VisitOf[placed.Id], placed, clock);
            foreach (var left in plan.Unplaced)
                if (now.TryGetValue(left.Id, out var swap) && !SwapFacts.IsUnderWay(swap)) LeaveOut(w, swap, left.Because);
            w.Note("plan.made", null, $"Planned {plan.Placed.Count} swaps, {plan.Unplaced.Count} left out, cost {cost}", new() { ["placed"] = plan.Placed.Count, ["leftOut"] = plan.Unplaced.Count, ["cost"] = cost });
            await w.Db.SaveChangesAsync(cancel);
            return await SeenAsync(w.Db, refresh, cost, cancel);
        }, cancel)).ToHttp();
    }

    private static void Book(Writing.Writing w, SwapRow swap, Visit visit, Placed placed, RefreshClock clock)
    {
        var (start, finish) = (clock.At(placed.Start), clock.At(placed.Finish));
        if (swap.Start == start && swap.Finish == finish && swap.Technician == placed.Technician) return;
        var moved = swap.Start is not null;
        (swap.Start, swap.Finish, swap.Technician, swap.LeftOutBecause) = (start, finish, placed.Technician, null);
        (swap.HandsOnUntil, swap.End) = (clock.At(placed.Start + visit.Before), clock.At(placed.Finish + visit.After));
        swap.BookedAt = w.Now;
        SwapFacts.Settle(swap);
        w.Note(moved ? "swap.moved" : "swap.booked", swap.Id, $"{(moved ? "Moved" : "Booked")} {swap.Name} to {clock.Local(start):ddd d MMM HH:mm} with {placed.Technician}");
    }

    private static void LeaveOut(Writing.Writing w, SwapRow swap, string because)
    {
        if (swap.LeftOutBecause == because && swap.Start is null) return;
        (swap.Start, swap.HandsOnUntil, swap.Finish, swap.End, swap.Technician, swap.BookedAt, swap.LeftOutBecause) = (null, null, null, null, null, null, because);
        SwapFacts.Settle(swap);
        w.Note("swap.left-out", swap.Id, $"{swap.Name} has no appointment: {because}");
    }

    private static Result<AppointmentProblem> Build(RefreshRow refresh, RefreshClock clock, List<SiteRow> sites, List<TechnicianRow> technicians, List<SwapRow> swaps, Dictionary<string, long> sizes, DateTimeOffset now)
    {
        Minutes OnDay(int day, TimeOnly from, TimeOnly until) => new((day * Minutes.PerDay) + (int)from.ToTimeSpan().TotalMinutes, (day * Minutes.PerDay) + (int)until.ToTimeSpan().TotalMinutes);
        var days = Enumerable.Range(0, refresh.Days).ToList();
        bool IsWorkday(int day) => refresh.Starts.AddDays(day).DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday);
        var whole = days.Select(d => OnDay(d, new(7, 0), new(19, 0))).ToList();
        var visits = swaps.Where(s => !SwapFacts.IsOver(s)).Select(s =>
        {
            // Until there is an inventory, a typical 20 GB; 60 MB/s each way once staging has been done ahead.
            var unattended = Math.Clamp((int)Math.Ceiling(sizes.GetValueOrDefault(s.Id, 20_000_000_000) / 60e6 / 60 / Grid), 2, 16) * Grid;
            var free = s.Free.Select(f => (Day: DateOnly.ParseExact(f[..10], "yyyy-MM-dd").DayNumber - refresh.Starts.DayNumber, From: TimeOnly.ParseExact(f[11..16], "HH:mm"), Until: TimeOnly.ParseExact(f[17..], "HH:mm")))
                .Where(f => f.Day >= 0 && f.Day < refresh.Days).Select(f => OnDay(f.Day, f.From, f.Until)).ToList();
            var fixedAt = SwapFacts.IsUnderWay(s) && s.Start is { } start ? clock.MinuteOf(start) : (int?)null;
            var windows = fixedAt is { } at ? [new Minutes(at, clock.MinuteOf(s.End!.Value))] : s.Free.Count == 0 ? whole : (IReadOnlyList<Minutes>)free;
            return new Visit(
                s.Id, s.Site, [], 5, 30, fixedAt is null ? unattended : clock.MinuteOf(s.Finish!.Value) - fixedAt.Value - 30, 15, 30, windows, [],
                fixedAt ?? Math.Max(0, clock.MinuteOf(now)), refresh.Days - 1, null,
                s.ToldAt is not null && s.Start is not null && technicians.Any(t => t.Key == s.Technician) ? new(clock.MinuteOf(s.Start.Value), s.Technician!) : null, null);
        }).ToList();
        return AppointmentProblem.Create(
            refresh.Key, refresh.Days, Grid, [.. sites.Select(s => new PlanSite(s.Key, s.Benches))], [],
            [.. technicians.Select(t => new PlanTechnician(t.Key, [], t.Sites, [.. days.SelectMany(d => t.Shifts.Select(s => Shift.TryParse(s)!.Value).Where(s => s.Daily || IsWorkday(d)).Select(s => OnDay(d, s.From, s.Until)))]))], [], visits);
    }
}
