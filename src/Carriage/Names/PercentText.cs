using System.Text;

namespace YardRelay.Carriage.Names;

/// <summary>Bytes of a name as UTF-8 text, reversibly: what is not UTF-8, a control character or '%' is written <c>%XX</c>.</summary>
internal static class PercentText
{
    public static string Encode(ReadOnlySpan<byte> name)
    {
        // Nearly every name is plain ASCII; a walk over many of them must not pay for the others.
        if (!name.ContainsAnyExceptInRange((byte)0x20, (byte)0x7e) && !name.Contains((byte)'%')) return Encoding.ASCII.GetString(name);
        var text = new StringBuilder(name.Length);
        while (!name.IsEmpty)
        {
            var whole = Rune.DecodeFromUtf8(name, out var rune, out var used) == System.Buffers.OperationStatus.Done;
            if (whole && rune.Value is >= 0x20 and not 0x7f and not '%') text.Append(rune.ToString());
            else foreach (var one in name[..used]) text.Append('%').Append(one.ToString("X2"));
            name = name[used..];
        }
        return text.ToString();
    }

    /// <summary>Whether a text stands for itself.</summary>
    public static bool IsPlain(ReadOnlySpan<char> text) => !text.ContainsAnyExceptInRange(' ', '~') && !text.Contains('%');

    /// <summary>The bytes, or null when a '%' is not followed by two hexadecimal digits.</summary>
    public static byte[]? TryDecode(string text)
    {
        if (!text.Contains('%', StringComparison.Ordinal)) return Encoding.UTF8.GetBytes(text);
        var bytes = new List<byte>(text.Length);
        foreach (var (i, part) in text.Split('%').Index())
        {
            if (i == 0) bytes.AddRange(Encoding.UTF8.GetBytes(part));
            else if (part.Length < 2
                || !byte.TryParse(part.AsSpan(0, 2), System.Globalization.NumberStyles.AllowHexSpecifier, null, out var one))
                return null;
            else
            {
                bytes.Add(one);
                bytes.AddRange(Encoding.UTF8.GetBytes(part[2..]));
            }
        }
        return [.. bytes];
    }
}
