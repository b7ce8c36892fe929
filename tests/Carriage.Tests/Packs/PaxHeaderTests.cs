using System.Formats.Tar;
using CsCheck;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;

namespace YardRelay.Carriage.Tests.Packs;

/// <summary>Headers of archives, read by the framework's own reader.</summary>
public sealed class PaxHeaderTests
{
    private static readonly Gen<string> Part = Gen.String[Gen.Char["abcÄß字 ='\"\\-._0123"], 1, 70].Where(p => p is not ("." or ".."));

    private static byte[] Header(EntryKind kind, string name, long bytes, ushort mode, Stamp modified, string? target = null)
    {
        // What stood there before must not shine through.
        var header = new byte[PaxHeader.LengthOf(kind, name, modified, target)];
        Array.Fill(header, (byte)0xEE);
        PaxHeader.Write(header, kind, name, bytes, mode, modified, target);
        return header;
    }

    [Fact]
    public void Any_name_length_time_and_mode_is_read_as_it_was_written() =>
        Gen.Select(Part.Array[1, 5], Gen.Int[0, 3000], Gen.Int[0, 0xFFF], Gen.Long[-2_000_000_000, 9_000_000_000], Gen.UInt[0, 999_999_999])
            .Sample((parts, bytes, mode, seconds, nanos) =>
        {
            var (name, stamp) = (string.Join('/', parts), new Stamp(seconds, nanos));
            using var archive = new MemoryStream();
            archive.Write(Header(EntryKind.Folder, name + "-folder", 0, (ushort)mode, stamp));
            archive.Write(Header(EntryKind.Link, name + "-link", 0, (ushort)mode, stamp, name));
            archive.Write(Header(EntryKind.File, name, bytes, (ushort)mode, stamp));
            var content = Enumerable.Range(0, bytes).Select(i => (byte)i).ToArray();
            archive.Write(content);
            archive.Write(new byte[PaxHeader.Padding(bytes) + PaxHeader.EndBytes]);
            (archive.Length % PaxHeader.Block).ShouldBe(0);
            archive.Position = 0;
            using var tar = new TarReader(archive);
            var folder = tar.GetNextEntry()!;
            (folder.EntryType, folder.Name.TrimEnd('/')).ShouldBe((TarEntryType.Directory, name + "-folder"));
            var link = tar.GetNextEntry()!;
            (link.EntryType, link.Name, link.LinkName).ShouldBe((TarEntryType.SymbolicLink, name + "-link", name));
            var file = tar.GetNextEntry()!;
            (file.EntryType, file.Name, file.Length, (int)file.Mode).ShouldBe((TarEntryType.RegularFile, name, bytes, mode));
            // The framework keeps a tenth of a microsecond.
            (file.ModificationTime - DateTimeOffset.UnixEpoch.AddSeconds(seconds).AddTicks(nanos / 100)).Duration().Ticks
                .ShouldBeLessThanOrEqualTo(1);
            if (bytes > 0)
            {
                using var read = new MemoryStream();
                file.DataStream!.CopyTo(read);
                read.ToArray().ShouldBe(content);
            }
            tar.GetNextEntry().ShouldBeNull();
        }, iter: 300);
}
