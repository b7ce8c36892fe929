using System.Text;
using CsCheck;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;

namespace YardRelay.Carriage.Tests.Names;

public sealed class NameRuleTests
{
    private static Gen<T> Of<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    // Bytes that make names collide if anything can: escapes, hexadecimal digits, halves of characters, separators of Windows.
    private static readonly Gen<byte[]> Name = Gen.OneOf(
        Of("=39AEF~a.% :ö"u8.ToArray()).Array[1, 6],
        Gen.Byte.Where(b => b is not 0 and not (byte)'/').Array[1, 40],
        Gen.Byte.Where(b => b is not 0 and not (byte)'/').Array[240, 255])
        .Where(n => !n.AsSpan().SequenceEqual("."u8) && !n.AsSpan().SequenceEqual(".."u8));

    [Fact]
    public void Two_names_never_meet_and_every_stored_name_is_one_part_that_a_depot_can_hold() =>
        Gen.Select(Name, Name, Gen.Bool).Sample((a, b, narrow) =>
        {
            var rule = new NameRule(narrow);
            var (storedA, storedB) = (rule.Store(a), rule.Store(b));
            (storedA == storedB).ShouldBe(a.AsSpan().SequenceEqual(b));
            DepotPath.TryParse(storedA).ShouldNotBeNull();
            storedA.ShouldNotContain('/');
            Encoding.UTF8.GetByteCount(storedA).ShouldBeLessThanOrEqualTo(255);
            // No replacement for what is no text is ever made up; one that the name has itself stays.
            if (a.AsSpan().IndexOf("\uFFFD"u8) < 0) storedA.Contains('\uFFFD', StringComparison.Ordinal).ShouldBeFalse();
            if (narrow) storedA.IndexOfAny("\"*:<>?\\|%#".ToCharArray()).ShouldBe(-1);
        }, iter: 20_000);

    [Fact]
    public void A_stored_name_reads_as_the_name_it_stands_for_but_for_one_that_was_shortened() =>
        Gen.Select(Name, Gen.Bool).Sample((name, narrow) =>
        {
            var stored = new NameRule(narrow).Store(name);
            NameRule.Read(stored).ShouldBe(stored.Contains("=~", StringComparison.Ordinal) ? Encoding.UTF8.GetBytes(stored) : name);
        }, iter: 20_000);

    [Theory, InlineData(
        "letter.txt", "letter.txt"), InlineData("a=b", "a=b"), InlineData("a=3D", "a=3D3D"), InlineData("Möwe 1", "Möwe 1"), InlineData(
            "tab\there", "tab=09here"), InlineData("100%", "100%")]
    public void A_name_that_a_depot_can_hold_stays_as_a_person_knows_it(string name, string stored) =>
        NameRule.Plain.Store(Encoding.UTF8.GetBytes(name)).ShouldBe(stored);

    [Fact]
    public void Percent_text_gives_the_bytes_back() =>
        Name.Sample(name => PercentText.TryDecode(PercentText.Encode(name)).ShouldBe(name), iter: 5_000);

    [Fact]
    public void Paths_are_ordered_as_their_bytes() =>
        Gen.Select(
            Of("a/z\uE000\uFFFDé-.".ToCharArray()).Array[0, 6].Select(c => new string(c)),
            Of("a/z\uE000\uFFFDé-.".ToCharArray()).Array[0, 6].Select(c => new string(c)),
            Of("", "𝔘", "𐀀"))
            .Sample((a, b, high) =>
        {
            (a, b) = (a + high, high + b);
            Math.Sign(DepotPath.CompareUtf8(a, b)).ShouldBe(Math.Sign(Encoding.UTF8.GetBytes(a).AsSpan()
                .SequenceCompareTo(Encoding.UTF8.GetBytes(b))));
        }, iter: 20_000);

    [Fact]
    public void An_entry_is_read_as_it_was_written_and_one_that_leaves_its_folder_is_none()
    {
        Gen.Select(Name, Gen.Long, Gen.UInt[0, 999_999_999], Gen.Int[0, 4095]).Sample((name, seconds, nanos, mode) =>
        {
            var entry = new Entry
            {
                Path = DepotPath.Of(NameRule.Plain.Store(name)),
                Raw = name,
                Kind = EntryKind.File,
                Mode = (ushort)mode,
                Modified = new(seconds / 1000, nanos),
                Bytes = 12,
                Sha256 = new string('a', 64),
                Inode = ulong.MaxValue,
                Attributes = new(StringComparer.Ordinal) { ["user.x"] = name },
                Data = [(3, 4)],
                SameAs = "other",
                GoneSince = 2,
                Changed = new(-1, 5),
            };
            var line = new System.Buffers.ArrayBufferWriter<byte>();
            entry.Write(line);
            var read = Entry.TryParse(line.WrittenSpan)!;
            read.RawPath.ShouldBe(name);
            read.Attributes!["user.x"].ShouldBe(name);
            (read with { Raw = entry.Raw, Attributes = entry.Attributes, Data = entry.Data }).ShouldBe(entry);
        }, iter: 2_000);
        foreach (var wrong in new[]
        {
            "\"path\":\"../x\"",
            "\"path\":\"/etc/x\"",
            "\"path\":\"a//b\"",
            "\"path\":\"a\",\"name\":\"../x\"",
            "\"path\":\"a\",\"name\":\"/x\"",
            "\"path\":\"a\",\"name\":\"a%00\"",
            "\"path\":\"a\",\"name\":\"%zz\"",
            "\"path\":\"a\",\"data\":[5,99]"
        })
            Entry.TryParse(Encoding.UTF8.GetBytes(
                $"{{{wrong},\"kind\":\"file\",\"mode\":\"0644\",\"modified\":\"1.000000000\",\"bytes\":1,\"sha256\":\""
                    + $"{new string('a', 64)}\"}}"))
                .ShouldBeNull(wrong);
        Stamp.TryParse("-5.000000001"u8, out var old).ShouldBeTrue();
        old.ShouldBe(new Stamp(-5, 1));
    }
}
