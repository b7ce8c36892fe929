using CsCheck;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Planning.Worlds;

public sealed class EstimatesTests
{
    private static SwapEstimate Of(SwapKind kind, Cargo? cargo = null, DepotRate? rate = null, params EstimateRule[] rules) =>
        Estimates.For("s-1", kind, "Gannet 14", cargo, rate ?? DepotRate.Default, rules, 15);

    [Fact]
    public void It_says_whether_it_rests_on_the_inventory_and_the_inputs_add_up()
    {
        Of(SwapKind.Renew).Basis.ShouldBe("typical size");
        foreach (var kind in Enum.GetValues<SwapKind>())
        {
            var estimate = Of(kind, new(80_000_000_000, 250_000, 30_000_000_000));
            estimate.Basis.ShouldBe("inventory");
            var sum = estimate.Inputs.Sum(i => i.Minutes);
            (estimate.BeforeMinutes + estimate.UnattendedMinutes + estimate.AfterMinutes)
                .ShouldBeInRange(sum, sum + 45, "each of three parts is rounded up to a quarter of an hour");
            new[] { estimate.BeforeMinutes, estimate.UnattendedMinutes, estimate.AfterMinutes }.ShouldAllBe(m => m % 15 == 0);
        }
        Of(SwapKind.Issue).ShouldSatisfyAllConditions(e => e.UnattendedMinutes.ShouldBe(0), e => e.LeadDays.ShouldBe(0));
        Of(SwapKind.Leave).AfterMinutes.ShouldBe(0);
    }

    [Fact]
    public void More_to_carry_never_takes_less_and_a_faster_depot_never_takes_longer() =>
        Gen.Select(Gen.Long[0, 2_000_000_000_000], Gen.Long[0, 3_000_000], Gen.Double[1e6, 1e9]).Sample((bytes, files, rate) =>
        {
            var one = Of(SwapKind.Renew, new(bytes, files, 0), new(rate, 1));
            var more = Of(SwapKind.Renew, new(bytes + 50_000_000_000, files + 10_000, 0), new(rate, 1));
            var faster = Of(SwapKind.Renew, new(bytes, files, 0), new(rate * 2, 1));
            more.UnattendedMinutes.ShouldBeGreaterThanOrEqualTo(one.UnattendedMinutes);
            more.LeadDays.ShouldBeGreaterThanOrEqualTo(one.LeadDays);
            faster.UnattendedMinutes.ShouldBeLessThanOrEqualTo(one.UnattendedMinutes);
        });

    [Fact]
    public void What_is_known_of_the_swap_counts_before_the_model_and_the_model_before_the_kind()
    {
        EstimateRule[] rules =
        [
            new(EstimateScope.Kind, "renew", 50, 60, null, new("Workshop", 20, 60, 0)),
            new(EstimateScope.Model, "gannet 14", 45, null, 20, null), new(EstimateScope.Swap, "s-1", null, 100, null, null),
            new(EstimateScope.Swap, "s-2", 1, 1, 1, null),
        ];
        var estimate = Of(SwapKind.Renew, null, null, rules);
        (
            estimate.BeforeMinutes,
            estimate.UnattendedMinutes,
            estimate.AfterMinutes,
            estimate.Preparation!.Site).ShouldBe((45, 105, 30, "Workshop"));
        Of(SwapKind.Second, null, null, rules).Preparation.ShouldBeNull();
    }

    [Fact]
    public void A_depots_rate_follows_what_is_seen_and_forgets_the_assumption_at_once()
    {
        var rate = DepotRate.Default.With(1_000_000_000, 100);
        (rate.BytesPerSecond, rate.Observed).ShouldBe((10e6, 1));
        rate = rate.With(2_000_000_000, 100);
        (rate.BytesPerSecond, rate.Observed).ShouldBe((12e6, 2));
        rate.With(1000, 0.001).ShouldBe(rate, "a small trip tells nothing of the link");
        for (var i = 0; i < 40; i++) rate = rate.With(3_000_000_000, 100);
        rate.BytesPerSecond.ShouldBe(30e6, 0.01e6);
    }

    [Fact]
    public void The_ways_to_carry_are_compared_with_what_has_no_room_last()
    {
        var ways = WaysToCarry.Compare(
            SwapKind.Renew, new(100_000_000_000, 200_000, 0), new(100e6, 9), new(10e6, 9), shareRoom: null, cloudRoom: 5_000_000_000);
        ways.Select(w => w.Way).Order().ShouldBe(["cable", "cloud", "disk", "share"]);
        (ways[^1].Way, ways[^1].Fits).ShouldBe(("cloud", false));
        ways[0].Way.ShouldBe("share");
        ways.Where(w => w.Way is "share" or "cloud").ShouldAllBe(w => w.AheadMinutes > 0 && w.RoomBytes == 100_000_000_000);
        ways.ShouldAllBe(w => w.Risk.EndsWith('.'));
        WaysToCarry.Compare(SwapKind.Leave, Cargo.Typical, DepotRate.Default, DepotRate.Default, null, null)
            .Single(w => w.Way == "cable").Fits
            .ShouldBeFalse("there is no computer at its other end");
    }
}
