using CsCheck;
using YardRelay.Core.Ids;

namespace YardRelay.Core.Tests.Ids;

/// <summary>Ids are texts that were looked at; what routes take in goes through here.</summary>
public sealed class IdTests
{
    private static readonly Gen<string> AnyText = Gen.OneOf(Gen.String, Gen.String[Gen.Char.AlphaNumeric, 190, 210], Gen.Const(""));

    private static bool CanBeOne(string text) => text.Length is > 0 and <= SwapId.MostCharacters && !text.Any(char.IsControl);

    [Fact]
    public void What_can_be_one_is_one_and_stays_as_it_was_written() => AnyText.Sample(text =>
    {
        Taken<SwapId>(text).ShouldBe(CanBeOne(text) ? text : null);
        Taken<RefreshKey>(text).ShouldBe(CanBeOne(text) ? text : null);
        Taken<Tag>(text).ShouldBe(CanBeOne(text) ? text : null);
        Taken<StepKey>(text).ShouldBe(CanBeOne(text) ? text : null);
    });

    private static string? Taken<T>(string text) where T : IParsable<T> => T.TryParse(text, null, out var id) ? id.ToString() : null;

    [Fact]
    public void A_swap_names_its_refresh_also_where_that_has_hyphens_itself() =>
        Gen.Select(Gen.String[Gen.Char["abc-0"], 1, 40], Gen.Int[1, 99_999]).Sample((key, number) =>
            SwapId.Parse($"{key}-{number:0000}").Refresh.Text.ShouldBe(key));

    [Fact]
    public void A_text_without_a_refresh_names_none_and_none_is_found_under_it()
    {
        SwapId.Parse("autumn").Refresh.Text.ShouldBe("");
        SwapId.Parse("-0001").Refresh.Text.ShouldBe("");
        default(SwapId).Text.ShouldBe("");
    }

    [Fact]
    public void What_cannot_be_one_is_refused_with_what_was_written() =>
        Should.Throw<FormatException>(() => Tag.Parse("KB-1\n")).Message.ShouldContain("KB-1");
}
