using System.Security.Cryptography;
using System.Text;
using YardRelay.Files.Names;

namespace YardRelay.Carriage.Names;

/// <summary>
/// How a file's name is written in a depot. A name that the depot can hold stays as it is; any other byte becomes <c>=XX</c>, so that no
/// two names meet and a person still recognises them. A name that grows too long ends in <c>=~</c> and a digest; the parcel's entries
/// keep the true one.
/// </summary>
/// <param name="Narrow">True for depots with the narrow alphabet of Windows and of shares that read names as URLs.</param>
/// <param name="Stable">True for depots that give names a form of Unicode of their own: what would change gets an escape.</param>
internal sealed record NameRule(bool Narrow, bool Stable = false)
{
    private const int LongestBytes = 255;

    public static readonly NameRule Plain = new(false);

    public string Code => (Narrow ? "narrow" : "plain") + (Stable ? "-stable" : "");

    public static NameRule? TryParse(string? code) => code switch
    {
        "plain" => Plain,
        "narrow" => new(true),
        "plain-stable" => new(false, true),
        "narrow-stable" => new(true, true),
        _ => null,
    };

    /// <summary>The name in the depot for one name of a source.</summary>
    public string Store(ReadOnlySpan<byte> name)
    {
        if (IsSimple(name)) return Encoding.ASCII.GetString(name);
        var text = new StringBuilder(name.Length);
        for (var rest = name; !rest.IsEmpty;)
        {
            var whole = Rune.DecodeFromUtf8(rest, out var rune, out var used) == System.Buffers.OperationStatus.Done;
            if (whole && MayStand(rune, rest[used..])) text.Append(rune.ToString());
            else foreach (var one in rest[..used]) text.Append('=').Append(one.ToString("X2"));
            rest = rest[used..];
        }
        if (Narrow && IsReserved(name)) text.Remove(0, 1).Insert(0, $"={name[0]:X2}");
        var stored = text.ToString();
        if (Encoding.UTF8.GetByteCount(stored) <= LongestBytes) return stored;
        var digest = Convert.ToHexString(SHA256.HashData(name))[..16];
        return Shorten(stored, 18) + "=~" + digest;
    }

    /// <summary>
    /// The name of a source that a stored name stands for, by either rule. Of one that was shortened, or made to differ from a neighbour,
    /// only its entry knows: that one comes back as it is stored.
    /// </summary>
    public static byte[] Read(string stored)
    {
        var name = Encoding.UTF8.GetBytes(stored);
        if (stored.Contains("=~", StringComparison.Ordinal)) return name;
        var read = new List<byte>(name.Length);
        for (var at = 0; at < name.Length; at++)
        {
            var escaped = name[at] == '=' && at + 2 < name.Length && IsHex(name[at + 1]) && IsHex(name[at + 2]);
            read.Add(escaped ? Convert.ToByte(Encoding.ASCII.GetString(name, at + 1, 2), 16) : name[at]);
            if (escaped) at += 2;
        }
        return [.. read];
    }

    /// <summary>A stored name with room left behind it for an ending of so many bytes.</summary>
    public static string Shorten(string stored, int ending)
    {
        while (Encoding.UTF8.GetByteCount(stored) > LongestBytes - ending || char.IsHighSurrogate(stored[^1])) stored = stored[..^1];
        return stored;
    }

    /// <summary>The name in the depot for a name that the depot would take for another.</summary>
    public string StoreBeside(ReadOnlySpan<byte> name)
    {
        return Shorten(Store(name), 18) + "=~" + Convert.ToHexString(SHA256.HashData(name))[..16];
    }

    /// <summary>Whether a depot keeps the name as it is, and all of it is ASCII, as nearly every name is.</summary>
    public bool IsKept(ReadOnlySpan<byte> name) => IsSimple(name) && name.Length <= LongestBytes;

    private bool IsSimple(ReadOnlySpan<byte> name)
    {
        foreach (var one in name)
            if (!(one is >= (byte)'a' and <= (byte)'z' or >= (byte)'A' and <= (byte)'Z' or >= (byte)'0' and <= (byte)'9' or (byte)'_'
                or (byte)'-' or (byte)'.'))
                return false;
        return !Narrow || !(name[^1] == '.' || IsReserved(name));
    }

    private bool MayStand(Rune rune, ReadOnlySpan<byte> rest)
    {
        // '=' stays unless what follows would read as one of our own escapes.
        if (rune.Value == '=') return !(rest.Length >= 2 && IsHex(rest[0]) && IsHex(rest[1])) && !(rest.Length >= 1 && rest[0] == '~');
        if (rune.Value is < 0x20 or 0x7f || (Stable && !NameFold.IsStable(rune))) return false;
        if (!Narrow) return true;
        // Disks with short names beside the long ones find another file by it.
        if (rune.Value == '~' && !rest.IsEmpty && rest[0] is >= (byte)'0' and <= (byte)'9') return false;
        return !"\"*:<>?\\|%#".Contains((char)Math.Min(rune.Value, 0xffff)) && !(rest.IsEmpty && rune.Value is '.' or ' ');
    }

    private static bool IsHex(byte one) => one is >= (byte)'0' and <= (byte)'9' or >= (byte)'A' and <= (byte)'F';

    // Device names of Windows: no share that a Windows machine serves can hold them, so their first letter is escaped.
    private static bool IsReserved(ReadOnlySpan<byte> name)
    {
        var stem = Encoding.ASCII.GetString(name).Split('.')[0].ToUpperInvariant();
        return stem is "CON" or "PRN" or "AUX" or "NUL"
            || (stem.Length == 4
                && (stem.StartsWith("COM", StringComparison.Ordinal) || stem.StartsWith("LPT", StringComparison.Ordinal))
                && char.IsAsciiDigit(stem[3]));
    }
}
