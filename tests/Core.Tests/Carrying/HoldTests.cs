using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Catalogues;

namespace YardRelay.Core.Tests.Carrying;

public sealed class HoldTests
{
    private static readonly DateOnly Today = new(2026, 11, 26);

    [Theory]
    [InlineData(13, false, "It is held until 2026-12-09")]
    [InlineData(0, true, "")]
    public void A_signed_parcel_is_held_for_its_days_from_the_last_sign_off(int days, bool free, string why)
    {
        var hold = Hold.Of(Today, Today, days, isSigned: true, needsRestore: false, openFiles: 0, depotEnds: null);
        (hold.Until, hold.Missing.Count == 0, hold.Alarm).ShouldBe((Today.AddDays(days), free, null));
        if (!free) hold.Missing.Single().ShouldStartWith(why);
    }

    [Fact]
    public void Everything_that_stands_in_the_way_is_said_at_once()
    {
        var hold = Hold.Of(Today, null, 14, isSigned: false, needsRestore: true, openFiles: 2, depotEnds: null);
        hold.Missing.Count.ShouldBe(3);
        hold.Until.ShouldBeNull();
    }

    [Theory]
    [InlineData(29, true, false, null)]
    [InlineData(28, true, false, "is not restored")]
    [InlineData(-1, true, false, "is not restored")]
    [InlineData(10, false, true, "before the hold ends on 2026-12-10")]
    [InlineData(14, false, true, null)]
    [InlineData(20, false, false, "the swap is not signed off")]
    public void A_depots_own_end_is_an_alarm_weeks_ahead_where_it_comes_too_soon(int endsIn, bool needsRestore, bool signed, string? words)
    {
        var alarm = Hold.Of(Today, signed ? Today : null, 14, signed, needsRestore, 0, Today.AddDays(endsIn)).Alarm;
        if (words is null) alarm.ShouldBeNull();
        else alarm.ShouldNotBeNull().ShouldContain(words);
    }

    [Fact]
    public void Every_kind_of_snag_has_a_counsel() => Enum.GetValues<SnagKind>().ShouldAllBe(k => SnagCounsel.Of(k).Words.Length > 10);

    [Theory]
    [InlineData("Berth Planner 6.2 Professional", "pro")]
    [InlineData("berth planner", "plain")]
    [InlineData("The Berth Planner", "any")]
    [InlineData("Berth", null)]
    [InlineData("", null)]
    public void Of_lines_that_fit_a_program_the_one_that_says_most_of_its_name_counts(string program, string? offer) =>
        new ProgramCatalogue([
            new("*berth planner*", "any", null, false),
            new("Berth Planner*Professional", "pro", null, false),
            new("Berth Planner", "plain", null, false)
        ])
            .For(program)?.Offer.ShouldBe(offer);
}
