using System.Text;
using CsCheck;
using YardRelay.Core.Photos;

namespace YardRelay.Core.Tests.Photos;

public sealed class PhotoTests
{
    private static readonly byte[] Secret = Encoding.ASCII.GetBytes("N 54 11.2 W 004 59.1");

    private static byte[] Segment(byte marker, params byte[] body) =>
        [0xFF, marker, (byte)((body.Length + 2) >> 8), (byte)(body.Length + 2), .. body];

    private static byte[] Frame(int width, int height) =>
        Segment(0xC0, 8, (byte)(height >> 8), (byte)height, (byte)(width >> 8), (byte)width, 1, 1, 0x11, 0);

    private static byte[] Exif(bool little, int up)
    {
        byte[] Short(int v) => little ? [(byte)v, (byte)(v >> 8)] : [(byte)(v >> 8), (byte)v];
        byte[] Long(int v) => little ? [.. Short(v & 0xFFFF), .. Short(v >> 16)] : [.. Short(v >> 16), .. Short(v & 0xFFFF)];
        return Segment(0xE1, [
            .. "Exif\0\0"u8, .. little ? "II"u8 : "MM"u8, .. Short(42), .. Long(8), .. Short(2), .. Short(0x8825), .. Short(4), .. Long(1),
            .. Long(60), .. Short(0x0112), .. Short(3), .. Long(1), .. Short(up), 0, 0, .. Long(0), .. Secret
        ]);
    }

    // Scanned data never holds a marker: 0xFF stands only before a stuffed 0 or a restart.
    private static readonly Gen<byte[]> Scan = Gen.Byte.Array[0, 60].Select(bytes =>
        bytes.SelectMany((b, i) => b != 0xFF ? [b] : i % 3 == 0 ? new byte[] { 0xFF, 0xD3 } : [0xFF, 0x00]).ToArray());

    private static readonly Gen<byte[]> Noise = Gen.OneOf(
        Gen.Const(Segment(0xFE, Secret)),
        Gen.Const(Segment(0xED, Secret)),
        Gen.Const(Segment(0xE1, [.. "http://ns.adobe.com/xap/1.0/\0"u8, .. Secret])),
        Gen.Const(Segment(0xE2, [.. "MPF\0"u8, .. Secret])));

    [Fact]
    public void Of_a_jpeg_only_the_picture_and_which_way_is_up_stay() =>
        Gen.Select(Noise.Array[0, 4], Gen.Bool, Gen.Int[1, 8], Gen.Int[1, 5000], Gen.Int[1, 5000], Scan, Scan)
            .Sample((noise, little, up, width, height, first, second) =>
        {
            byte[] profile = Segment(0xE2, [.. "ICC_PROFILE\0"u8, 1, 1, 7]), table = Segment(0xDB, new byte[65]);
            byte[] picture = [
                .. profile, .. table, .. Frame(width, height), .. Segment(0xDA, 1, 1, 0, 0, 63, 0), .. first,
                .. Segment(0xDA, 1, 1, 0, 0, 63, 0), .. second, 0xFF, 0xD9
            ];
            byte[] file = [0xFF, 0xD8, .. Exif(little, up), .. noise.SelectMany(n => n), .. picture, .. Secret];
            var photo = Photo.Read(file).Value;
            (photo.Kind, photo.Width, photo.Height).ShouldBe(("image/jpeg", width, height));
            var kept = photo.Content.ToArray();
            kept.AsSpan().IndexOf(Secret).ShouldBe(-1);
            kept.AsSpan().EndsWith(picture).ShouldBeTrue();
            // Read again it is the same: nothing is left to take out, and up is still up.
            Photo.Read(kept).Value.Content.ToArray().ShouldBe(kept);
            var exif = kept.AsSpan().IndexOf("Exif"u8);
            (exif < 0 ? 1 : kept[exif + 6 + 8 + 2 + 9]).ShouldBe((byte)up);
        }, iter: 300);

    private static byte[] Chunk(string name, params byte[] body) =>
        [0, 0, (byte)(body.Length >> 8), (byte)body.Length, .. Encoding.ASCII.GetBytes(name), .. body, 1, 2, 3, 4];

    [Fact]
    public void Of_a_png_and_a_webp_too()
    {
        byte[] mark = [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A], header = Chunk("IHDR", 0, 0, 0, 9, 0, 0, 0, 7, 8, 2, 0, 0, 0);
        byte[] png = [
            .. mark, .. header, .. Chunk("eXIf", Secret), .. Chunk("tEXt", Secret), .. Chunk("sRGB", 0), .. Chunk("IDAT", 5, 6),
            .. Chunk("IEND"), .. Secret
        ];
        var photo = Photo.Read(png).Value;
        (photo.Kind, photo.Width, photo.Height).ShouldBe(("image/png", 9, 7));
        photo.Content.ToArray().ShouldBe([.. mark, .. header, .. Chunk("sRGB", 0), .. Chunk("IDAT", 5, 6), .. Chunk("IEND")]);

        byte[] Riff(string name, params byte[] body) =>
            [.. Encoding.ASCII.GetBytes(name), (byte)body.Length, 0, 0, 0, .. body, .. body.Length % 2 == 1 ? new byte[] { 0 } : []];
        byte[] WebP(byte flags, params byte[] rest)
        {
            byte[] inside = [
                .. "WEBP"u8, .. Riff("VP8X", flags, 0, 0, 0, 8, 0, 0, 6, 0, 0), .. Riff("VP8L", 0x2F, 8, 0x80, 1, 0, 1, 2), .. rest
            ];
            return [.. "RIFF"u8, (byte)inside.Length, 0, 0, 0, .. inside];
        }
        var webp = Photo.Read(WebP(0x1C, [.. Riff("EXIF", Secret), .. Riff("XMP ", Secret)])).Value;
        (webp.Kind, webp.Width, webp.Height).ShouldBe(("image/webp", 9, 7));
        webp.Content.ToArray().ShouldBe(WebP(0x10));
    }

    [Fact]
    public void Nothing_that_is_sent_as_a_photo_breaks_the_reader() =>
        Gen.Select(Gen.Byte.Array[0, 80], Gen.Int[0, 3]).Sample((bytes, kind) =>
        {
            byte[] head = kind switch
            {
                0 => [0xFF, 0xD8, 0xFF],
                1 => [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A],
                2 => [.. "RIFF"u8, 90, 0, 0, 0, .. "WEBP"u8],
                _ => []
            };
            var read = Photo.Read([.. head, .. bytes]);
            if (read.IsOk) (read.Value.Width > 0 && read.Value.Content.Length <= head.Length + bytes.Length + 36).ShouldBeTrue();
        }, iter: 20_000);

    [Fact]
    public void What_is_no_photo_is_refused_in_words()
    {
        Photo.Read([]).Problem.Message.ShouldContain("0 bytes");
        Photo.Read(new byte[Photo.MostBytes + 1]).Problem.Code.ShouldBe("photo.large");
        Photo.Read("GIF89a"u8).Problem.Code.ShouldBe("photo.kind");
        Photo.Read([0xFF, 0xD8, .. Frame(65000, 65000), .. Segment(0xDA, 1, 1, 0, 0, 63, 0), 0xFF, 0xD9]).Problem.Code
            .ShouldBe("photo.size");
    }
}
