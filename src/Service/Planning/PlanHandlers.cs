using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Worlds;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>The work behind <see cref="PlanEndpoints"/>.</summary>
internal static class PlanHandlers
{
    private static async Task<Result<WorldProblem>> PoseAsync(YardDb db, RefreshRow refresh, TimeProvider time, CancellationToken cancel) =>
        WorldProblem.Pose(
            await WorldReader.ReadAsync(db, refresh, cancel), Math.Max(0, new RefreshClock(refresh).MinuteOf(time.GetUtcNow())));

    internal static async Task<Results<Ok<PlanSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, TimeProvider time, DraftDesk desk, HttpResponse response, CancellationToken cancel,
        int? number = null)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var plan = number is { } wanted
            ? await db.Plans.AsNoTracking().FirstOrDefaultAsync(p => p.Refresh == refresh && p.Number == wanted, cancel)
            : (db.IsNarrow ? null : await PlanReader.RowAsync(db, refresh, "draft", cancel))
                ?? await PlanReader.RowAsync(db, refresh, "published", cancel);
        // What is not published yet is the coordinator's: a technician sees what stands, at their sites.
        if (plan is { State: "draft" } && db.IsNarrow) plan = null;
        if (plan is null)
            return number is { } missing
                ? ServiceProblem.NotFound("plan", $"{missing}").ToHttp()
                : TypedResults.Ok(new PlanSeen(
                    0, "none", 0, 0, null, null, null, null, [], [], [], PlanReader.NoFigures, false, new([], [])));
        response.Headers.ETag = $"\"{plan.Version}\"";
        if (plan.State == "draft")
            return (await desk.AtAsync<PlanSeen>(
                db,
                row,
                plan,
                laid => Task.FromResult<Result<PlanSeen>>(laid.Reader.Seen(plan, laid.Board.ToPlan(), laid.Lost)),
                cancel)).ToHttp();
        var posed = await PoseAsync(db, row, time, cancel);
        if (!posed.TryGet(out var problem, out _)) return posed.Problems.ToHttp();
        return TypedResults.Ok((await PlanReader.OfAsync(db, problem, row, cancel))
            .Seen(plan, Known(PlanReader.BodyOf(plan), problem.Problem), []));
    }

    // An older plan may name visits and technicians that the refresh has no more.
    private static Plan Known(Plan plan, AppointmentProblem problem) =>
        new(
            [.. plan.Placed.Where(p => problem.VisitOf.ContainsKey(p.Id) && problem.TechnicianOf.ContainsKey(p.Technician))],
            [.. plan.Unplaced.Where(u => problem.VisitOf.ContainsKey(u.Id))]);

    internal static async Task<Ok<List<PlanListed>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Plans.AsNoTracking().Where(p => p.Refresh == refresh).OrderByDescending(p => p.Number).Take(200)
            .Select(p => new PlanListed(
                p.Number, p.State, p.BasedOn, p.MadeBy, p.MadeAt, p.PublishedBy, p.PublishedAt, p.Placed, p.LeftOut, p.Cost))
                .ToListAsync(cancel));

    internal static async Task<Results<Ok<PlansCompared>, ProblemHttpResult>> CompareAsync(
        RefreshKey refresh, YardDb db, TimeProvider time, CancellationToken cancel, int? from = null, int? to = null)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        async Task<PlanRow?> FindAsync(int? number, string state) =>
            number is { } n
                ? await db.Plans.AsNoTracking().FirstOrDefaultAsync(p => p.Refresh == refresh && p.Number == n, cancel)
                : await PlanReader.RowAsync(db, refresh, state, cancel);
        var (before, after) = (await FindAsync(from, "published"), await FindAsync(to, "draft"));
        if (from is not null && before is null) return ServiceProblem.NotFound("plan", $"{from}").ToHttp();
        if (after is null)
            return (to is null ? new NoDraftToCompare() : ServiceProblem.NotFound("plan", $"{to}")).ToHttp();
        var posed = await PoseAsync(db, row, time, cancel);
        if (!posed.TryGet(out var problem, out _)) return posed.Problems.ToHttp();
        var reader = await PlanReader.OfAsync(db, problem, row, cancel);
        var (a, b) = (
            before is null ? new Plan([], []) : PlanReader.BodyOf(before), await DraftPlan.ReadAsync(db, after, problem, cancel));
        PlanFigures Figures(Plan plan) => reader.Figures(problem.Problem, Known(plan, problem.Problem));
        return TypedResults.Ok(new PlansCompared(
            before?.Number ?? 0, after.Number, Figures(a), Figures(b), [.. PlanChange.Between(a, b).Select(reader.Seen)]));
    }

    internal static async Task<Results<Ok<PlanSeen>, ProblemHttpResult>> MakeAsync(
        RefreshKey refresh, PlanWanted wanted, Writer writer, TimeProvider time, YardDb db, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            wanted.Steps is < 0 or > 1_000_000 ? new PlanStepsProblem(wanted.Steps) : null,
            wanted.Seconds is { } s && s is not (>= 0 and <= 60) ? new PlanSecondsProblem(s) : null);
        if (faults.Count > 0) return faults.ToHttp();
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var posed = await PoseAsync(db, row, time, cancel);
        if (!posed.TryGet(out var problem, out _)) return posed.Problems.ToHttp();
        var draft = await PlanReader.RowAsync(db, refresh, "draft", cancel);
        var published = await PlanReader.RowAsync(db, refresh, "published", cancel);
        var from = wanted.Afresh ? null : await DraftPlan.FromAsync(db, draft, problem, cancel);
        // Solved outside the transaction: the engine may take its time.
        var started = time.GetTimestamp();
        bool Stopped() => cancel.IsCancellationRequested;
        var budget = wanted.Seconds is { } most
            ? PlanBudget.OfTime(
                () => Stopped() || most <= 0 ? 1 : time.GetElapsedTime(started).TotalSeconds / most, Environment.ProcessorCount)
            : PlanBudget.OfSteps(wanted.Steps, Stopped);
        var plan = await Task.Run(
            () => PlanEngine.Solve(problem.Problem, budget, wanted.Seed, from), cancel);
        if (PlanChecker.Check(problem.Problem, plan).FirstOrDefault() is { } breach)
            throw new InvalidOperationException($"The engine broke rule {breach.Rule}: {breach.Message}");
        var (digest, leftOut) = (PlanDigest.Of(problem.Problem, plan), WorldProblem.LeftOut(plan).Count);
        var (draftNumber, draftVersion) = (draft?.Number, draft?.Version);
        return (await writer.WriteAsync<PlanSeen>(refresh, async w =>
        {
            var there = await PlanReader.RowAsync(w.Db, refresh, "draft", cancel);
            // Somebody else moved something while this was being planned: their work is not thrown away unasked.
            if (there is not null && (there.Number != draftNumber || there.Version != draftVersion))
                return new PlanChangedProblem(there.MadeBy, there.Number);
            if (there is null)
                w.Db.Plans.Add(there = new()
                {
                    Refresh = refresh,
                    Number = ++w.Refresh.LastPlan,
                    State = "draft",
                    MadeBy = "",
                    Body = "",
                    Moves = "[]"
                });
            (there.Version, there.BasedOn, there.MadeBy, there.MadeAt) = (there.Version + 1, published?.Number ?? 0, w.By, w.Now);
            (there.Body, there.Moves, there.Placed, there.LeftOut, there.Cost) =
                (PlanFile.Write(plan), "[]", digest.Placed, leftOut, digest.Cost.Total);
            w.Note(
                "plan.drafted",
                null,
                $"Draft {there.Number} of a plan: {plan.Placed.Count} appointments, {leftOut} left out, cost "
                    + $"{digest.Cost.Total}",
                new() { ["plan"] = there.Number, ["placed"] = digest.Placed, ["leftOut"] = leftOut, ["cost"] = digest.Cost.Total });
            await w.Db.SaveChangesAsync(cancel);
            return (await PlanReader.OfAsync(w.Db, problem, w.Refresh, cancel)).Seen(there, plan, []);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<PlanSeen>, ProblemHttpResult>> PublishAsync(
        RefreshKey refresh, HttpRequest request, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        if (DraftVersions.VersionOf(request) is not { } version) return DraftVersions.NoVersion.ToHttp();
        return (await writer.WriteAsync<PlanSeen>(refresh, async w =>
        {
            if (await PlanReader.RowAsync(w.Db, refresh, "draft", cancel) is not { } draft)
                return new NoDraftToPublish();
            if (draft.Version != version)
                return new StaleProblem(
                    $"The draft is at version {draft.Version} now, not {version}: somebody changed it. Look at it, then publish.",
                    new { draft.Number, draft.Version, draft.MadeBy });
            var before = await PlanReader.RowAsync(w.Db, refresh, "published", cancel);
            if ((before?.Number ?? 0) != draft.BasedOn)
                return new PlanOvertakenProblem(before?.PublishedBy, before?.Number, draft.BasedOn);
            var posed = await PoseAsync(w.Db, w.Refresh, time, cancel);
            if (!posed.TryGet(out var problem, out _)) return Result<PlanSeen>.Failed(posed.Problems);
            var plan = await DraftPlan.ReadAsync(w.Db, draft, problem, cancel);
            var board = PlanBoard.Lay(problem.Problem, plan, out var lost);
            var reader = await PlanReader.OfAsync(w.Db, problem, w.Refresh, cancel);
            if (lost.Count > 0)
                return new PlanNoLongerFitsProblem(lost.Count, reader.Name(lost[0].Id), reader.Clock.Local(reader.Clock.At(lost[0].Start)));
            var laid = board.ToPlan();
            var affected = await Booking.BookAsync(w, reader, problem.Problem, laid, cancel);
            if (before is not null) before.State = "past";
            (draft.State, draft.PublishedBy, draft.PublishedAt, draft.Body) = ("published", w.By, w.Now, PlanFile.Write(laid));
            w.WorldChanged();
            w.Note(
                "plan.published",
                null,
                $"Plan {draft.Number} published: {laid.Placed.Count} appointments, {WorldProblem.LeftOut(laid).Count} left out, "
                    + $"{affected} swaps affected",
                new()
                {
                    ["plan"] = draft.Number,
                    ["placed"] = laid.Placed.Count,
                    ["leftOut"] = WorldProblem.LeftOut(laid).Count,
                    ["affected"] = affected
                });
            await w.Db.SaveChangesAsync(cancel);
            return reader.Seen(draft, laid, []);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        RefreshKey refresh, Writer writer, CancellationToken cancel) =>
        await writer.DropAsync(refresh, "draft", w => PlanReader.RowAsync(w.Db, refresh, "draft", cancel), p => $"{p.Number}", cancel);
}
