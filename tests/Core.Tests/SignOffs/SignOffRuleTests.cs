using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.SignOffs;

public sealed class SignOffRuleTests
{
    private static readonly FolderAccount Whole = new(
        "Documents", new(10, 100), new(10, 100), default, default, default, new(10, 100), default, default);

    private static IReadOnlyList<string> Missing(
        SwapKind kind, FolderAccount account, int snags, bool staged, bool restored, params SignOffPart[] signed) =>
        SignOffRule.Missing(
            signed.Length > 0 ? SignOffPart.Coordinator : SignOffPart.Technician, kind, [], [account], snags, staged, restored, true,
            signed, []);

    [Fact]
    public void Nothing_is_signed_that_is_not_true_and_a_kind_is_asked_only_for_what_it_has()
    {
        foreach (var kind in Enum.GetValues<SwapKind>())
        {
            var without = Missing(kind, Whole, 0, false, false);
            without.Any(m => m.Contains("staged")).ShouldBe(kind.Stages(), $"{kind}");
            without.Any(m => m.Contains("restored")).ShouldBe(kind.Restores(), $"{kind}");
            Missing(kind, Whole, 0, true, true).ShouldBeEmpty($"{kind}");
        }
        Missing(SwapKind.Renew, Whole with { InDepot = new(8, 80), OnNew = new(8, 80) }, 0, true, true).Single()
            .ShouldStartWith("2 files are neither carried nor waived.");
        Missing(
            SwapKind.Renew, Whole with { InDepot = new(9, 90), Waived = new(1, 10), OnNew = new(9, 90) }, 0, true, true).ShouldBeEmpty();
        Missing(SwapKind.Renew, Whole, 1, true, true).Single().ShouldBe("1 snag is open. Retry or waive each.");
        SignOffRule.Missing(SignOffPart.Coordinator, SwapKind.Renew, [], [Whole], 0, true, true, true, [], []).Single()
            .ShouldBe("The technician has not signed off.");
        Missing(SwapKind.Renew, Whole, 0, true, true, SignOffPart.Technician).ShouldBeEmpty();
        SignOffRule.Missing(SignOffPart.Technician, SwapKind.Leave, [], [Whole], 0, true, false, false, [], []).Single()
            .ShouldContain("accepted");
    }

    [Fact]
    public void A_line_has_the_stations_of_its_kind_and_its_next_one_is_behind_the_last_that_was_reached()
    {
        SwapLine.StationsOf(SwapKind.Renew).Count().ShouldBe(8);
        SwapLine.StationsOf(SwapKind.Issue).ShouldBe([Station.Told, Station.Booked, Station.Swapped, Station.Accepted]);
        SwapLine.StationsOf(SwapKind.Second).ShouldNotContain(Station.HandedIn);
        SwapLine.StationsOf(SwapKind.Leave).ShouldNotContain(Station.Restored);
        var none = SwapLine.Of(SwapKind.Renew, new Dictionary<Station, DateTimeOffset>());
        SwapLine.Next(none).ShouldBe(0);
        // The person was told after the survey was made: what was passed over is not ahead.
        var some = SwapLine.Of(SwapKind.Renew, new Dictionary<Station, DateTimeOffset>
        {
            [Station.Surveyed] = default,
            [Station.Staged] = default
        });
        some[SwapLine.Next(some)].Station.ShouldBe(Station.Swapped);
        var all = SwapLine.Of(SwapKind.Leave, SwapLine.StationsOf(SwapKind.Leave).ToDictionary(s => s, _ => DateTimeOffset.UnixEpoch));
        SwapLine.Next(all).ShouldBe(all.Count);
        foreach (var kind in Enum.GetValues<SwapKind>())
            (kind.Restores() && !kind.Stages())
                .ShouldBe(
                    kind == SwapKind.Rescue, "what is restored was staged before, by this swap or by the one whose computer was lost");
    }
}
