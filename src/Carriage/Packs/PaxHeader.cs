using System.Globalization;
using System.Text;
using YardRelay.Carriage.Parcels;

namespace YardRelay.Carriage.Packs;

/// <summary>
/// Headers of a pax archive (POSIX.1-2017, pax, "ustar Interchange Format" and "pax Extended Header"). Names are those of an open parcel,
/// so that a pack
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

    /// <summary>
    /// Bytes of the header of a file, folder or link, with an extended one before it where its name, target or time needs that.
    /// </summary>
    public static int LengthOf(EntryKind kind, string name, Stamp modified, string? target = null) =>
        Records(kind, ref name, modified, target) is { Length: > 0 } records && Encoding.UTF8.GetByteCount(records) is var bytes
            ? Block + bytes + Padding(bytes) + Block
            : Block;

    /// <summary>Makes that header in a place of just its length.</summary>
    public static void Write(Span<byte> header, EntryKind kind, string name, long bytes, ushort mode, Stamp modified, string? target = null)
    {
        header.Clear();
        if (Records(kind, ref name, modified, target) is { Length: > 0 } records)
            Ustar(header, "yard/pax", 'x', Encoding.UTF8.GetBytes(records, header[Block..]), 0x1A4, default, null);
        Ustar(
            header[^Block..],
            name,
            kind switch { EntryKind.Folder => '5', EntryKind.Link => '2', _ => '0' },
            bytes,
            mode,
            modified,
            target);
    }

    // A folder's name gets its slash here, so that length and header are made from the same.
    private static string Records(EntryKind kind, ref string name, Stamp modified, string? target)
    {
        if (kind == EntryKind.Folder) name += "/";
        var records = "";
        if (!Fits(name)) Record("path", name);
        if (target is not null && !Fits(target)) Record("linkpath", target);
        if (modified.Nanos != 0 || modified.Seconds is < 0 or > LargestNumber)
            Record(
                "mtime",
                (modified.Seconds < 0 && modified.Nanos != 0
                    ? modified.Seconds + (modified.Nanos / 1e9m)
                    : modified.Seconds + (modified.Nanos / 1_000_000_000m))
                    .ToString(CultureInfo.InvariantCulture));
        return records;

        // "LENGTH KEY=VALUE\n", where the length counts its own digits too.
        void Record(string key, string value)
        {
            var rest = Encoding.UTF8.GetByteCount(value) + key.Length + 3;
            var length = rest + $"{rest}".Length;
            if (rest + $"{length}".Length != length) length = rest + $"{length}".Length;
            records += FormattableString.Invariant($"{length} {key}={value}\n");
        }
    }

    private static bool Fits(string name) => name.Length <= LongestName && Ascii.IsValid(name);

    private static void Ustar(Span<byte> block, string name, char type, long bytes, ushort mode, Stamp modified, string? target)
    {
        Text(block, Fits(name) ? name : Shortened(name));
        Octal(block.Slice(100, 8), mode);
        Octal(block.Slice(108, 8), 0);
        Octal(block.Slice(116, 8), 0);
        Octal(block.Slice(124, 12), bytes);
        Octal(block.Slice(136, 12), Math.Clamp(modified.Seconds, 0, LargestNumber));
        block.Slice(148, 8).Fill((byte)' ');
        block[156] = (byte)type;
        if (target is not null) Text(block[157..], Fits(target) ? target : Shortened(target));
        Text(block[257..], "ustar\0" + "00");
        Octal(block.Slice(329, 8), 0);
        Octal(block.Slice(337, 8), 0);
        long sum = 0;
        foreach (var one in block[..Block]) sum += one;
        Octal(block.Slice(148, 7), sum);
    }

    private static void Text(Span<byte> at, string text) => Encoding.ASCII.GetBytes(text, at);

    /// <summary>Digits that fill a field but for the zero at its end.</summary>
    private static void Octal(Span<byte> field, long value)
    {
        field[^1] = 0;
        for (var at = field.Length - 2; at >= 0; at--, value >>= 3) field[at] = (byte)('0' + (value & 7));
    }

    // For a reader that knows no extended headers: something to recognise.
    private static string Shortened(string name)
    {
        var plain = new string([.. name.Select(c => char.IsAscii(c) ? c : '_')]);
        return plain[..Math.Min(LongestName, plain.Length)];
    }
}
