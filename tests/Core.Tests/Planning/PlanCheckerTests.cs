using YardRelay.Core.Planning;

namespace YardRelay.Core.Tests.Planning;

public sealed class PlanCheckerTests
{
    private static Visit Desk(string id, string site = "North", string[]? skills = null, Follows? follows = null, int release = 0) =>
        new(
            id, site, skills ?? [], 2, 30, 60, 15, 30, [new(480, 960)], [new(480, 600)], release, 0, new("K", 30, 0, 1), new(480, "Noor"),
            follows);

    private static Visit Roomy(string id, int size) =>
        Desk(id) with { Staged = new("K", size, 0, 1), Windows = [new(480, 960), new(1920, 2400)] };

    private static AppointmentProblem World(params Visit[] visits) => AppointmentProblem.Create(
        "world", 2, 15, [new("North", 2), new("South", 1)], [("North", "South", 40)],
        [
            new("Noor", ["mac"], ["North", "South"], [new(480, 960), new(1920, 2400)]),
            new("Theo", [], ["North"], [new(480, 720), new(720, 960)])
        ],
        [new("K", 100, 90)], visits).Value;

    private static Placed At(string id, int start, string technician = "Noor", int? finish = null) =>
        new(id, technician, start, finish ?? start + 90);

    private static void Breaks(int rule, AppointmentProblem problem, params Placed[] placed) =>
        PlanChecker.Check(problem, new(placed, [])).Select(b => b.Rule).Distinct().ShouldBe([rule]);

    [Fact]
    public void Each_rule_is_seen_when_it_alone_is_broken()
    {
        Breaks(0, World(Desk("A"), Desk("B")), At("A", 480));
        Breaks(0, World(Desk("A")), At("A", 480, finish: 615));
        Breaks(1, World(Desk("A", release: 600)), At("A", 480));
        Breaks(2, World(Desk("A", skills: ["mac"])), At("A", 480, "Theo"));
        Breaks(2, World(Desk("A")), At("A", 705, "Theo"));
        Breaks(3, World(Desk("A"), Desk("B", "South")), At("A", 480), At("B", 525, finish: 615));
        Breaks(4, World(Desk("A", "South"), Desk("B", "South")), At("A", 480), At("B", 510));
        Breaks(5, World(Roomy("A", 60), Roomy("B", 60)), At("A", 480), At("B", 1920));
        Breaks(
            6,
            World(Roomy("A", 46) with { Staged = new("K", 46, 0, 0) }, Roomy("B", 46) with { Staged = new("K", 46, 0, 0) }),
            At("A", 480),
            At("B", 600));
        Breaks(7, World(Desk("A"), Desk("B", follows: new("A", 60))), At("A", 480), At("B", 600));
    }

    [Fact]
    public void The_cost_is_the_sum_of_its_parts()
    {
        var problem = World(Desk("A"), Desk("B", "South"), Desk("C"));
        var plan = new Plan([At("A", 480), At("B", 690)], [new("C", "Rule 4")]);
        PlanChecker.Check(problem, plan).ShouldBeEmpty();
        PlanChecker.Cost(problem, plan).ShouldBe(new PlanCost(
            LeftOut: 2000, Late: 0, NotPreferred: 3, Moved: 5, Journeys: 2, TechnicianDays: 4));
    }

    [Fact]
    public void A_faulty_instance_is_refused_with_every_fault_at_once()
    {
        var faults = PlanFile.ReadInstance("""
            {"name":"x","days":1,"sites":[{"id":"S","benches":1}],"travel":[],
             "technicians":[{"id":"T","skills":[],"sites":["N"],"shifts":[[0,60],[30,90]]}],"depots":[],
             "swaps":[{"id":"W","site":"S","skills":[],"weight":12,"before":20,"unattended":0,"after":0,"slack":0,
                       "windows":[[0,9999]],"release":0,"target":0,"depot":"K"}]}
            """).Problems.Select(p => p.Message).ToList();
        foreach (var said in new[] { "serves site 'N'", "overlap", "weight is 12", "'before' is 20", "9999", "all of 'depot'" })
            faults.ShouldContain(f => f.Contains(said));
        PlanFile.ReadInstance("""{"name":"x","days":"one"}""").Problem.Message.ShouldContain("$.days");
    }
}
