using YardRelay.Core.SetUps;

namespace YardRelay.Core.Tests.SetUps;

/// <summary>What of a refresh is there and what is missing.</summary>
public sealed class SetUpTests
{
    private static readonly SetUpFacts Empty = new("Europe/London", new(2026, 11, 30), 19) { Accounts = 1 };

    private static readonly SetUpFacts Whole = Empty with
    {
        People = 212,
        Swaps = 214,
        Sites = ["North Quay", "South"],
        Technicians = 2,
        Depots = [new("Cloud share", true, null)],
        Computers = 200,
        Hands = 200,
        Accounts = 3,
        CanSend = true,
        Tells = true,
        Booked = 210,
    };

    private static SetUpPart Part(SetUpFacts facts, string key) => SetUp.Of(facts).Parts.Single(p => p.Key == key);

    [Fact]
    public void An_empty_refresh_leads_from_one_part_to_the_next()
    {
        // Whatever is there, one part is what is wanted next, and it is the first that is missing.
        var steps = new (SetUpFacts Facts, string Next)[]
        {
            (Empty, "people"),
            (Empty with { People = 2, Swaps = 2, Sites = ["North"] }, "technicians"),
            (Empty with { People = 2, Swaps = 2, Sites = ["North"], Technicians = 1 }, "depot"),
            (Whole with { Hands = 0, Booked = 0 }, "hands"),
            (Whole with { Booked = 0 }, "plan"),
        };
        foreach (var (facts, next) in steps)
            SetUp.Of(facts).Parts.Where(p => p.State == PartState.Wants).Select(p => p.Key).ShouldBe([next]);
    }

    [Fact]
    public void When_all_is_there_nothing_is_wanted() =>
        SetUp.Of(Whole).Parts.ShouldAllBe(p => p.State == PartState.There);

    [Fact]
    public void A_first_plan_needs_people_and_a_technician_and_says_which_is_missing()
    {
        SetUp.Of(Empty).Unplannable.ShouldBe("as soon as people are there");
        SetUp.Of(Empty with { Swaps = 1 }).Unplannable.ShouldBe("as soon as one technician is there");
        SetUp.Of(Empty with { Swaps = 1, Technicians = 1 }).Unplannable.ShouldBeNull();
    }

    [Fact]
    public void What_is_there_and_wrong_is_named_before_what_is_missing()
    {
        var facts = Whole with { Unserved = ["South"], Hands = 3, Depots = [new("Cloud share", true, "the password is wrong")] };
        var parts = SetUp.Of(facts).Parts;
        parts.Where(p => p.State == PartState.Wants).Select(p => p.Key).ShouldBe(["technicians", "depot"]);
        Part(facts, "technicians").Words.ShouldContain("South");
        Part(facts, "depot").Words.ShouldBe("Cloud share: the password is wrong");
        Part(facts, "hands").Words.ShouldBe("3 of 200 old computers have one");
    }

    [Fact]
    public void A_depot_that_nobody_has_tried_is_not_there_yet() =>
        Part(Whole with { Depots = [new("Cloud share", false, null)] }, "depot").State.ShouldBe(PartState.Wants);

    [Fact]
    public void Its_last_day_is_the_last_that_belongs_to_it() => Part(Empty, "days").Words.ShouldStartWith("30 Nov 2026 to 18 Dec 2026");
}
