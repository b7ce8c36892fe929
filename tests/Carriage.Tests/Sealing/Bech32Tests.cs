using CsCheck;
using YardRelay.Carriage.Sealing;

namespace YardRelay.Carriage.Tests.Sealing;

public sealed class Bech32Tests
{
    // From BIP 173: valid ones, and ones with a wrong checksum, in mixed case, or without a prefix.
    [Theory]
    [InlineData("a", "A12UEL5L", true)]
    [InlineData("abcdef", "abcdef1qpzry9x8gf2tvdw0s3jn54khce6mua7lmqqqxw", true)]
    [InlineData("split", "split1checkupstagehandshakeupstreamerranterredcaperred2y9e3w", true)]
    [InlineData("a", "A1G7SGD8", false)]
    [InlineData("abcdef", "abcdef1qpzry9x8gf2tvdw0s3jn54khce6mua7lmqqqxx", false)]
    [InlineData("a", "a12UEL5L", false)]
    [InlineData("", "1qzzfhee", false)]
    [InlineData("b", "a12uel5l", false)]
    public void The_examples_of_its_description_are_read_or_refused(string prefix, string text, bool valid) =>
        (Bech32.TryDecode(prefix, text) is not null).ShouldBe(valid);

    [Fact]
    public void What_is_written_is_read_and_one_wrong_letter_is_noticed() =>
        Gen.Select(Gen.Byte.Array[0, 70], Gen.Int[0, 10_000]).Sample((bytes, pick) =>
    {
        var text = Bech32.Encode("yard-key-part-", bytes);
        Bech32.TryDecode("yard-key-part-", text).ShouldBe(bytes);
        Bech32.TryDecode("yard-key-part-", text.ToUpperInvariant()).ShouldBe(bytes);
        var at = "yard-key-part-1".Length + (pick % (text.Length - "yard-key-part-1".Length));
        var wrong = text[..at] + (text[at] == 'q' ? 'p' : 'q') + text[(at + 1)..];
        Bech32.TryDecode("yard-key-part-", wrong).ShouldBeNull(wrong);
    }, iter: 300);
}
