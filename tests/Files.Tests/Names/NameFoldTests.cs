using System.Globalization;
using System.Text;
using CsCheck;
using YardRelay.Files.Names;

namespace YardRelay.Files.Tests.Names;

/// <summary>What names are one, held against the system's own library for Unicode.</summary>
public sealed class NameFoldTests
{
    private static readonly Rune[] All =
        [.. Enumerable.Range(1, 0x10FFFF).Where(Rune.IsValid).Select(c => new Rune(c)).Where(r =>
            Rune.GetUnicodeCategory(r) is not (UnicodeCategory.OtherNotAssigned or UnicodeCategory.PrivateUse))];

    // Letters, marks of several classes, what decomposes, syllables, and what joins.
    private static readonly Gen<string> Text = Gen.OneOf(
        Gen.Int[0, All.Length - 1].Select(i => All[i]),
        Gen.Int[0x300, 0x36F].Select(c => new Rune(c)),
        Gen.Int[0x41, 0x7A].Select(c => new Rune(c)),
        Gen.Int[0xC0, 0x24F].Select(c => new Rune(c)),
        Gen.Int[0x1100, 0x11FF].Select(c => new Rune(c)),
        Gen.Int[0x1E00, 0x1FFF].Where(c => CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.OtherNotAssigned)
            .Select(c => new Rune(c)))
        .Array[1, 8].Select(r => string.Concat(r.Select(o => o.ToString())));

    [Fact]
    public void The_form_of_a_name_is_what_the_system_makes_of_it()
    {
        foreach (var one in All) NameFold.Form($"a{one}").ShouldBe($"a{one}".Normalize(NormalizationForm.FormD), $"U+{one.Value:X4}");
        Text.Sample(t => NameFold.Form(t) == t.Normalize(NormalizationForm.FormD), iter: 20_000);
    }

    [Fact]
    public void Names_that_differ_in_case_or_form_are_one()
    {
        foreach (var one in All)
        {
            var name = one.ToString();
            NameFold.Of(name.ToLowerInvariant()).ShouldBe(NameFold.Of(name), $"U+{one.Value:X4} in lower case");
            NameFold.Of(name.ToUpperInvariant()).ShouldBe(NameFold.Of(name), $"U+{one.Value:X4} in upper case");
        }
        // In order first: the Greek mark below a letter is a letter of its own in upper case, and keeps its place from then on.
        Text.Select(t => t.Normalize(NormalizationForm.FormD)).Sample(
            t => NameFold.Of(t.ToUpperInvariant().Normalize(NormalizationForm.FormC)) == NameFold.Of(t)
                && NameHash.Folded(t) == NameHash.Folded(t.ToLowerInvariant().Normalize(NormalizationForm.FormC)),
            iter: 20_000);
    }

    [Theory]
    [InlineData("STRASSE", "straße")]
    [InlineData("ﬃ", "FFI")]
    [InlineData("İzmir", "i\u0307zmir")]
    [InlineData("İzmir", "izmir")]
    [InlineData("Ladılar", "LADILAR")]
    [InlineData("ΣΊΣΥΦΟΣ", "σίσυφος")]
    [InlineData("\u1FB3", "αι")]
    [InlineData("\u0345\u0301α", "\u0301\u0345Α")]
    [InlineData("\u212Bngström", "ångström")]
    [InlineData("plan\u200D.txt", "Plan.txt")]
    [InlineData("한글", "\u1112\u1161\u11AB\u1100\u1173\u11AF")]
    public void So_are_those_that_only_some_disks_take_for_one(string one, string other) => NameFold.Of(one).ShouldBe(NameFold.Of(other));

    [Fact]
    public void Names_that_no_disk_takes_for_one_stay_apart()
    {
        (string, string)[] pairs = [("Plan", "Plän"), ("e\u0301", "e\u0300"), ("a", "b"), ("ß", "s"), ("가", "각"), ("İ", "l")];
        foreach (var (one, other) in pairs)
            NameFold.Of(one).ShouldNotBe(NameFold.Of(other));
        Text.Select(Text).Sample(
            (a, b) => NameFold.Of(a) != NameFold.Of(b)
                || string.Equals(Plain(a), Plain(b), StringComparison.OrdinalIgnoreCase)
                || !Plain(a).All(char.IsAsciiLetter) || !Plain(b).All(char.IsAsciiLetter),
            iter: 20_000);

        static string Plain(string text) => text.Normalize(NormalizationForm.FormKC);
    }

    [Fact]
    public void What_is_stable_comes_back_the_same_from_a_disk_with_a_form_of_its_own()
    {
        var stable = All.Where(NameFold.IsStable).ToArray();
        stable.Length.ShouldBeGreaterThan(100_000);
        Gen.Int[0, stable.Length - 1].Select(i => stable[i]).Array[1, 8].Select(r => string.Concat(r.Select(o => o.ToString())))
            .Sample(t => t.IsNormalized(NormalizationForm.FormC) && t.IsNormalized(NormalizationForm.FormD), iter: 50_000);
        foreach (var one in stable)
            foreach (var before in new[] { "e", "가", "\u09C7", "\u0DD9" })
                (before + one).Normalize(NormalizationForm.FormC)
                    .ShouldBe(before.Normalize(NormalizationForm.FormC) + one, $"U+{one.Value:X4}");
    }
}
