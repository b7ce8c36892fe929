using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Outlooks;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Worlds;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>The work behind <see cref="AskEndpoints"/>.</summary>
internal static class AskHandlers
{
    private const int MostChanges = 20;
    private const int MostRuns = 20_000;

    /// <summary>The newest plan, as far as it fits, on the table.</summary>
    private sealed record Asked(World World, WorldProblem Posed, PlanBoard Board, PlanReader Reader, Plan Plan, int Now);

    private static async Task<Result<Asked>> OpenAsync(string refresh, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh);
        if ((await PlanReader.RowAsync(db, refresh, "draft", cancel)
            ?? await PlanReader.RowAsync(db, refresh, "published", cancel)) is not { } plan)
            return new PlanNoneProblem();
        var now = Math.Max(0, new RefreshClock(row).MinuteOf(time.GetUtcNow()));
        var world = await WorldReader.ReadAsync(db, row, cancel);
        var posed = WorldProblem.Pose(world, now);
        if (!posed.TryGet(out var problem, out _)) return Result<Asked>.Failed(posed.Problems);
        var board = PlanBoard.Lay(problem.Problem, await DraftPlan.ReadAsync(db, plan, problem, cancel), out _);
        return new Asked(world, problem, board, await PlanReader.OfAsync(db, problem, row, cancel), board.ToPlan(), now);
    }

    internal static async Task<Results<Ok<WhyNotSeen>, ProblemHttpResult>> WhyAsync(
        RefreshKey refresh, SwapId swap, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        var opened = await OpenAsync(refresh, db, time, cancel);
        if (!opened.TryGet(out var asked, out _)) return opened.Problems.ToHttp();
        if (!asked.Posed.Problem.VisitOf.ContainsKey(swap)) return ServiceProblem.NotFound("swap", swap).ToHttp();
        var bench = swap + WorldProblem.PreparationSuffix;
        // Where its bench preparation has no place, that is what stands in the way.
        var about = asked.Posed.Problem.VisitOf.ContainsKey(bench) && asked.Board.At(bench) is null ? bench : swap;
        return TypedResults.Ok(new WhyNotSeen(
            swap, asked.Reader.Name(swap), asked.Board.At(swap) is { } at ? asked.Reader.Seen(at) : null,
            [.. asked.Board.WhyNot(about).Select(w =>
                new WayInSeen(
                    w.Rule, asked.Reader.Words(w.Words), w.Technician, w.Start is { } start ? asked.Reader.Clock.At(start) : null))]));
    }

    internal static async Task<Results<Ok<WhatIfSeen>, ProblemHttpResult>> WhatIfAsync(
        RefreshKey refresh, WhatIfWanted wanted, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        var parsed = wanted.Changes.Select(WorldChange.Parse).ToList();
        List<Problem> faults = [.. WorldWrite.Faults(
            wanted.Changes.Count is 0 or > MostChanges
                ? new WhatIfChangesProblem(MostChanges, WorldChange.Forms)
                : null,
            wanted.Seconds is not (>= 0 and <= 30)
                ? new WhatIfSecondsProblem(wanted.Seconds)
                : null), .. parsed.SelectMany(p => p.Problems)];
        if (faults.Count > 0) return faults.ToHttp();
        var opened = await OpenAsync(refresh, db, time, cancel);
        if (!opened.TryGet(out var asked, out _)) return opened.Problems.ToHttp();
        Result<World> changed = asked.World;
        foreach (var change in parsed)
            if (changed.IsOk) changed = change.Value.In(changed.Value);
        var posed = changed.IsOk ? WorldProblem.Pose(changed.Value, asked.Now) : Result<WorldProblem>.Failed(changed.Problems);
        if (!posed.TryGet(out var other, out _)) return posed.Problems.ToHttp();
        // What is on the table counts as promised, so that the figures tell what would have to move.
        var promised = Promise(other.Problem, asked.Plan);
        if (!promised.TryGet(out var problem, out _)) return promised.Problems.ToHttp();
        // Both are improved for as long, so that the difference is the change's and not the search's.
        Plan Improve(AppointmentProblem p) => PlanEngine.Solve(p, Within(wanted.Seconds, time, cancel), 1, asked.Plan);
        var isNow = Promise(asked.Posed.Problem, asked.Plan).Value;
        var (before, after) = await Task.Run(() => (Improve(isNow), Improve(problem)), cancel);
        var changes = PlanChange.Between(asked.Plan, after);
        var (was, would) = (
            before.Unplaced.Select(u => u.Id).ToHashSet(), after.Unplaced.Select(u => u.Id).ToHashSet());
        var (a, b) = (asked.Reader.Figures(isNow, before), asked.Reader.Figures(problem, after));
        var moved = changes.Count(c => c is { Before: not null, After: not null });
        return TypedResults.Ok(new WhatIfSeen(
            a,
            b,
            moved,
            [.. WorldProblem.LeftOut(after).Where(u => !was.Contains(u.Id)).Select(asked.Reader.Seen)],
            [.. WorldProblem.LeftOut(before).Where(u => !would.Contains(u.Id)).Select(asked.Reader.Seen)],
            $"{Difference(b.LeftOut - a.LeftOut, "swap left out", "swaps left out")}, {moved} appointments would move, the last day would "
                + $"be {(b.LastDay is { } last ? $"{last:ddd d MMM}" : "none")}"
                + $"{(a.LastDay == b.LastDay ? " as now" : $" instead of {a.LastDay:ddd d MMM}")}, cost {a.Cost} → {b.Cost}."));

        static string Difference(int by, string one, string many) =>
            by == 0 ? $"As many {many}" : $"{Math.Abs(by)} {(by > 0 ? "more" : "fewer")} {(Math.Abs(by) == 1 ? one : many)}";
    }

    private static Result<AppointmentProblem> Promise(AppointmentProblem p, Plan plan)
    {
        var at = plan.Placed.Where(x => p.TechnicianOf.ContainsKey(x.Technician)).ToDictionary(x => x.Id);
        return p.With([.. p.Visits.Select(v =>
            v.Published is null && at.TryGetValue(v.Id, out var placed)
                ? v with { Published = new(placed.Start, placed.Technician) }
                : v)]);
    }

    internal static async Task<Results<Ok<OutlookSeen>, ProblemHttpResult>> OutlookAsync(
        RefreshKey refresh, OutlookWanted wanted, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        var (doubts, faults) = Read(wanted);
        if (faults.Count > 0) return faults.ToHttp();
        var opened = await OpenAsync(refresh, db, time, cancel);
        if (!opened.TryGet(out var asked, out _)) return opened.Problems.ToHttp();
        var report = await Task.Run(() => Outlook.Play(asked.Posed.Problem, asked.Plan, doubts, wanted.Runs, wanted.Seed), cancel);
        var starts = asked.World.Starts;
        var risk = report.Days.ToDictionary(d => d.Day);
        var sure = report.DoneBy.ToList().FindIndex(p => p >= 0.95);
        return TypedResults.Ok(new OutlookSeen(
            wanted, report.InTime, sure < 0 ? null : starts.AddDays(sure), WorldProblem.LeftOut(asked.Plan).Count,
            [.. report.DoneBy.Select((p, d) => new OutlookDay(
                starts.AddDays(d), risk.GetValueOrDefault(d)?.Visits ?? 0, p, risk.GetValueOrDefault(d)?.Overtime,
                risk.GetValueOrDefault(d)?.Repeated, d >= asked.World.Days))],
            [.. report.Sites.Select(s => new OutlookSite(s.Site, s.Visits, s.Repeated))]));
    }

    private static (Doubts Doubts, List<Problem> Faults) Read(OutlookWanted wanted)
    {
        var doubts = new Doubts(wanted.LengthSpread, wanted.NoShow, wanted.FailedTrip, wanted.OvertimeMinutes);
        return (doubts, [
            .. doubts.Check(),
            .. WorldWrite.Faults(wanted.Runs is < 1 or > MostRuns
                ? new OutlookRunsProblem(MostRuns, wanted.Runs)
                : null)
        ]);
    }

    internal static async Task<Results<Ok<SlackSeen>, ProblemHttpResult>> SlackAsync(
        RefreshKey refresh, SlackWanted wanted, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        var (doubts, faults) = Read(wanted.Doubts);
        if (wanted.Seconds is not (>= 0 and <= 10)) faults.Add(new SlackSecondsProblem(wanted.Seconds));
        if (faults.Count > 0) return faults.ToHttp();
        var opened = await OpenAsync(refresh, db, time, cancel);
        if (!opened.TryGet(out var asked, out _)) return opened.Problems.ToHttp();
        var steps = await Task.Run(
            () => SlackLadder.Climb(
                asked.Posed.Problem,
                asked.Plan,
                doubts,
                wanted.Doubts.Runs,
                wanted.Doubts.Seed,
                () => Within(wanted.Seconds, time, cancel)),
            cancel);
        return TypedResults.Ok(new SlackSeen([.. steps.Select(s => new SlackStep(
            s.Minutes,
            s.LeftOut,
            s.Moved,
            s.LastDay < 0 ? null : asked.World.Starts.AddDays(s.LastDay),
            s.InTime,
            s.Overtime,
            s.Repeated))]));
    }

    private static PlanBudget Within(double seconds, TimeProvider time, CancellationToken cancel)
    {
        var started = time.GetTimestamp();
        return PlanBudget.OfTime(
            () => cancel.IsCancellationRequested || seconds <= 0 ? 1 : time.GetElapsedTime(started).TotalSeconds / seconds,
            Environment.ProcessorCount);
    }
}
