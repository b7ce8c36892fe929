using System.Text;
using CsCheck;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Parcels;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Parcels;

public sealed class TagFileTests
{
    private sealed class Dribble(byte[] content, int seed) : MemoryStream(content)
    {
        private readonly Random _random = new(seed);

        public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default) =>
            base.ReadAsync(buffer[..Math.Min(buffer.Length, _random.Next(1, 40))], cancellationToken);
    }

    [Fact]
    public void Lines_are_the_same_whatever_pieces_they_come_in() =>
        Gen.Select(Gen.String["ab\n\r{}é"].Array[0, 30], Gen.Int[0, 1000]).Sample((parts, seed) =>
        {
            var text = string.Concat(parts);
            var lines = new List<string>();
            using var reader = new LineReader(new Dribble(Encoding.UTF8.GetBytes(text), seed));
            while (reader.NextAsync(CancellationToken.None).AsTask().GetAwaiter().GetResult() is { } line)
                lines.Add(Encoding.UTF8.GetString(line.Span));
            var wanted = text.Split('\n').ToList();
            if (wanted[^1].Length == 0) wanted.RemoveAt(wanted.Count - 1);
            // A line that is only ended by the end of the file keeps its carriage return: it is not an end of line.
            lines.ShouldBe(wanted.Select((l, i) => l.EndsWith('\r') && (i < wanted.Count - 1 || text.EndsWith('\n')) ? l[..^1] : l));
        }, iter: 300);

    private static Gen<Entry> AnyEntry =>
        from name in Gen.String["ab /=%üß\"\\日"].Array[1, 4]
        from kind in Gen.Enum<EntryKind>()
        from mode in Gen.UShort[0, 0xFFF]
        from seconds in Gen.Long[-9_000_000_000, 9_000_000_000]
        from nanos in Gen.UInt[0, 999_999_999]
        from bytes in Gen.Long[0, long.MaxValue]
        from target in Gen.Byte[1, 255].Array[1, 30]
        from odd in Gen.Bool
        select new Entry
        {
            Path = DepotPath.TryParse(string.Join('/', name.Select(n => n.Replace('/', '_') + "x"))) ?? DepotPath.Of("x"),
            Raw = odd ? [0xE9, .. target.Where(b => b != (byte)'/')] : null,
            Kind = kind,
            Mode = mode,
            Modified = new(seconds, nanos),
            Changed = odd ? new(nanos, nanos) : null,
            Inode = nanos,
            Bytes = kind == EntryKind.File ? bytes : 0,
            Sha256 = kind == EntryKind.File ? new string((char)('a' + (nanos % 6)), 64) : null,
            Target = kind == EntryKind.Link ? target : null,
            SameAs = odd ? "first" : null,
            Attributes = odd ? new(StringComparer.Ordinal) { ["user.a"] = target, ["user.ö"] = [] } : null,
            Data = odd && kind == EntryKind.File && bytes > 10 ? [(0, 4), (8, 2)] : null,
            GoneSince = nanos % 3 == 0 ? 7 : null,
        };

    [Fact]
    public void Any_entry_is_read_as_it_was_written_and_a_line_that_is_cut_short_is_none() =>
        AnyEntry.Sample(entry =>
        {
            var line = new System.Buffers.ArrayBufferWriter<byte>();
            entry.Write(line);
            var text = line.WrittenSpan[..^1].ToArray();
            var read = Entry.TryParse(text);
            read.ShouldNotBeNull(Encoding.UTF8.GetString(text));
            var again = new System.Buffers.ArrayBufferWriter<byte>();
            read.Write(again);
            again.WrittenSpan.ToArray().ShouldBe(line.WrittenSpan.ToArray());
            (read.Path, read.Kind, read.Mode, read.Modified, read.Changed, read.Bytes, read.GoneSince).ShouldBe((
                entry.Path, entry.Kind, entry.Mode, entry.Modified, entry.Changed, entry.Bytes, entry.GoneSince));
            for (var cut = 1; cut < text.Length; cut += 7) Entry.TryParse(text.AsSpan(0, cut)).ShouldBeNull();
        }, iter: 400);

    [Fact]
    public async Task Entries_read_ahead_are_those_read_one_by_one_also_when_the_reader_stops_early()
    {
        var cancel = TestContext.Current.CancellationToken;
        using var folder = new TempFolder();
        using var depot = new FolderDepot(TreeRoot.Here(folder.At));
        var text = new StringBuilder();
        for (var i = 0; i < 3000; i++)
            text.Append(i % 700 == 3
                ? "{ damaged\n"
                : $$"""{"path":"d/{{i:00000}}","kind":"folder","mode":"0755","modified":"1.000000000"}""" + "\n");
        File.WriteAllText(folder["entries"], text.ToString());
        var paths = new ParcelPaths(DepotPath.Root);
        var (one, other) = (new List<string>(), new List<string>());
        var damaged = 0;
        using (var reader = await EntryReader.OpenAsync(depot, paths, "entries", _ => damaged++, TestContext.Current.CancellationToken))
            for (; reader.Current is { } entry; await reader.NextAsync(TestContext.Current.CancellationToken)) one.Add(entry.Key);
        await using (var ahead = await EntriesAhead.OpenAsync(depot, paths, "entries", ThreadWork.Here, cancel))
            for (; ahead.Current is { } entry; await ahead.NextAsync()) other.Add(entry.Key);
        (one.Count, damaged).ShouldBe((2995, 5));
        other.ShouldBe(one);
        await using (var left = await EntriesAhead.OpenAsync(depot, paths, "entries", ThreadWork.Here, cancel))
            left.Current!.Key.ShouldBe("d/00000/");
        await using var none = await EntriesAhead.OpenAsync(depot, paths, "nothing", ThreadWork.Here, cancel);
        none.Current.ShouldBeNull();
    }

    [Fact]
    public void A_name_made_shorter_for_an_ending_fits_with_it_and_stays_whole_text() =>
        Gen.Select(Gen.String["aöß日"], Gen.Int[1, 40]).Sample((name, ending) =>
        {
            var text = string.Concat(Enumerable.Repeat(name + "x𝔘", 80));
            var cut = NameRule.Shorten(text, ending);
            (Encoding.UTF8.GetByteCount(cut) + ending).ShouldBeLessThanOrEqualTo(255);
            text.ShouldStartWith(cut);
            new UTF8Encoding(false, true).GetBytes(cut).Length.ShouldBeGreaterThan(255 - ending - 5);
        });
}
