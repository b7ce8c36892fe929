using YardRelay.Core.Carrying;

namespace YardRelay.Core.Tests.Carrying;

/// <summary>A parcel's lists held against what was last heard of them.</summary>
public sealed class ParcelStatesTests
{
    private static string Sha(char of) => new(of, 64);

    private static ParcelHistory Found(int trip, char sha256, params (int Trip, char Found)[] before) =>
        new(new(trip, Sha(sha256)), before.ToDictionary(b => b.Trip, b => Sha(b.Found)));

    /// <summary>Trip 3 left state c; trip 2 b, trip 1 a.</summary>
    public static TheoryData<string, ParcelHistory?, ParcelStanding> Found3 => new()
    {
        { "as it was left", Found(3, 'c', (2, 'a'), (3, 'b')), ParcelStanding.AsKnown },
        { "the same lists, whatever the list of trips says", Found(9, 'c'), ParcelStanding.AsKnown },
        { "a trip went on", Found(4, 'd', (3, 'b'), (4, 'c')), ParcelStanding.Ahead },
        { "two trips went on", Found(5, 'e', (4, 'c'), (5, 'd')), ParcelStanding.Ahead },
        { "a trip of a program that says nothing of before", Found(4, 'd'), ParcelStanding.Ahead },
        { "a trip that went on from elsewhere", Found(4, 'd', (4, 'x')), ParcelStanding.Other },
        { "two trips that went on from elsewhere", Found(5, 'e', (4, 'x'), (5, 'd')), ParcelStanding.Other },
        { "an earlier state was put back", Found(2, 'b', (2, 'a')), ParcelStanding.Other },
        { "other lists of the same trip", Found(3, 'x', (2, 'a'), (3, 'b')), ParcelStanding.Other },
        { "no lists at all", null, ParcelStanding.Other },
    };

    [Theory, MemberData(nameof(Found3))]
    public void A_parcel_is_as_known_or_went_on_from_there_or_is_another(string what, ParcelHistory? found, ParcelStanding standing)
    {
        var held = ParcelHeld.Against(new(3, Sha('c')), found);
        held.Standing.ShouldBe(standing, what);
        (held.Words.Length == 0).ShouldBe(standing == ParcelStanding.AsKnown);
        held.State.ShouldBe(found?.Now);
    }

    [Fact]
    public void Of_what_nothing_was_heard_everything_is_as_known() =>
        new[] { null, Found(7, 'x') }.ShouldAllBe(f => ParcelHeld.Against(null, f).Standing == ParcelStanding.AsKnown);

    [Fact]
    public void A_state_reads_back_as_it_was_written_and_nothing_else_does()
    {
        var state = new ParcelState(12, Sha('f'));
        ParcelState.TryParse(state.ToString()).ShouldBe(state);
        foreach (var none in new[] { null, "", "12", $"x {Sha('f')}", "12 ff" }) ParcelState.TryParse(none).ShouldBeNull();
    }
}
