using System.Globalization;
using System.Text;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Posix;

namespace YardRelay.Carriage.Packs;

/// <summary>
/// Headers of a pax archive (POSIX.1-2017, pax, "ustar Interchange Format" and "pax Extended Header"). Names are those of an open parcel, so that a pack
/// and <c>data/</c> unpack to the same tree. No owner is named: what is unpacked belongs to whoever unpacks it.
/// </summary>
internal static class PaxHeader
{
    public const int Block = 512;

    /// <summary>What ends an archive: two blocks of zeros.</summary>
    public const int EndBytes = 2 * Block;

    private const int LongestName = 100;
    private const long LargestNumber = 0x1_FFFF_FFFF;

    /// <summary>Bytes up to the next whole block.</summary>
    public static int Padding(long bytes) => (int)((Block - (bytes % Block)) % Block);

    /// <summary>The header of a file, folder or link, with an extended one before it where its name, target or time needs that.</summary>
    public static byte[] Of(EntryKind kind, string name, long bytes, ushort mode, Stamp modified, string? target = null)
    {
        if (kind == EntryKind.Folder) name += "/";
        var records = new StringBuilder();
        if (!Fits(name)) Record("path", name);
        if (target is not null && !Fits(target)) Record("linkpath", target);
        if (modified.Nanos != 0 || modified.Seconds is < 0 or > LargestNumber) Record("mtime", (modified.Seconds < 0 && modified.Nanos != 0 ? modified.Seconds + (modified.Nanos / 1e9m) : modified.Seconds + (modified.Nanos / 1_000_000_000m)).ToString(CultureInfo.InvariantCulture));
        var type = kind switch { EntryKind.Folder => '5', EntryKind.Link => '2', _ => '0' };
        var plain = Ustar(name, type, bytes, mode, modified, target);
        if (records.Length == 0) return plain;
        var text = Encoding.UTF8.GetBytes(records.ToString());
        var extended = Ustar("yard/pax", 'x', text.Length, 0x1A4, default, null);
        return [.. extended, .. text, .. new byte[Padding(text.Length)], .. plain];

        // "LENGTH KEY=VALUE\n", where the length counts its own digits too.
        void Record(string key, string value)
        {
            var rest = Encoding.UTF8.GetByteCount(value) + key.Length + 3;
            var length = rest + $"{rest}".Length;
            if (rest + $"{length}".Length != length) length = rest + $"{length}".Length;
            records.Append(length).Append(' ').Append(key).Append('=').Append(value).Append('\n');
        }
    }

    private static bool Fits(string name) => name.Length <= LongestName && Ascii.IsValid(name);

    private static byte[] Ustar(string name, char type, long bytes, ushort mode, Stamp modified, string? target)
    {
        var block = new byte[Block];
        Text(0, Fits(name) ? name : Shortened(name));
        Octal(100, 8, mode);
        Octal(108, 8, 0);
        Octal(116, 8, 0);
        Octal(124, 12, bytes);
        Octal(136, 12, Math.Clamp(modified.Seconds, 0, LargestNumber));
        block.AsSpan(148, 8).Fill((byte)' ');
        block[156] = (byte)type;
        if (target is not null) Text(157, Fits(target) ? target : Shortened(target));
        Text(257, "ustar\0" + "00");
        Octal(329, 8, 0);
        Octal(337, 8, 0);
        long sum = 0;
        foreach (var one in block) sum += one;
        Octal(148, 7, sum);
        return block;

        void Text(int at, string text) => Encoding.ASCII.GetBytes(text, block.AsSpan(at));

        void Octal(int at, int width, long value) => Text(at, Convert.ToString(value, 8).PadLeft(width - 1, '0') + "\0");
    }

    // For a reader that knows no extended headers: something to recognise.
    private static string Shortened(string name)
    {
        var plain = new string([.. name.Select(c => char.IsAscii(c) ? c : '_')]);
        return plain[..Math.Min(LongestName, plain.Length)];
    }
}
