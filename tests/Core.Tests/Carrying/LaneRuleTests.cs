using YardRelay.Core.Carrying;

namespace YardRelay.Core.Tests.Carrying;

public sealed class LaneRuleTests
{
    /// <summary>
    /// Files a second over a link: each file waits for replies, all share the bandwidth, and each lane too many costs a little.
    /// </summary>
    private static double Rate(int lanes, double waitSeconds, double mostFilesPerSecond, double costPerLane) =>
        Math.Min(lanes / waitSeconds, mostFilesPerSecond) * Math.Max(0.2, 1 - (costPerLane * lanes));

    [Theory]
    [InlineData(0.060, 100_000, 0, 32)]
    [InlineData(0.060, 150, 0, 9)]
    [InlineData(0.001, 900, 0.004, 2)]
    [InlineData(0.020, 400, 0.002, 8)]
    [InlineData(0.020, 100_000, 0.025, 20)]
    public void It_climbs_to_what_the_link_is_worth_and_stays_near(double wait, double most, double cost, int best)
    {
        var rule = new LaneRule(2, 32);
        var ideal = Enumerable.Range(2, 31).Max(l => Rate(l, wait, most, cost));
        Rate(best, wait, most, cost).ShouldBeGreaterThan(0.85 * ideal, "the case itself");
        for (var i = 0; i < 12; i++) rule.Look(Rate(rule.Width, wait, most, cost), 0.2);
        double sum = 0;
        for (var i = 0; i < 100; i++)
        {
            sum += Rate(rule.Width, wait, most, cost);
            rule.Look(Rate(rule.Width, wait, most, cost), 0.2).ShouldBeInRange(2, 32);
        }
        (sum / 100).ShouldBeGreaterThan(0.8 * ideal);
    }

    [Theory]
    [InlineData(0.97)]
    [InlineData(0.8)] // two lanes on two processors of which the host takes its part
    public void Where_the_processors_are_all_at_work_no_lane_is_added(double busy)
    {
        var rule = new LaneRule(4, 32);
        for (var i = 0; i < 50; i++) rule.Look(1000 + i, busy).ShouldBe(4);
    }

    [Fact]
    public void When_the_way_becomes_slower_it_does_not_run_away()
    {
        var rule = new LaneRule(4, 32);
        for (var i = 0; i < 30; i++) rule.Look(Rate(rule.Width, 0.05, 10_000, 0), 0.1);
        rule.Width.ShouldBe(32);
        for (var i = 0; i < 100; i++) rule.Look(40, 0.1).ShouldBeInRange(4, 32);
    }
}
