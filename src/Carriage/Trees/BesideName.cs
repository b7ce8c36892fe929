using System.Text;

namespace YardRelay.Carriage.Trees;

/// <summary>
/// The name under which a file is kept beside one that stands: <c>letter (old computer).txt</c>, then <c>(old computer 2)</c>.
/// </summary>
internal static class BesideName
{
    public static byte[] Of(byte[] name, int number)
    {
        var mark = Encoding.UTF8.GetBytes(number == 1 ? " (old computer)" : $" (old computer {number})");
        var dot = Array.LastIndexOf(name, (byte)'.');
        var cut = dot > 0 && name.Length - dot <= 16 ? dot : name.Length;
        var stem = name.AsSpan(0, Math.Min(cut, 255 - mark.Length - (name.Length - cut)));
        // A name is not cut inside a character.
        while (stem.Length < cut && stem.Length > 0 && (name[stem.Length] & 0xC0) == 0x80) stem = stem[..^1];
        return [.. stem, .. mark, .. name.AsSpan(cut)];
    }
}
