using YardRelay.Core.Orders;
using YardRelay.Core.Signs;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests;

/// <summary>What a swap says of itself at a glance.</summary>
public sealed class SwapSignTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 10, 0, 0, TimeSpan.Zero);

    private static SwapSign SignOf(
        SwapKind kind, Station[] reached, OrderNow[]? orders = null, Func<SignFacts, SignFacts>? with = null)
    {
        var facts = new SignFacts(kind, reached.ToDictionary(s => s, _ => Now.AddHours(-1)), orders ?? []);
        return SwapSign.Of(with?.Invoke(facts) ?? facts, Now);
    }

    private static readonly Station[] AllOfRenew = [.. SwapLine.StationsOf(SwapKind.Renew)];

    private static OrderNow.UnderWay Runs(bool isHeard = true, bool isPaused = false, string? waits = null) => new(
        OrderNames.FirstTrip, "KB-1", Now.AddMinutes(-9), Now.AddMinutes(-8), Now, isHeard, isPaused ? Now.AddMinutes(-2) : null, waits);

    private static readonly OrderNow.Failed Failed = new(OrderNames.Verify, "KB-1", Now.AddMinutes(-5), "the disk is gone", Now);

    [Fact]
    public void Nothing_is_done_while_the_persons_signature_is_open()
    {
        SignOf(SwapKind.Renew, AllOfRenew).ShouldBe(new(Sign.Wants, "All is done but the person's signature", Now.AddHours(-1)));
        SignOf(SwapKind.Renew, AllOfRenew, with: f => f with { IsSigned = true }).Sign.ShouldBe(Sign.Done);
        SignOf(SwapKind.Leave, [.. SwapLine.StationsOf(SwapKind.Leave)]).Sign.ShouldBe(Sign.Done, "who leaves signs nothing any more");
        // Handed in, and nobody has looked: that is not the end of it.
        SignOf(SwapKind.Renew, [.. AllOfRenew.Except([Station.Accepted])], with: f => f with { IsSigned = true })
            .ShouldBe(new(Sign.Wants, "Restored: the person can look now", Now.AddHours(-1)));
    }

    [Fact]
    public void Moving_is_only_what_moves()
    {
        SignOf(SwapKind.Renew, [], [Runs()]).Sign.ShouldBe(Sign.Moving);
        SignOf(SwapKind.Renew, [], [Runs(isHeard: false)]).Words.ShouldBe("First trip: nothing heard from the hand at KB-1");
        SignOf(SwapKind.Renew, [], [Runs(isPaused: true)]).Words.ShouldBe("First trip rests until somebody lets it go on");
        SignOf(SwapKind.Renew, [], [Runs(waits: "battery")]).ShouldBe(new(Sign.Ahead, "First trip waits for mains power", Now));
    }

    [Fact]
    public void An_order_that_nobody_can_take_wants_somebody()
    {
        OrderNow Waits(bool hasHand) => new OrderNow.Waiting(OrderNames.Survey, "KB-1", Now, hasHand);
        SignOf(SwapKind.Renew, [], [Waits(true)]).Sign.ShouldBe(Sign.Ahead);
        SignOf(SwapKind.Renew, [], [Waits(false)]).ShouldBe(new(Sign.Wants, "Survey waits: no hand is enrolled at KB-1", Now));
    }

    [Fact]
    public void What_stands_in_the_way_comes_first()
    {
        SignOf(SwapKind.Renew, [], [Failed, Runs()], f => f with { OpenSnags = 2 }).Sign.ShouldBe(Sign.Stopped);
        SignOf(SwapKind.Renew, [], [Runs()], f => f with { OpenSnags = 2 }).Words.ShouldBe("2 snags: retry or waive each");
        SignOf(SwapKind.Renew, [], [Failed], f => f with { CalledOffAt = Now, CalledOffBecause = "gone" }).Words
            .ShouldBe("Called off: gone");
        SignOf(SwapKind.Renew, AllOfRenew, [Failed], f => f with { IsSigned = true }).Sign.ShouldBe(Sign.Done);
    }

    [Fact]
    public void Each_kind_has_a_sign_at_each_station_of_its_line()
    {
        foreach (var kind in Enum.GetValues<SwapKind>())
        {
            var line = SwapLine.StationsOf(kind).ToArray();
            for (var reached = 0; reached <= line.Length; reached++)
                SignOf(kind, line[..reached]).Words.ShouldNotBeNullOrEmpty($"{kind}, {reached} behind it");
        }
    }
}
