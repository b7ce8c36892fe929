using CsCheck;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Custody;

public sealed class CustodyTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 9, 0, 0, TimeSpan.Zero);
    private static readonly DateOnly Today = new(2026, 12, 24);
    private static readonly WipeFacts Ready = new(SwapKind.Renew, true, false, 0, 0, true, true, true, new(2026, 12, 10), [], []);

    private static readonly Gen<CustodyMove> AnyMove = Gen.Select(
        Gen.Int[0, 400],
        Gen.Enum<CustodyAct>(),
        Gen.Int[0, 3].Select(i => new[] { "shelf 1", "shelf 2", "Noor", "P-07" }[i]),
        Gen.Int[0, 50])
        .Select((id, act, where, at) => new CustodyMove($"m{id}", act, where, "Noor", Now.AddMinutes(at), Now.AddMinutes(at + (id % 7))));

    [Fact]
    public void Where_a_computer_is_does_not_depend_on_the_order_of_the_reports_or_on_repeats() =>
        Gen.Select(AnyMove.List[0, 20], Gen.Int).Sample((drawn, seed) =>
    {
        var moves = drawn.DistinctBy(m => m.Id).ToList();
        var other = moves.Concat(moves.Take(5)).OrderBy(m => HashCode.Combine(m.Id, seed)).ToList();
        CustodyState.Of(other).ShouldBe(CustodyState.Of(moves));
        CustodyState.Of(moves).Since.ShouldBe(moves.Count == 0 ? null : moves.Max(m => m.At));
    });

    [Fact]
    public void Moves_that_are_let_through_never_let_a_computer_leave_unwiped_or_come_back() =>
        Gen.Select(AnyMove.List[0, 30], Gen.Bool).Sample((drawn, wiped) =>
    {
        var state = CustodyState.Start;
        foreach (var move in drawn)
        {
            if (state.Refuses("KB-1180", move.Act, move.Where, wiped) is { } refused)
            {
                refused.Message.ShouldContain("KB-1180");
                continue;
            }
            // What left for good stays away; what is missing can be found, and nothing else can happen to it.
            if (state.End is { } end) (end.IsMissing(), move.Act).ShouldBe((true, CustodyAct.Found));
            if (move.Act == CustodyAct.Loaded) (state.Pallet ?? move.Where).ShouldBe(move.Where);
            state = state.After(move);
        }
        if (!wiped) (state.End?.IsEnd() ?? false).ShouldBeFalse();
        (state.Holder is not null && state.Pallet is not null).ShouldBeFalse("nobody carries what stands on a pallet");
    });

    [Fact]
    public void A_computer_is_wiped_only_when_nothing_is_missing_and_all_that_is_missing_is_said()
    {
        WipeRule.Missing(Ready, Today, 14).ShouldBeEmpty();
        WipeRule.Missing(Ready, new(2026, 12, 23), 14).ShouldBe(["It is held until 2026-12-24, 14 days from the last sign-off."]);
        WipeRule.Missing(Ready with { Kind = SwapKind.Second }, Today, 14).Single().ShouldContain("stays in use");
        WipeRule.Missing(Ready with { Kind = SwapKind.Issue }, Today, 14).ShouldNotBeEmpty();
        WipeRule.Missing(Ready with { Kind = SwapKind.Leave, Accepted = false, Restored = false }, Today, 14).ShouldBeEmpty();
        WipeRule.Missing(Ready with { Kind = SwapKind.Leave, HandedOver = false }, Today, 14).Single().ShouldContain("receives");
        var open = WipeRule.Missing(
            Ready with
            {
                Staged = false,
                Restored = false,
                Accepted = false,
                Signed = null,
                OpenSnags = 2,
                Unexplained = 1,
                OpenHandIn = ["Signed out of cloud storage"],
                FollowUps = [new("Printer.", "noor", Now, FollowUpHold.SignOff), new("Call", "noor", Now, FollowUpHold.Nothing)]
            },
            Today,
            14);
        open.Count.ShouldBe(8);
        open.ShouldContain("1 follow-up is open: Printer (noor).");
    }

    [Fact]
    public void A_reimage_is_wiped_before_its_restore_but_only_with_two_proofs_of_its_parcel()
    {
        var before = Ready with { Kind = SwapKind.Reimage, Restored = false, Accepted = false, Signed = null, LookedLast = true };
        WipeRule.Missing(before, Today, 14).Single().ShouldContain("one way only");
        WipeRule.Missing(before with { SecondProof = true }, Today, 14).ShouldBeEmpty();
        WipeRule.Missing(before with { SecondProof = true, Staged = false }, Today, 14).ShouldHaveSingleItem();
        WipeRule.Missing(before with { SecondProof = true, ClosingOpen = true }, Today, 14).Single().ShouldContain("closing trip");
        WipeRule.Missing(before with { SecondProof = true, LookedLast = false }, Today, 14).Single().ShouldContain("last look");
        WipeRule.Missing(
            before with { SecondProof = true, FollowUps = [new("Ask", "noor", Now, FollowUpHold.Wipe)] }, Today, 14).ShouldHaveSingleItem();
    }

    [Fact]
    public void Every_gate_alone_keeps_a_wipe_shut() => Gen.Int[0, 6].Sample(gate => WipeRule.Missing(gate switch
    {
        0 => Ready with { Staged = false },
        1 => Ready with { Restored = false },
        2 => Ready with { Accepted = false },
        3 => Ready with { Signed = null },
        4 => Ready with { OpenSnags = 1 },
        5 => Ready with { Unexplained = 1 },
        _ => Ready with { FollowUps = [new("x", "noor", Now, FollowUpHold.Wipe)] },
    }, Today, 14).Count.ShouldBe(1));
}
