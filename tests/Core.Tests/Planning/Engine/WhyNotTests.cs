using CsCheck;
using YardRelay.Core.Planning;

namespace YardRelay.Core.Tests.Planning.Engine;

/// <summary>
/// The reason given for a visit that is left out is tried: the change that it names lets the visit in, and nothing smaller was needed.
/// </summary>
public sealed class WhyNotTests
{
    private static Visit Desk(string id, Func<Visit, Visit>? but = null)
    {
        var desk = new Visit(id, "North", [], 2, 60, 0, 0, 0, [new(480, 600)], [], 0, 0, null, null, null);
        return but is null ? desk : but(desk);
    }

    private static AppointmentProblem World(int benches, int technicians, PlanDepot depot, params Visit[] visits) =>
        AppointmentProblem.Create(
        "world", 2, 15, [new("North", benches), new("South", 3)], [],
        [.. Enumerable.Range(0, technicians).Select(t =>
            new PlanTechnician($"T{t}", ["laptop"], ["North"], [new(480, 960), new(1920, 2400)]))],
        [depot], visits).Value;

    private static readonly PlanDepot Roomy = new("K", null, null);

    private static string Why(AppointmentProblem problem, string visit)
    {
        var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(200), seed: 1);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        return plan.Unplaced.Single(u => u.Id == visit).Because;
    }

    [Fact]
    public void Each_rule_in_the_way_is_named_with_the_change_that_helps()
    {
        Visit[] three = [
            Desk("A", v => v with { Weight = 9 }), Desk("B", v => v with { Weight = 8 }), Desk("C", v => v with { Weight = 1 })
        ];
        Why(World(0, 9, Roomy, Desk("A")), "A").ShouldBe(
            "Rule 4, benches: North is full. One more bench at North on day 0 08:00 lets it in.");
        Why(World(9, 1, Roomy, three), "C").ShouldStartWith(
            "Rule 3, technician: all who could do it are taken. One more technician at North on");
        Why(World(9, 9, Roomy, Desk("A", v => v with { Skills = ["tablet"] })), "A").ShouldBe(
            "Rule 2, technician: nobody with tablet serves North. Let one technician with tablet serve North.");
        Why(World(9, 9, Roomy, Desk("A", v => v with { Site = "South" })), "A").ShouldContain("nobody serves South");
        Why(World(9, 9, Roomy, Desk("A", v => v with { Windows = [new(480, 525)] })), "A").ShouldBe(
            "Rule 1, whole visit: it takes 60 minutes and its longest window has 45. Widen one window.");
        Why(World(9, 9, Roomy, Desk("A", v => v with { Release = 600 })), "A").ShouldContain("Rule 1, release");
        Why(World(9, 9, new("K", 5, null), Desk("A", v => v with { Staged = new("K", 6, 0, 0) })), "A").ShouldContain(
            "Rule 5, depot capacity: K is full. 6 more room");
        Why(World(9, 9, new("K", null, 5), Desk("A", v => v with { Staged = new("K", 6, 0, 0) })), "A").ShouldContain(
            "Rule 6, depot link: K brings 5 a day");
        Why(World(0, 9, Roomy, Desk("A"), Desk("B", v => v with { Follows = new("A", 0), Site = "North" })), "B").ShouldContain(
            "it follows 'A', which is left out");
    }

    [Fact]
    public void A_visit_said_to_need_one_more_bench_or_technician_fits_once_that_is_there() =>
        Gen.Select(Gen.Int[0, 2], Gen.Int[1, 3], Gen.Int[3, 12], Gen.Int[0, 100_000]).Sample((benches, technicians, visits, seed) =>
        {
            var random = new Random(seed);
            Visit[] all = [.. Enumerable.Range(0, visits).Select(i => Desk($"V{i}", v =>
                v with
                {
                    Before = 15 * random.Next(1, 6), Weight = random.Next(1, 9), Windows = [new(480, 480 + (60 * random.Next(2, 5)))]
                }))];
            var problem = World(benches, technicians, Roomy, all);
            var plan = PlanEngine.Solve(problem, PlanBudget.OfSteps(50), seed);
            foreach (var left in plan.Unplaced)
            {
                var more = left.Because switch
                {
                    var b when b.StartsWith("Rule 4", StringComparison.Ordinal) => World(benches + 1, technicians, Roomy, all),
                    var b when b.StartsWith("Rule 3,", StringComparison.Ordinal) => World(benches, technicians + 1, Roomy, all),
                    var b when b.StartsWith("Rule 1, window", StringComparison.Ordinal) =>
                        World(benches, technicians, Roomy, [.. all.Select(v => v.Id == left.Id ? v with { Windows = [new(0, 2880)] } : v)]),
                    var b when b.StartsWith("Rules 3 and 4", StringComparison.Ordinal) => World(benches + 1, technicians + 1, Roomy, all),
                    var b => throw new InvalidOperationException(b),
                };
                // The plan as it was, with the visit that was left out placed somewhere in the richer world: one of the places must keep
                // every rule.
                var places = from t in more.Technicians
                             from start in Enumerable.Range(0, 192).Select(s => s * 15)
                             select new Placed(
                    left.Id, t.Id, start, start + more.VisitOf[left.Id].Before);
                places.Any(p => PlanChecker.Check(
                    more, new([.. plan.Placed, p], [.. plan.Unplaced.Where(u => u.Id != left.Id)])).Count == 0)
                    .ShouldBeTrue($"{left.Id}: {left.Because}");
            }
        }, iter: 40);
}
