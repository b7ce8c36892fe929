using System.Text;

namespace YardRelay.Carriage.Sealing;

/// <summary>Bech32 (BIP 173) without its limit of 90 characters, as the age v1 format writes keys.</summary>
internal static class Bech32
{
    private const string Alphabet = "qpzry9x8gf2tvdw0s3jn54khce6mua7l";

    /// <summary>Text with a prefix, <c>1</c>, the bytes in groups of five bits, and a checksum of six characters; in lower case.</summary>
    public static string Encode(string prefix, ReadOnlySpan<byte> bytes)
    {
        var groups = Regroup(bytes, 8, 5, pad: true)!;
        var text = new StringBuilder(prefix).Append('1');
        foreach (var group in groups) text.Append(Alphabet[group]);
        var check = PolyMod([.. Spread(prefix), .. groups, 0, 0, 0, 0, 0, 0]) ^ 1;
        for (var i = 0; i < 6; i++) text.Append(Alphabet[(int)((check >> (5 * (5 - i))) & 31)]);
        return text.ToString();
    }

    /// <summary>The bytes of a text with that prefix, all in one case; null where it is mistyped.</summary>
    public static byte[]? TryDecode(string prefix, string text)
    {
        if (text.Any(char.IsAsciiLetterUpper) && text.Any(char.IsAsciiLetterLower)) return null;
        text = text.ToLowerInvariant();
        var one = text.LastIndexOf('1');
        if (one != prefix.Length || text.Length < one + 7 || !text.StartsWith(prefix, StringComparison.Ordinal)) return null;
        var groups = new byte[text.Length - one - 1];
        for (var i = 0; i < groups.Length; i++)
        {
            var at = Alphabet.IndexOf(text[one + 1 + i], StringComparison.Ordinal);
            if (at < 0) return null;
            groups[i] = (byte)at;
        }
        return PolyMod([.. Spread(prefix), .. groups]) == 1 ? Regroup(groups.AsSpan(0, groups.Length - 6), 5, 8, pad: false) : null;
    }

    private static IEnumerable<byte> Spread(string prefix) =>
        [.. prefix.Select(c => (byte)(c >> 5)), 0, .. prefix.Select(c => (byte)(c & 31))];

    private static uint PolyMod(IEnumerable<byte> groups)
    {
        ReadOnlySpan<uint> generator = [0x3b6a57b2, 0x26508e6d, 0x1ea119fa, 0x3d4233dd, 0x2a1462b3];
        uint check = 1;
        foreach (var group in groups)
        {
            var top = check >> 25;
            check = ((check & 0x1ffffff) << 5) ^ group;
            for (var i = 0; i < 5; i++) check ^= ((top >> i) & 1) == 1 ? generator[i] : 0;
        }
        return check;
    }

    private static byte[]? Regroup(ReadOnlySpan<byte> from, int fromBits, int toBits, bool pad)
    {
        var (bits, count, into) = (0, 0, new List<byte>());
        foreach (var value in from)
        {
            bits = ((bits << fromBits) | value) & 0xFFFF;
            for (count += fromBits; count >= toBits;) into.Add((byte)((bits >> (count -= toBits)) & ((1 << toBits) - 1)));
        }
        var rest = bits & ((1 << count) - 1);
        if (pad && count > 0) into.Add((byte)(rest << (toBits - count)));
        return !pad && (count >= fromBits || rest != 0) ? null : [.. into];
    }
}
