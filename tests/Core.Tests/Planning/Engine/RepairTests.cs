using CsCheck;
using YardRelay.Core.Planning;

namespace YardRelay.Core.Tests.Planning.Engine;

/// <summary>A plan that goes on from another: what was promised stays, unless it must or pays.</summary>
public sealed class RepairTests
{
    private static AppointmentProblem Promised(AppointmentProblem problem, Plan plan)
    {
        var at = plan.Placed.ToDictionary(p => p.Id);
        return problem.With([.. problem.Visits.Select(v =>
            v with { Published = at.TryGetValue(v.Id, out var placed) ? new(placed.Start, placed.Technician) : null })]).Value;
    }

    private static int Broken(AppointmentProblem problem, Plan plan)
    {
        var told = problem.Visits.Where(v => v.Published is not null).ToDictionary(v => v.Id, v => v.Published!);
        return told.Count - plan.Placed.Count(p => told.TryGetValue(p.Id, out var t) && t == new Published(p.Start, p.Technician));
    }

    // Where people are told 30 visits on three days, and a technician's day goes.
    private static Gen<AppointmentProblem> Days =>
        Gen.Select(Gen.Int[2, 4], Gen.Int[8, 30], Gen.Int[0, 1_000_000]).Select((technicians, visits, seed) =>
    {
        var random = new Random(seed);
        return AppointmentProblem.Create(
            "days", 3, 15, [new("North", 2 + random.Next(3)), new("South", 2)], [("North", "South", 15 * random.Next(3))],
            [.. Enumerable.Range(0, technicians).Select(t => new PlanTechnician(
                $"T{t}",
                [],
                ["North", "South"],
                [.. Enumerable.Range(0, 3).SelectMany(d =>
                    new Minutes[] { new((1440 * d) + 480, (1440 * d) + 720), new((1440 * d) + 765, (1440 * d) + 990) })]))],
            [],
            [.. Enumerable.Range(0, visits).Select(i => new Visit(
                $"V{i:00}", random.Next(2) == 0 ? "North" : "South", [], random.Next(1, 9), 15 * random.Next(1, 3), 15 * random.Next(0, 5),
                15 * random.Next(0, 2), 30, [.. Enumerable.Range(0, 3).Select(d => new Minutes((1440 * d) + 480, (1440 * d) + 990))], [], 0,
                2, null, null, null))]).Value;
    });

    [Fact]
    public void When_nothing_has_changed_nothing_moves_not_even_a_last_part() =>
        Gen.Select(Days, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(400), seed);
            var promised = Promised(problem, plan);
            var again = PlanEngine.Solve(promised, PlanBudget.OfSteps(400), seed + 1, plan);
            if (PlanChecker.Cost(promised, again).Total == PlanChecker.Cost(promised, plan).Total)
                PlanChange.Between(plan, again).ShouldBeEmpty();
            else PlanChecker.Cost(promised, again).Total.ShouldBeLessThan(PlanChecker.Cost(promised, plan).Total, "who moves, pays");
        }, iter: 40);

    [Fact]
    public void On_a_sick_day_no_more_promises_are_broken_than_when_all_is_planned_afresh() =>
        Gen.Select(Days, Gen.Int[0, 100_000]).Sample((problem, seed) =>
        {
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(400), seed);
            var (ill, day) = (problem.Technicians[seed % problem.Technicians.Count].Id, seed % 3);
            var promised = Promised(problem, plan);
            var sick = AppointmentProblem.Create(promised.Name, promised.Days, promised.Grid, promised.Sites, [(
                "North", "South", promised.TravelMinutes("North", "South"))],
                [.. promised.Technicians.Select(t =>
                    t.Id == ill ? t with { Shifts = [.. t.Shifts.Where(s => Minutes.DayOf(s.Start) != day)] } : t)],
                [],
                promised.Visits).Value;
            var repaired = PlanEngine.Solve(sick, PlanBudget.OfSteps(800), seed, plan);
            PlanChecker.Check(sick, repaired).ShouldBeEmpty();
            var must = plan.Placed.Count(p => p.Technician == ill && Minutes.DayOf(p.Start) == day);
            Broken(sick, repaired).ShouldBeGreaterThanOrEqualTo(must);
            var afresh = PlanEngine.Solve(sick, PlanBudget.OfSteps(800), seed);
            PlanChecker.Cost(sick, repaired).Total.ShouldBeLessThanOrEqualTo(Math.Max(
                PlanChecker.Cost(sick, afresh).Total, PlanChecker.Cost(sick, repaired).LeftOut + (5 * must) + 200));
        }, iter: 40);

    [Fact]
    public void A_plan_of_another_world_helps_where_it_can_and_harms_nowhere() =>
        Gen.Select(Days, Days, Gen.Int[0, 100_000]).Sample((problem, other, seed) =>
        {
            var foreign = PlanEngine.Solve(other, PlanBudget.OfSteps(50), seed);
            var mixed = new Plan([.. foreign.Placed, new("nobody", "T0", 480, 540), new("V00", "nobody", 480, 540)], []);
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(100), seed, mixed);
            PlanChecker.Check(problem, plan).ShouldBeEmpty();
            PlanChecker.Cost(problem, plan).Total
                .ShouldBeLessThanOrEqualTo(PlanChecker.Cost(problem, PlanEngine.SolveEarliest(problem)).Total);
        }, iter: 30);

    [Fact]
    public void Two_plans_are_told_apart_visit_by_visit()
    {
        var before = new Plan(
            [new("stays", "T", 480, 540), new("moves", "T", 600, 660), new("goes", "T", 700, 760), new("changes", "T", 800, 860)],
            [new("comes", "Rule 2")]);
        var after = new Plan(
            [new("stays", "T", 480, 540), new("moves", "T", 615, 675), new("changes", "U", 800, 860), new("comes", "U", 480, 540)],
            [new("goes", "Rule 2")]);
        PlanChange.Between(before, after)
            .Select(c => (c.Visit, c.Before?.Start, c.After?.Start, c.After?.Technician))
            .ShouldBe([("changes", 800, 800, "U"), ("comes", null, 480, "U"), ("goes", 700, null, null), ("moves", 600, 615, "T")]);
        PlanChange.Between(after, after).ShouldBeEmpty();
    }
}
