using System.Security.Cryptography;
using CsCheck;
using YardRelay.Carriage.Digests;

namespace YardRelay.Carriage.Tests.Digests;

/// <summary>
/// Digests side by side are those of the platform, whatever comes in which pieces, and nobody waits for a stream that stands still.
/// </summary>
public sealed class DigestTests
{
    private static readonly byte[] Bytes = Made(4 << 20);

    // What the platform says is the measure; a computer without wide registers never comes here.
    private static void NeedsWideRegisters() => Assert.SkipUnless(Sha256Blocks.IsSupported, "This processor has no wide registers.");

    private static byte[] Made(int bytes)
    {
        var made = new byte[bytes];
        new Random(1).NextBytes(made);
        return made;
    }

    [Fact]
    public void A_stream_by_itself_in_any_pieces()
    {
        NeedsWideRegisters();
        Gen.Select(Gen.Int[1, 700_000].Array[0, 6], Gen.Int[0, 130]).Sample((pieces, end) =>
        {
            using var seat = DigestTable.Sit();
            var at = 0;
            foreach (var piece in pieces.Append(end))
            {
                var some = Math.Min(piece, Bytes.Length - at);
                seat.Append(Bytes.AsSpan(at, some));
                at += some;
            }
            return seat.Finish().AsSpan().SequenceEqual(SHA256.HashData(Bytes.AsSpan(0, at)));
        }, iter: 200, threads: 1);
    }

    // Lengths about the ends of blocks, where the padding begins another, and any other.
    [Fact]
    public void Short_contents_side_by_side_in_one_buffer()
    {
        NeedsWideRegisters();
        Gen.OneOf(Gen.Int[0, 200], Gen.Int[0, 20_000]).Array[1, 40].Sample(lengths =>
        {
            var contents = new (int At, int Bytes)[lengths.Length];
            var room = 0;
            for (var i = 0; i < lengths.Length; room += SideBySide.Room(lengths[i++])) contents[i] = (room, lengths[i]);
            var buffer = Bytes[..room];
            var digests = new byte[contents.Length * SideBySide.DigestBytes];
            SideBySide.DigestTogether(buffer, contents, digests);
            return contents.Index().All(c =>
                digests.AsSpan(c.Index * SideBySide.DigestBytes, SideBySide.DigestBytes)
                    .SequenceEqual(SHA256.HashData(Bytes.AsSpan(c.Item.At, c.Item.Bytes))));
        }, iter: 300, threads: 1);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public async Task Many_streams_at_once_while_some_start_over_some_are_left_and_one_stands_still(int seed)
    {
        NeedsWideRegisters();
        using var stands = DigestTable.Sit();
        stands.Append(Bytes.AsSpan(0, 500_000));
        var all = Enumerable.Range(0, 19).Select(n => Task.Factory.StartNew(() =>
        {
            var random = new Random((seed * 100) + n);
            for (var turn = 0; turn < 12; turn++)
            {
                using var seat = DigestTable.Sit();
                var bytes = random.Next(random.Next(2) == 0 ? 100_000 : Bytes.Length);
                var leaves = random.Next(6) == 0 ? random.Next(bytes + 1) : int.MaxValue;
                var startsOver = random.Next(6) == 0 ? random.Next(bytes + 1) : int.MaxValue;
                for (var at = 0; at < bytes;)
                {
                    var some = Math.Min(random.Next(1, 300_000), bytes - at);
                    seat.Append(Bytes.AsSpan(at, some));
                    at += some;
                    if (at >= leaves) break;
                    if (at < startsOver) continue;
                    seat.Restart();
                    (at, startsOver) = (0, int.MaxValue);
                }
                if (leaves == int.MaxValue)
                    Convert.ToHexStringLower(seat.Finish()).ShouldBe(
                        Convert.ToHexStringLower(SHA256.HashData(Bytes.AsSpan(0, bytes))), $"stream {n}, turn {turn}, {bytes} bytes");
            }
        }, TestContext.Current.CancellationToken, TaskCreationOptions.LongRunning, TaskScheduler.Default));
        await Task.WhenAll(all).WaitAsync(TimeSpan.FromMinutes(1), TestContext.Current.CancellationToken);
        Convert.ToHexStringLower(stands.Finish()).ShouldBe(Convert.ToHexStringLower(SHA256.HashData(Bytes.AsSpan(0, 500_000))));
    }

    [Fact]
    public void A_length_in_bits_that_needs_more_than_four_bytes()
    {
        NeedsWideRegisters();
        using var seat = DigestTable.Sit();
        using var platform = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        for (var i = 0; i < 130; i++)
        {
            seat.Append(Bytes);
            platform.AppendData(Bytes);
        }
        seat.Finish().ShouldBe(platform.GetHashAndReset());
    }

    // Alone, among few and among many, around the first megabyte, after which it is decided who digests.
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(9)]
    public async Task A_digest_that_starts_over_is_the_platforms_whoever_makes_it(int streams)
    {
        var all = Enumerable.Range(0, streams).Select(n => Task.Factory.StartNew(() =>
        {
            var random = new Random(n);
            foreach (var bytes in new[] { 0, 1, (1 << 20) - 1, 1 << 20, (1 << 20) + 1, (3 << 20) + n })
                foreach (var expected in new[] { 0L, long.MaxValue })
                {
                    using var digest = StreamDigest.For(expected);
                    digest.Append(Bytes.AsSpan(0, random.Next(Bytes.Length)));
                    digest.Restart();
                    for (var turn = 0; turn < 2; turn++)
                    {
                        for (var at = 0; at < bytes;)
                        {
                            var some = Math.Min(random.Next(1, 400_000), bytes - at);
                            digest.Append(Bytes.AsSpan(at, some));
                            at += some;
                        }
                        digest.Finish().ShouldBe(
                            Convert.ToHexStringLower(SHA256.HashData(Bytes.AsSpan(0, bytes))), $"stream {n}, {bytes} bytes, turn {turn}");
                    }
                }
        }, TestContext.Current.CancellationToken, TaskCreationOptions.LongRunning, TaskScheduler.Default));
        await Task.WhenAll(all).WaitAsync(TimeSpan.FromMinutes(1), TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task A_stream_is_read_to_its_end_however_it_gives_its_bytes()
    {
        foreach (var bytes in new[] { 0, 1, 262_143, 262_144, 262_145, 262_146, 700_000 })
            foreach (var most in new[] { 1, 1_000, 262_144, int.MaxValue })
            {
                if (most == 1 && bytes > 1) continue;
                await using var stream = new StreamInSmallPieces(Bytes.AsMemory(0, bytes), most);
                (await Digest.OfAsync(stream, null, TestContext.Current.CancellationToken))
                    .ShouldBe(
                        (Convert.ToHexStringLower(SHA256.HashData(Bytes.AsSpan(0, bytes))), bytes),
                        $"{bytes} bytes, at most {most} at once");
            }
    }

    private sealed class StreamInSmallPieces(ReadOnlyMemory<byte> content, int most) : MemoryStream(content.ToArray())
    {
        public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default) =>
            base.ReadAsync(buffer[..Math.Min(most, buffer.Length)], cancellationToken);
    }
}
