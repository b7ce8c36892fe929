using System.Buffers.Binary;

namespace YardRelay.Core.Photos;

/// <summary>
/// A photo with nothing in it but the picture: no place, no camera, no comments, nothing behind its end. Which way is up is kept.
/// Read from the outside only (JPEG: ITU-T T.81; PNG: ISO/IEC 15948; WebP: RFC 9649): the picture itself is never unpacked here.
/// </summary>
/// <param name="Kind">image/jpeg, image/png or image/webp.</param>
/// <param name="Width">Pixels, as stored.</param>
/// <param name="Height">Pixels, as stored.</param>
/// <param name="Content">The file.</param>
public sealed record Photo(string Kind, int Width, int Height, ReadOnlyMemory<byte> Content)
{
    /// <summary>Bytes of a photo at most, as it is sent.</summary>
    public const int MostBytes = 12 * 1024 * 1024;

    private const int MostPixels = 100_000_000;

    /// <summary>Reads a photo and leaves out what is no picture.</summary>
    public static Result<Photo> Read(ReadOnlySpan<byte> file)
    {
        if (file.IsEmpty) return new PhotoEmptyProblem();
        if (file.Length > MostBytes) return TooLarge(file.Length);
        var read = file.StartsWith(JpegMark)
            ? Jpeg(file)
            : file.StartsWith(PngMark)
            ? Png(file)
            : file.Length > 12 && file[..4].SequenceEqual("RIFF"u8) && file[8..12].SequenceEqual("WEBP"u8)
            ? WebP(file)
            : null;
        if (read is null)
            return new PhotoKindProblem();
        return read.Width < 1 || read.Height < 1 || (long)read.Width * read.Height > MostPixels
            ? new PhotoSizeProblem(read.Width, read.Height, MostPixels)
            : read;
    }

    /// <summary>Why a photo of so many bytes is refused.</summary>
    public static Problem TooLarge(long bytes) =>
        new PhotoLargeProblem(bytes / 1_000_000.0, MostBytes / 1024 / 1024);

    private static ReadOnlySpan<byte> JpegMark => [0xFF, 0xD8, 0xFF];

    private static ReadOnlySpan<byte> PngMark => [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A];

    /// <summary>Marker segments up to the end of the picture; of the application's own only those that colours need.</summary>
    private static Photo? Jpeg(ReadOnlySpan<byte> file)
    {
        var kept = new List<byte>(file.Length) { 0xFF, 0xD8 };
        var (width, height, up) = (0, 0, 1);
        for (var at = 2; at + 4 <= file.Length;)
        {
            if (file[at] != 0xFF) return null;
            var marker = file[at + 1];
            if (marker == 0xFF)
            {
                at++;
                continue;
            }
            if (marker == 0xD9) break;
            var length = BinaryPrimitives.ReadUInt16BigEndian(file[(at + 2)..]);
            if (length < 2 || at + 2 + length > file.Length) return null;
            var body = file.Slice(at + 4, length - 2);
            if (marker is >= 0xC0 and <= 0xCF and not (0xC4 or 0xC8 or 0xCC))
            {
                if (body.Length < 6) return null;
                (height, width) = (BinaryPrimitives.ReadUInt16BigEndian(body[1..]), BinaryPrimitives.ReadUInt16BigEndian(body[3..]));
            }
            if (marker == 0xE1 && body.StartsWith("Exif\0\0"u8)) up = UpOf(body[6..]) ?? up;
            // APP0 (JFIF), APP2 with a colour profile, APP14 (how colours are turned); all tables and frames.
            var isPicture = marker is (< 0xE0 or 0xE0 or 0xEE) || (marker == 0xE2 && body.StartsWith("ICC_PROFILE\0"u8));
            if (isPicture && marker != 0xFE) kept.AddRange(file.Slice(at, length + 2));
            at += length + 2;
            if (marker != 0xDA) continue;
            // What is scanned goes on to the next marker that is neither a stuffed 0 nor a restart.
            var end = at;
            while (end + 1 < file.Length && !(file[end] == 0xFF && file[end + 1] is not (0x00 or 0xFF or (>= 0xD0 and <= 0xD7)))) end++;
            if (end + 1 >= file.Length) return null;
            kept.AddRange(file[at..end]);
            at = end;
            if (file[end + 1] != 0xD9) continue;
            kept.AddRange([0xFF, 0xD9]);
            if (width == 0) return null;
            if (up is >= 2 and <= 8) kept.InsertRange(2, OrientationOnly(up));
            return new("image/jpeg", width, height, kept.ToArray());
        }
        return null;
    }

