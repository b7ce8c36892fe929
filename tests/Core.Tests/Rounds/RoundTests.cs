using CsCheck;
using YardRelay.Core.Rounds;

namespace YardRelay.Core.Tests.Rounds;

public sealed class RoundTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 9, 0, 0, TimeSpan.Zero);

    private static DateTimeOffset At(int minute) => Now.AddMinutes(minute);

    private static TimeSpan Min(int minutes) => TimeSpan.FromMinutes(minutes);

    private static TimeSpan Way(string a, string b) => a == b ? TimeSpan.Zero : Min(20);

    private static RoundVisit Ahead(string key, int at, int first, int alone, int last, string site = "quay") =>
        new(key, site, new VisitNow.Ahead(At(at)), Min(first), Min(alone), Min(last));

    private static string Text(IEnumerable<RoundTurn> turns) =>
        string.Join(' ', turns.Select(t => $"{t.Key}:{t.Part}@{(int)(t.Start - Now).TotalMinutes}"));

    [Fact]
    public void Between_two_parts_of_one_swap_comes_what_fits_and_whoever_waits_longest_comes_first() =>
        Text(Round.Of(
            [
                Ahead("ida", 0, 15, 60, 10),
                Ahead("sol", 30, 15, 60, 10),
                new("per", "quay", new VisitNow.CallsBack(At(-30)), Min(10)),
                new("una", "quay", new VisitNow.CallsBack(At(-5)), Min(20)),
                new("kim/bench", "quay", new VisitNow.Filler(At(120)), Min(12))
            ],
            Now,
            "quay",
            Way))
            // una's 20 minutes would make sol wait, kim's bench fits nowhere before sol either: per only.
            .ShouldBe("ida:First@0 per:Back@15 sol:First@25 una:Back@40 kim/bench:First@60 ida:Back@75 sol:Back@100");

    [Fact]
    public void What_is_in_hand_is_ended_first_and_a_promise_that_is_due_comes_before_what_calls() =>
        Text(Round.Of(
            [
                new("una", "quay", new VisitNow.CallsBack(At(-60)), Min(10)),
                Ahead("sol", -2, 15, 0, 0),
                new("ida", "quay", new VisitNow.InHand(At(-10)), Min(10))
            ],
            Now,
            "quay",
            Way))
            .ShouldBe("ida:GoOn@0 sol:First@10 una:Back@25");

    [Fact]
    public void The_way_to_another_site_is_reckoned_so_that_a_promise_there_is_kept() =>
        Text(Round.Of(
            [Ahead("far", 45, 10, 0, 0, "point"), new("near", "quay", new VisitNow.CallsBack(At(-1)), Min(30))],
            Now,
            "quay",
            Way)).ShouldBe(
            "far:First@40 near:Back@70");

    private static readonly Gen<RoundVisit> AnyVisit = Gen.Select(
        Gen.Int[0, 4], Gen.Int[-60, 300], Gen.Int[5, 40], Gen.Int[0, 90], Gen.Bool)
        .Select((kind, at, length, alone, here) =>
        new RoundVisit("", here ? "quay" : "point", kind switch
        {
            0 => new VisitNow.Ahead(At(at)),
            1 => new VisitNow.Filler(At(at)),
            2 => new VisitNow.CallsBack(At(-Math.Abs(at))),
            3 => new VisitNow.Alone(At(-Math.Abs(at)), at % 2 == 0 ? At(at) : null),
            _ => new VisitNow.InHand(At(-Math.Abs(at))),
        }, Min(length), kind < 2 ? Min(alone) : default, kind < 2 && alone > 0 ? Min(10) : default));

    [Fact]
    public void Every_part_comes_once_nobody_is_in_two_places_and_nothing_starts_before_it_can() =>
        Gen.Select(AnyVisit.List[0, 12], Gen.Int[0, 1000]).Sample((drawn, shuffle) =>
    {
        var visits = drawn.Select((v, i) => v with { Key = $"v{i:00}" }).ToList();
        var turns = Round.Of(visits, Now, "quay", Way);
        turns.Count.ShouldBe(visits.Sum(v => v.Now switch
        {
            VisitNow.Ahead or VisitNow.Filler => v.Last > TimeSpan.Zero ? 2 : 1,
            VisitNow.Alone { Until: null } => 0,
            _ => 1
        }));
        turns.DistinctBy(t => (t.Key, t.Part)).Count().ShouldBe(turns.Count);
        var (free, site) = (Now, "quay");
        foreach (var turn in turns)
        {
            var visit = visits.Single(v => v.Key == turn.Key);
            turn.Start.ShouldBeGreaterThanOrEqualTo(free + Way(site, visit.Site));
            if (visit.Now is VisitNow.Ahead ahead && turn.Part == RoundPart.First)
                turn.Start.ShouldBeGreaterThanOrEqualTo(ahead.Promised - Min(5));
            if (visit.Now is VisitNow.Alone { Until: { } until }) turn.Start.ShouldBeGreaterThanOrEqualTo(until);
            if (turn.Part == RoundPart.Back && visit.Now is VisitNow.Ahead or VisitNow.Filler)
                turn.Start.ShouldBeGreaterThanOrEqualTo(turns.Single(t => t.Key == turn.Key && t.Part == RoundPart.First).End
                    + visit.Unattended);
            (free, site) = (turn.End, visit.Site);
        }
        // Deterministic, whatever the order in which the visits are given.
        Round.Of(visits.OrderBy(v => v.Key.GetHashCode(StringComparison.Ordinal) ^ shuffle), Now, "quay", Way).ShouldBe(turns);
        // A promise that stands alone among fillers and calls is never late where nothing is in hand and there was time for the way.
        if (visits.Count(v => v.Now is VisitNow.Ahead) == 1
            && visits.TrueForAll(v => v.Now is not VisitNow.InHand)
            && visits.Find(v => v.Now is VisitNow.Ahead) is { Now: VisitNow.Ahead { Promised: var told }, Site: var there }
            && told >= Now + Way("quay", there))
            turns.Single(t => t.Promised is not null).Late.ShouldBe(TimeSpan.Zero);
    });
}
