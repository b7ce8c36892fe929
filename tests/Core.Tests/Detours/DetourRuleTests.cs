using CsCheck;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;

namespace YardRelay.Core.Tests.Detours;

public sealed class DetourRuleTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 26, 9, 0, 0, TimeSpan.Zero);

    private static readonly Gen<DetourFacts> Any = Gen.Select(
        Gen.OneOf(Gen.Int[-120, 120].Select(i => (int?)i), Gen.Const((int?)null)), Gen.Bool.Array[6], Gen.Bool, Gen.Bool, Gen.Bool,
        Gen.Int[0, 3].Select(i => new CustodyAct?[] { null, CustodyAct.Stolen, CustodyAct.Lost, CustodyAct.Donated }[i]))
        .Select((start, is_, hasParcel, hasOld, hasNew, gone) =>
        new DetourFacts(
            "Ida", start is { } m ? Now.AddMinutes(m) : null, is_[0], is_[1], is_[2], is_[3], is_[4], hasParcel, hasOld ? "KB-1" : null,
            hasNew ? "KB-2" : null, is_[5], hasOld ? gone : null));

    private static readonly DetourKind[] OfComputers = [DetourKind.Stolen, DetourKind.Lost, DetourKind.Found, DetourKind.FilesMissed];

    [Fact]
    public void But_for_what_happens_to_computers_and_files_nothing_but_resuming_is_open_to_what_is_called_off_or_over() =>
        Any.Sample(facts =>
    {
        var open = DetourRule.Open(facts, Now);
        var ofSwap = open.Except(OfComputers).ToList();
        if (facts.IsCalledOff) ofSwap.ShouldBe([DetourKind.Resumed]);
        else if (facts.IsOver) ofSwap.ShouldBeEmpty();
        else ofSwap.ShouldContain(DetourKind.CalledOff);
        // What is offered is taken, what is not is refused with words.
        foreach (var kind in Enum.GetValues<DetourKind>())
            (DetourRule.Refusal(kind, facts, Now)?.Message.StartsWith("That cannot be: ", StringComparison.Ordinal) != true)
                .ShouldBe(open.Contains(kind));
    });

    [Fact]
    public void Each_detour_needs_what_it_is_about() => Any.Sample(facts =>
    {
        var open = DetourRule.Open(facts, Now);
        if (open.Contains(DetourKind.NoShow)) (facts.Start <= Now && !facts.IsSwapped).ShouldBeTrue();
        if (open.Contains(DetourKind.Late)) (facts.Start is not null && !facts.IsSwapped).ShouldBeTrue();
        if (open.Contains(DetourKind.DeadOnArrival))
            (facts.NewTag is not null && !facts.IsSigned).ShouldBeTrue("what is signed stays as it was signed");
        if (open.Contains(DetourKind.WrongComputer)) facts.IsSigned.ShouldBeFalse();
        // A computer is missing or it is not, and what left for good cannot go missing.
        var is_missing = facts.OldGone is CustodyAct.Stolen or CustodyAct.Lost;
        open.Contains(DetourKind.Found).ShouldBe(is_missing);
        open.Contains(DetourKind.Stolen).ShouldBe(facts.OldTag is not null && facts.OldGone is null);
        open.Contains(DetourKind.Lost).ShouldBe(open.Contains(DetourKind.Stolen));
        if (open.Contains(DetourKind.Later)) facts.IsSwapped.ShouldBeFalse();
        if (open.Contains(DetourKind.WrongPerson)) (facts.Start is not null && !facts.IsSwapped).ShouldBeTrue();
        if (open.Contains(DetourKind.FilesMissed)) (facts.OldTag is not null || facts.HasParcel).ShouldBeTrue();
        if (open.Contains(DetourKind.OldDiskDied))
            (facts.HasParcel && facts.OldTag is not null && !facts.IsRestored && !facts.OldDied).ShouldBeTrue();
    });
}