    /// <summary>Tag 0x0112 of the first directory of an Exif block (TIFF 6.0); null: it says nothing.</summary>
    private static int? UpOf(ReadOnlySpan<byte> tiff)
    {
        if (tiff.Length < 14) return null;
        var little = tiff[0] == (byte)'I';
        int Short(ReadOnlySpan<byte> t, int at) =>
            little ? BinaryPrimitives.ReadUInt16LittleEndian(t[at..]) : BinaryPrimitives.ReadUInt16BigEndian(t[at..]);
        var first = little ? BinaryPrimitives.ReadUInt32LittleEndian(tiff[4..]) : BinaryPrimitives.ReadUInt32BigEndian(tiff[4..]);
        if (first < 8 || first + 2 > tiff.Length) return null;
        var count = Short(tiff, (int)first);
        for (var i = 0; i < count; i++)
        {
            var entry = (int)first + 2 + (i * 12);
            if (entry + 12 > tiff.Length) return null;
            if (Short(tiff, entry) == 0x0112) return Short(tiff, entry + 8);
        }
        return null;
    }

    /// <summary>An Exif segment with the orientation and nothing else.</summary>
    private static byte[] OrientationOnly(int up) =>
        [
            0xFF, 0xE1, 0, 34, .. "Exif\0\0"u8, (byte)'M', (byte)'M', 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, (byte)up, 0,
            0, 0, 0, 0, 0
        ];

    private static Photo? Png(ReadOnlySpan<byte> file)
    {
        var kept = new List<byte>(file.Length);
        kept.AddRange(PngMark);
        var (width, height) = (0, 0);
        for (var at = 8; at + 12 <= file.Length;)
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(file[at..]);
            if (length > int.MaxValue || at + 12 + length > file.Length) return null;
            var name = file.Slice(at + 4, 4);
            if (at == 8)
            {
                if (!name.SequenceEqual("IHDR"u8) || length != 13) return null;
                var (w, h) = (
                    BinaryPrimitives.ReadUInt32BigEndian(file[(at + 8)..]), BinaryPrimitives.ReadUInt32BigEndian(file[(at + 12)..]));
                (width, height) = ((int)Math.Min(int.MaxValue, w), (int)Math.Min(int.MaxValue, h));
            }
            // Needed chunks begin with a capital; of the others those that colours and transparency need.
            var text = System.Text.Encoding.ASCII.GetString(name);
            if (char.IsAsciiLetterUpper(text[0]) || text is "tRNS" or "gAMA" or "cHRM" or "sRGB" or "iCCP" or "sBIT" or "pHYs")
                kept.AddRange(file.Slice(at, 12 + (int)length));
            at += 12 + (int)length;
            if (text == "IEND") return new("image/png", width, height, kept.ToArray());
        }
        return null;
    }

    private static Photo? WebP(ReadOnlySpan<byte> file)
    {
        var end = (long)BinaryPrimitives.ReadUInt32LittleEndian(file[4..]) + 8;
        if (end > file.Length) return null;
        var kept = new List<byte>(file.Length);
        kept.AddRange(file[..12]);
        var (width, height) = (0, 0);
        for (var at = 12; at + 8 <= end;)
        {
            var length = BinaryPrimitives.ReadUInt32LittleEndian(file[(at + 4)..]);
            var padded = length + (length & 1);
            if (at + 8 + (long)padded > end) return null;
            var name = System.Text.Encoding.ASCII.GetString(file.Slice(at, 4));
            var body = file.Slice(at + 8, (int)length);
            if (name is "VP8X" && length >= 10)
                (width, height) = (1 + (body[4] | (body[5] << 8) | (body[6] << 16)), 1 + (body[7] | (body[8] << 8) | (body[9] << 16)));
            if (name is "VP8 " && width == 0 && length >= 10)
                (width, height) = (
                    BinaryPrimitives.ReadUInt16LittleEndian(body[6..]) & 0x3FFF,
                    BinaryPrimitives.ReadUInt16LittleEndian(body[8..]) & 0x3FFF);
            if (name is "VP8L" && width == 0 && length >= 5 && BinaryPrimitives.ReadUInt32LittleEndian(body[1..]) is var bits)
                (width, height) = ((int)(bits & 0x3FFF) + 1, (int)((bits >> 14) & 0x3FFF) + 1);
            if (name is "VP8X" or "VP8 " or "VP8L" or "ALPH" or "ANIM" or "ANMF" or "ICCP")
            {
                var from = kept.Count;
                kept.AddRange(file.Slice(at, 8 + (int)padded));
                // The header names what is in the file: no Exif (bit 3) and no XMP (bit 2) any more.
                if (name == "VP8X" && length >= 1) kept[from + 8] &= unchecked((byte)~0x0C);
            }
            at += 8 + (int)padded;
        }
        if (width == 0) return null;
        var content = kept.ToArray();
        BinaryPrimitives.WriteUInt32LittleEndian(content.AsSpan(4), (uint)content.Length - 8);
        return new("image/webp", width, height, content);
    }
}
