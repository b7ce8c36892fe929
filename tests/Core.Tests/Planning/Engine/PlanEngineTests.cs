using CsCheck;
using YardRelay.Core.Planning;

namespace YardRelay.Core.Tests.Planning.Engine;

public sealed class PlanEngineTests
{
    public static TheoryData<string> PublicInstances =>
        [.. Directory.GetFiles(Instances, "*-?.json").Select(f => Path.GetFileName(f)).Order()];

    private static string Instances => Path.Combine(Root(AppContext.BaseDirectory), "bench", "plan-instances");

    private static string Root(string folder) =>
        File.Exists(Path.Combine(folder, "YardRelay.slnx")) ? folder : Root(Path.GetDirectoryName(folder)!);

    private static AppointmentProblem Read(string name) => PlanFile.ReadInstance(File.ReadAllText(Path.Combine(Instances, name))).Value;

    [Theory, MemberData(nameof(PublicInstances))]
    public void A_public_instance_gets_a_plan_that_keeps_every_rule_and_costs_no_more_than_earliest_insertion(string name)
    {
        var problem = Read(name);
        var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(problem.Visits.Count > 1000 ? 20 : 200), seed: 7);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        var plain = PlanEngine.SolveEarliest(problem);
        PlanChecker.Check(problem, plain).ShouldBeEmpty();
        PlanChecker.Cost(problem, plan).Total.ShouldBeLessThanOrEqualTo(PlanChecker.Cost(problem, plain).Total);
        plan.Unplaced.ShouldAllBe(u => u.Because.StartsWith("Rule"));
    }

    [Theory, InlineData("tiny-1.json", 18), InlineData("tiny-2.json", 22)]
    public void The_known_optimum_of_a_tiny_instance_is_reached(string name, int optimum)
    {
        var problem = Read(name);
        PlanChecker.Cost(problem, PlanEngine.Solve(problem, PlanBudget.OfSteps(3000), seed: 1)).Total.ShouldBe(optimum);
    }

    /// <summary>
    /// The best plan known of each instance (the larger of 3 and 1.5 % is allowed), reached in a number of steps that takes a second or
    /// two.
    /// </summary>
    [Theory, InlineData("small-1.json", 97), InlineData("small-2.json", 81), InlineData(
        "replan-1.json", 235), InlineData("travel-1.json", 144), InlineData(
        "interleave-1.json", 5121)]
    public void A_small_instance_comes_near_the_best_plan_that_is_known(string name, int known)
    {
        var problem = Read(name);
        var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(200_000), seed: 5);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        PlanChecker.Cost(problem, plan).Total.ShouldBeLessThanOrEqualTo(known + (int)Math.Max(3, known * 0.015));
    }

    [Fact]
    public void Of_places_that_cost_the_same_the_earliest_is_taken()
    {
        var visits = Enumerable.Range(0, 4)
            .Select(i => new Visit($"V{i}", "North", [], 2, 60, 0, 0, 0, [new(480, 1080)], [], 0, 0, null, null, null)).ToList();
        var problem = AppointmentProblem.Create(
            "calm", 1, 15, [new("North", 4)], [], [new("Noor", [], ["North"], [new(480, 1080)])], [], visits).Value;
        PlanEngine.Solve(problem, PlanBudget.OfSteps(2000), seed: 4).Placed.Select(p => p.Start).Order().ShouldBe([480, 540, 600, 660]);
    }

    [Fact]
    public void A_budget_of_time_is_kept_and_one_that_is_stopped_gives_the_best_plan_so_far()
    {
        var problem = Read("mid-1.json");
        var asked = 0;
        var plan = PlanEngine.Solve(problem, PlanBudget.OfTime(() => Interlocked.Increment(ref asked) / 20_000.0, 2), seed: 1);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        asked.ShouldBeInRange(20_000, 20_100);
        var stopped = PlanEngine.Solve(
            problem, PlanBudget.OfSteps(long.MaxValue, () => Interlocked.Increment(ref asked) > 22_000), seed: 1);
        PlanChecker.Check(problem, stopped).ShouldBeEmpty();
        PlanChecker.Cost(problem, plan).Total.ShouldBeLessThan(PlanChecker.Cost(problem, stopped).Total);
    }

    [Fact]
    public void Random_instances_get_valid_plans_the_same_for_the_same_seed_and_never_dearer_than_earliest_insertion() =>
        Instance.Sample(problem =>
        {
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(60), seed: 3);
            PlanChecker.Check(problem, plan).ShouldBeEmpty();
            var plain = PlanEngine.SolveEarliest(problem);
            PlanChecker.Check(problem, plain).ShouldBeEmpty();
            PlanChecker.Cost(problem, plan).Total.ShouldBeLessThanOrEqualTo(PlanChecker.Cost(problem, plain).Total);
            PlanFile.Write(PlanEngine.Solve(problem, PlanBudget.OfSteps(60), seed: 3)).ShouldBe(PlanFile.Write(plan));
            PlanFile.ReadPlan(PlanFile.Write(plan)).Value.Placed.ShouldBe(plan.Placed);
        }, iter: 60);

    // Small, crowded worlds over three days in which every rule bites: nights, breaks off the grid, travel, chains, depots.
    internal static Gen<AppointmentProblem> Instance =>
        from sites in Gen.Int[1, 3]
        from technicians in Gen.Int[1, 3]
        from visits in Gen.Int[1, 14]
        from seed in Gen.Int[0, 1_000_000]
        select Make(sites, technicians, visits, new Random(seed));

    private static AppointmentProblem Make(int sites, int technicians, int visits, Random random) => AppointmentProblem.Create(
        "random", 3, 15,
        [.. Enumerable.Range(0, sites).Select(s => new PlanSite($"S{s}", random.Next(0, 3)))],
        [.. Enumerable.Range(1, sites - 1).Select(s => ("S0", $"S{s}", random.Next(0, 50)))],
        [.. Enumerable.Range(0, technicians).Select(t => new PlanTechnician($"T{t}", random.Next(2) == 0 ? ["laptop"] : ["laptop", "mac"],
            [.. Enumerable.Range(0, sites).Where(_ => random.Next(3) > 0).Select(s => $"S{s}")],
            [.. Enumerable.Range(0, 3).SelectMany(d =>
                new Minutes[]
                {
                    new((1440 * d) + 487, (1440 * d) + 723),
                    new((1440 * d) + 723, (1440 * d) + 960),
                    new((1440 * d) + 1380, (1440 * d) + 1500)
                })]))],
        [new("K0", random.Next(10, 60), random.Next(10, 40)), new("K1", null, null)],
        [.. Enumerable.Range(0, visits).Select(i =>
        {
            var day = random.Next(3);
            Minutes[] windows = [
                new((day * 1440) + 480, (day * 1440) + random.Next(600, 960)),
                .. random.Next(3) == 0 && day < 2 ? new Minutes[] { new((day * 1440) + 1200, (day * 1440) + 1800) } : []
            ];
            return new Visit($"W{i}", $"S{random.Next(sites)}", random.Next(3) == 0 ? ["mac"] : ["laptop"], random.Next(1, 10),
                15 * random.Next(1, 4), 15 * random.Next(0, 6), 15 * random.Next(0, 3), 15 * random.Next(0, 4), windows,
                random.Next(2) == 0 ? [] : [windows[0]], random.Next(0, 2) * random.Next(0, 1500), random.Next(0, 3),
                random.Next(2) == 0 ? new($"K{random.Next(2)}", random.Next(1, 25), random.Next(0, 3), random.Next(0, 3)) : null,
                random.Next(4) == 0 ? new((day * 1440) + 540, $"T{random.Next(technicians)}") : null,
                i > 0 && random.Next(4) == 0 ? new($"W{random.Next(i)}", 15 * random.Next(0, 4)) : null);
        })],
        visits < 3 ? [] : [.. Enumerable.Range(0, random.Next(0, 3)).Select(g =>
        {
            string[] members = [.. Enumerable.Range(0, visits).OrderBy(_ => random.Next()).Take(random.Next(2, 5)).Select(i => $"W{i}")];
            var oneDay = random.Next(2) == 0;
            return new PlanGroup($"G{g}", members, oneDay && random.Next(2) == 0 ? null : random.Next(1, 3), oneDay);
        })]).Value;

    [Fact]
    public void A_group_that_goes_on_one_day_moves_to_the_day_on_which_all_of_it_fits()
    {
        // One bench a day for who comes first, two on the last day: the cheapest place of the first of them is not where all can be.
        Minutes[] early = [new(480, 600)], late = [new(1440 + 480, 1440 + 600)];
        Visit Of(string id, params Minutes[] windows) => new(id, "North", [], 5, 60, 0, 0, 0, windows, [], 0, 0, null, null, null);
        var problem = AppointmentProblem.Create("together", 2, 15, [new("North", 2)], [], [new(
            "T", [], ["North"], [.. early, .. late])], [],
            [Of("A", [.. early, .. late]), Of("B", [.. early, .. late]), Of("C", late), Of("D", early)],
            [new("crew", ["A", "C"], 1, true), new("pair", ["B", "D"], 1, false)]).Value;
        for (var seed = 1; seed <= 8; seed++)
        {
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(400), seed);
            PlanChecker.Check(problem, plan).ShouldBeEmpty();
            plan.Unplaced.ShouldBeEmpty();
            plan.Placed.Where(p => p.Id is "A" or "C").Select(p => Minutes.DayOf(p.Start)).ShouldAllBe(day => day == 1);
        }
    }

    [Fact]
    public void Who_must_be_moved_together_goes_to_the_earliest_day_that_costs_no_more()
    {
        Minutes[] Days(int from) => [.. Enumerable.Range(from, 10 - from).Select(d => new Minutes((d * 1440) + 480, (d * 1440) + 960))];
        Visit Of(string id, string skill, int? told, string who) =>
            new(id, "North", [skill], 5, 60, 0, 0, 0, [new(0, 10 * 1440)], [], 0, 9, null, told is { } at ? new(at, who) : null, null);
        var problem = AppointmentProblem.Create("sick", 10, 15, [new("North", 9)], [], [
            new("ill", ["a"], ["North"], Days(3)), new("well", ["b"], ["North"], Days(0))
        ], [],
            [Of("A", "a", 480, "ill"), Of("B", "a", 540, "ill"), Of("C", "a", 600, "ill"), Of("D", "b", 480, "well")]).Value;
        var from = new Plan(
            [new("A", "ill", 480, 540), new("B", "ill", 540, 600), new("C", "ill", 600, 660), new("D", "well", 480, 540)], []);
        for (var seed = 1; seed <= 12; seed++)
        {
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(seed * 300), seed, from);
            PlanChecker.Check(problem, plan).ShouldBeEmpty();
            plan.Placed.Where(p => p.Id != "D")
                .Select(p => Minutes.DayOf(p.Start)).Distinct()
                .ShouldBe([3], "one day of work for the three, and the first that there is");
            plan.Placed.Single(p => p.Id == "D").Start.ShouldBe(480);
        }
    }
}
