using System.Buffers;
using System.Buffers.Text;
using System.Globalization;

namespace YardRelay.Files;

/// <summary>Seconds and nanoseconds since 1970, as file systems keep them; any year.</summary>
/// <param name="Seconds">Whole seconds, below zero before 1970.</param>
/// <param name="Nanos">Nanoseconds of the second, 0 to 999,999,999.</param>
public readonly record struct Stamp(long Seconds, uint Nanos)
{
    /// <summary>Seconds, a dot and nine digits.</summary>
    public override string ToString() => $"{Seconds}.{Nanos:000000000}";

    /// <summary>Most bytes that <see cref="Write"/> takes.</summary>
    public const int MostBytes = 32;

    /// <summary>Writes what <see cref="ToString"/> says.</summary>
    /// <returns>How many bytes it took.</returns>
    public int Write(Span<byte> into)
    {
        Utf8Formatter.TryFormat(Seconds, into, out var at);
        into[at++] = (byte)'.';
        Utf8Formatter.TryFormat(Nanos, into[at..], out var digits, new StandardFormat('D', 9));
        return at + digits;
    }

    /// <summary>Whether it is earlier.</summary>
    public bool IsBefore(Stamp other) => (Seconds, Nanos).CompareTo((other.Seconds, other.Nanos)) < 0;

    /// <summary>Reads seconds, a dot and nine digits.</summary>
    public static bool TryParse(ReadOnlySpan<byte> text, out Stamp stamp)
    {
        stamp = default;
        var dot = text.IndexOf((byte)'.');
        if (dot < 1
            || text.Length != dot + 10
            || !long.TryParse(text[..dot], NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var seconds)
            || !uint.TryParse(text[(dot + 1)..], NumberStyles.None, CultureInfo.InvariantCulture, out var nanos))
            return false;
        stamp = new(seconds, nanos);
        return true;
    }
}
