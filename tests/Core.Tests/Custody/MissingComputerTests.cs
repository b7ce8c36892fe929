using CsCheck;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Custody;

public sealed class MissingComputerTests
{
    private static readonly Gen<MissingComputer> Any = Gen.Select(
        Gen.Bool.Select(lost => lost ? CustodyAct.Lost : CustodyAct.Stolen), Gen.Enum<DiskSecrecy>(), Gen.Bool,
        Gen.Bool.Select(cloud => cloud ? "Cloud" : "Share of the quay").List[0, 2])
        .Select((how, disk, isWiped, depots) => new MissingComputer("KB-1", how, "Ida Moreau", disk, isWiped, depots));

    [Fact]
    public void Whoever_answers_for_personal_data_hears_of_it_in_time_and_nothing_is_signed_before() => Any.Sample(missing =>
    {
        var all = missing.Tellings();
        var data = all.Where(t => t.Words.Contains("answers for personal data", StringComparison.Ordinal)).ToList();
        if (missing.IsWiped) data.ShouldBeEmpty("nobody's files are on it");
        else
        {
            var told = data.ShouldHaveSingleItem();
            told.Within.ShouldBeLessThan(MissingComputer.ToNotify, "the authority must hear of it by then");
            told.Holds.ShouldBe(FollowUpHold.SignOff);
            if (missing.Disk != DiskSecrecy.Encrypted) told.Words.ShouldMatch("not encrypted|counts as readable");
        }
    });

    [Fact]
    public void What_a_thief_could_use_is_changed_first() => Any.Sample(missing =>
    {
        var all = missing.Tellings();
        foreach (var depot in missing.IsWiped ? [] : missing.Depots)
            all.ShouldContain(t => t.Words.Contains(depot, StringComparison.Ordinal) && t.Within <= TimeSpan.FromHours(4));
        if (!missing.IsWiped && missing.Disk != DiskSecrecy.Encrypted)
            all[0].Words.ShouldContain("every password changed");
        all.Count(t => t.Words.Contains("police", StringComparison.Ordinal)).ShouldBe(missing.How == CustodyAct.Stolen ? 1 : 0);
    });

    [Fact]
    public void What_is_missing_is_nowhere_until_it_is_found() => Gen.Select(
        Gen.Enum<CustodyAct>().List[0, 8], Gen.Bool.Select(lost => lost ? CustodyAct.Lost : CustodyAct.Stolen), Gen.Enum<CustodyAct>())
        .Sample((before, how, next) =>
        {
            var state = CustodyState.Of([.. before.Append(how).Select(Move)]);
            (state.Holder, state.Place, state.Pallet, state.End).ShouldBe(((string?)null, (string?)null, (string?)null, (CustodyAct?)how));
            var refused = state.Refuses("KB-1", next, "store", isWiped: true);
            (refused is null).ShouldBe(next == CustodyAct.Found);
            var found = CustodyState.Of([.. before.Append(how).Append(CustodyAct.Found).Select(Move)]);
            (found.Place, found.End).ShouldBe(("at 0", (CustodyAct?)null), "a place is what was said last");
            found.Refuses("KB-1", CustodyAct.Found, "store", isWiped: true).ShouldNotBeNull("it is here");
        });

    [Fact]
    public void A_damaged_parcel_is_called_the_only_copy_whenever_no_other_is_known() => Gen.Select(
        Gen.Enum<SwapKind>(), Gen.Bool, Gen.Bool, Gen.Bool)
        .Sample((kind, isRestored, isReadable, hasCopy) =>
        {
            var beside = DamagedDepot.Beside(new(kind, isRestored, isReadable, hasCopy));
            // A leave restores nothing: what the receiver has accepted lies in the parcel.
            var is_on_new = isRestored && kind != SwapKind.Leave;
            (beside == FilesBeside.Nowhere).ShouldBe(!is_on_new && !isReadable && !hasCopy);
            (beside == FilesBeside.NewComputer).ShouldBe(is_on_new);
            DamagedDepot.Remedy(beside).ShouldNotBeEmpty();
        });

    private static CustodyMove Move(CustodyAct act, int number)
    {
        var at = new DateTimeOffset(2026, 11, 26, 9, number, 0, TimeSpan.Zero);
        return new($"{number}", act, act == CustodyAct.Found ? "at 0" : $"at {number}", "Noor", at, at);
    }
}
