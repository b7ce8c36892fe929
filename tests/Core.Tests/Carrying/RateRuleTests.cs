using CsCheck;
using YardRelay.Core.Carrying;

namespace YardRelay.Core.Tests.Carrying;

public sealed class RateRuleTests
{
    private static IReadOnlyList<RateRule> Rules(params string[] texts) => RateRule.ParseAll(texts).Value;

    [Theory]
    [InlineData("08:00-18:00 40", 8 * 60, 5_000_000L)]
    [InlineData("08:00-18:00 40", (18 * 60) - 1, 5_000_000L)]
    [InlineData("08:00-18:00 40", 18 * 60, null)]
    [InlineData("22:00-06:00 none", 23 * 60, 0L)]
    [InlineData("22:00-06:00 none", 5 * 60, 0L)]
    [InlineData("22:00-06:00 none", 12 * 60, null)]
    [InlineData("00:00-24:00 8", 1439, 1_000_000L)]
    [InlineData("0.8", 0, 100_000L)]
    public void A_rule_holds_in_its_hours_and_over_midnight(string text, int minute, long? bytes) =>
        RateRule.At(Rules(text), minute).ShouldBe(bytes);

    [Fact]
    public void Of_several_rules_the_least_holds_and_all_hands_together_keep_it() =>
        Gen.Select(Gen.Int[0, 1439], Gen.Int[1, 60]).Sample((minute, hands) =>
    {
        var rules = Rules("100", "06:00-20:00 40", "12:00-13:00 none");
        var rate = RateRule.At(rules, minute)!.Value;
        rate.ShouldBe(minute is >= 720 and < 780 ? 0 : minute is >= 360 and < 1200 ? 5_000_000 : 12_500_000);
        (RateRule.Share(rate, hands)!.Value * hands).ShouldBeLessThanOrEqualTo(rate);
    });

    [Theory, InlineData(""), InlineData("40 Mbit"), InlineData("8:00-18:00 40"), InlineData(
        "08:00-25:00 40"), InlineData(
            "08:60-09:00 4"), InlineData("08:00-08:00 4"), InlineData("0"), InlineData("-4"), InlineData("24:00-08:00 4")]
    public void What_is_no_rule_is_refused_with_an_example(string text) =>
        RateRule.Parse(text).Problem.Message.ShouldContain("08:00-18:00 40");

    [Fact]
    public void A_rule_is_written_as_it_is_read()
    {
        foreach (var text in new[] { "08:00-18:00 40", "22:00-06:00 none", "200", "12:30-13:00 1.5" })
            RateRule.Parse(text).Value.ToString().ShouldBe(text);
    }
}
