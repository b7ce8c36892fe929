using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Core.Readiness;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Readiness;

/// <summary>What a visit lacks to take place as it is booked.</summary>
public sealed class VisitReadinessTests
{
    private static readonly DateTimeOffset Now = new(2026, 12, 1, 16, 0, 0, TimeSpan.Zero);
    private static readonly DateTimeOffset Start = Now.AddHours(17);

    private static VisitFacts Whole => new(SwapKind.Renew, Start)
    {
        OldTag = "KB-1",
        NewTag = "KB-11",
        HasHand = true,
        HandHeardAt = Now.AddMinutes(-3),
        IsSurveyed = true,
        IsStaging = true,
        HasDepot = true,
        Steps = [Step("told", Done(), marks: Station.Told), Step("ready", Done(), byPerson: true), Step("new-tag", Done())],
    };

    private static StepState Done() => new StepState.Done("noor", Now);

    private static StepNow Step(
        string key, StepState? state = null, Station? marks = null, bool byPerson = false, Phase phase = Phase.Before) =>
        new(new StepTemplate(key, key, phase, new StepWork.Tick(), marks, "", IsByPerson: byPerson), state ?? new StepState.Open());

    /// <summary>One thing wrong with a visit, and what it is called.</summary>
    public static TheoryData<string, ReadyState> One => new()
    {
        { "no-time", ReadyState.Cannot },
        { "failed", ReadyState.CanStill },
        { "technician-away", ReadyState.CanStill },
        { "not-told", ReadyState.CanStill },
        { "no-answer", ReadyState.Nearly },
        { "no-new-computer", ReadyState.CanStill },
        { "not-delivered", ReadyState.Cannot },
        { "files-open", ReadyState.CanStill },
        { "no-depot", ReadyState.CanStill },
        { "depot-full", ReadyState.CanStill },
        { "no-hand", ReadyState.CanStill },
        { "silent-hand", ReadyState.CanStill },
        { "not-staged", ReadyState.CanStill },
        { "steps-open", ReadyState.Nearly },
    };

    private static VisitFacts Wrong(string kind) => kind switch
    {
        "no-time" => Whole with { Start = null, LeftOutBecause = "Nobody has the skill." },
        "failed" => Whole with { Failure = "First trip failed: the disk could not be read" },
        "technician-away" => Whole with { AwayTechnician = "Noor Haddad" },
        "not-told" => Whole with { UntoldBecause = "no mail address is known" },
        "no-answer" => Whole with { Steps = [Step("told", Done()), Step("ready", byPerson: true)] },
        "no-new-computer" => Whole with { NewTag = null },
        "not-delivered" => Whole with { Delivery = new("batch 2", Start.AddMinutes(1)) },
        "files-open" => Whole with { OpenSnags = 2 },
        "no-depot" => Whole with { IsStaging = false, HasHand = true, HasDepot = false },
        "depot-full" => Whole with { IsStaging = false, FullDepot = "Cloud share" },
        "no-hand" => Whole with { IsStaging = false, HasHand = false },
        "silent-hand" => Whole with { IsStaging = false, HandHeardAt = Now.AddHours(-25) },
        "not-staged" => Whole with { IsStaging = false },
        "steps-open" => Whole with { Steps = [Step("new-tag")] },
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    [Theory]
    [MemberData(nameof(One))]
    public void Each_lack_is_found_says_what_it_is_and_has_a_cure_with_the_id(string kind, ReadyState state)
    {
        var ready = VisitReadiness.Of(Wrong(kind), Now);
        ready.State.ShouldBe(state);
        var lack = ready.Lacks.Where(l => l.Kind == kind).ShouldHaveSingleItem();
        var words = lack.Words(at => $"{at:HH:mm}");
        (words.EndsWith('.') || words.EndsWith('?')).ShouldBeTrue(words);
        var cure = Cure.For(lack, SwapId.Parse("autumn-0012"))[0];
        cure.Words.ShouldNotBeEmpty();
        cure.Command.ShouldStartWith("yardline ");
        (lack.IsMinor && lack.IsFinal).ShouldBeFalse();
        if (cure.Kind is not (CureKind.Depot or CureKind.Code or CureKind.AnotherTime)) cure.Command.ShouldContain("autumn-0012");
    }

    [Fact]
    public void A_visit_that_lacks_nothing_is_ready()
    {
        var ready = VisitReadiness.Of(Whole, Now);
        (ready.State, ready.Lacks.Count).ShouldBe((ReadyState.Ready, 0));
    }

    [Fact]
    public void What_has_begun_lacks_nothing_any_more()
    {
        foreach (var kind in One.Select(row => row.Data.Item1))
            VisitReadiness.Of(Wrong(kind) with { IsBegun = true }, Now).State.ShouldBe(ReadyState.Begun);
    }

    [Fact]
    public void What_cannot_be_mended_comes_first_whatever_else_is_missing()
    {
        var ready = VisitReadiness.Of(
            Wrong("not-delivered") with { AwayTechnician = "Noor", OpenSnags = 1, UntoldBecause = "nobody is told by mail" }, Now);
        ready.State.ShouldBe(ReadyState.Cannot);
        ready.Lacks.Select(l => l.Kind).ShouldBe(["not-delivered", "technician-away", "not-told", "files-open"]);
    }

    [Fact]
    public void A_delivery_that_comes_by_the_hour_of_the_visit_is_in_time() =>
        VisitReadiness.Of(Whole with { Delivery = new("batch 2", Start) }, Now).State.ShouldBe(ReadyState.Ready);

    [Fact]
    public void A_spare_of_the_same_kind_is_the_first_cure_of_a_late_delivery()
    {
        var lack = VisitReadiness.Of(Wrong("not-delivered") with { Spare = "KB-2098" }, Now).Lacks[0];
        var cures = Cure.For(lack, SwapId.Parse("autumn-0012"));
        cures.Select(c => c.Kind).ShouldBe([CureKind.Give, CureKind.AnotherTime]);
        (cures[0].Words, cures[0].Command).ShouldBe(("Give KB-2098", "yardline detour wrong autumn-0012 KB-2098"));
    }

    [Fact]
    public void Whoever_was_not_told_has_not_been_asked_either()
    {
        var facts = Wrong("no-answer") with { UntoldBecause = "no mail address is known" };
        VisitReadiness.Of(facts, Now).Lacks.Select(l => l.Kind).ShouldBe(["not-told"]);
    }

    [Fact]
    public void Steps_that_a_bench_preparation_will_do_are_not_missing() =>
        VisitReadiness.Of(Wrong("steps-open") with { HasPreparationAhead = true }, Now).State.ShouldBe(ReadyState.Ready);

    [Fact]
    public void Steps_of_the_visit_itself_are_not_missing_before_it() =>
        VisitReadiness.Of(Whole with { Steps = [Step("swapped", phase: Phase.Swap)] }, Now).State.ShouldBe(ReadyState.Ready);

    [Fact]
    public void A_kind_without_files_or_without_a_new_computer_is_asked_for_neither()
    {
        var issue = Whole with { Kind = SwapKind.Issue, OldTag = null, IsStaging = false, HasHand = false, HasDepot = false };
        var leave = Whole with { Kind = SwapKind.Leave, NewTag = null };
        foreach (var facts in new[] { issue, leave }) VisitReadiness.Of(facts, Now).State.ShouldBe(ReadyState.Ready);
    }
}
