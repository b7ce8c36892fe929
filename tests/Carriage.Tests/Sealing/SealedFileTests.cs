using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Sealing;

/// <summary>
/// A sealed file that many read at once: each gets what was sealed, and of a piece that was changed nobody gets anything.
/// </summary>
public sealed class SealedFileTests
{
    private const int Pieces = 64;

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public async Task Many_readers_at_once_get_what_was_sealed_and_nothing_of_a_changed_piece(int seed)
    {
        using var folder = new TempFolder();
        var random = new Random(seed);
        // More than are kept open, so that pieces make way for others while they are read.
        var (plain, key) = (new byte[(Pieces * SealingStream.Piece) - random.Next(1, 1000)], AgeIdentity.Create());
        random.NextBytes(plain);
        using (var sealing = SealingStream.To([key.Recipient], new MemoryStream(plain), plain.Length))
        await using (var to = File.Create(folder["pack"])) await sealing.CopyToAsync(to, TestContext.Current.CancellationToken);
        var changed = random.Next(Pieces);
        await using (var file = File.Open(folder["pack"], FileMode.Open))
        {
            // Sealed pieces end the file; each is its content and a tag of 16 bytes.
            file.Position = file.Length - plain.Length - (Pieces * 16) + (changed * (SealingStream.Piece + 16)) + random.Next(1000);
            var old = file.ReadByte();
            file.Position--;
            file.WriteByte((byte)(old ^ 1));
        }
        using var pack = (await SealedFile.OpenAsync(Given.Passing(folder["pack"]), [key], TestContext.Current.CancellationToken))!;
        var refused = 0;
        var readers = Enumerable.Range(0, 8).Select(n => Task.Run(() =>
        {
            var mine = new Random((seed * 100) + n);
            for (var i = 0; i < 400; i++)
            {
                // Most go forward side by side, as in a restore; some jump.
                var at = mine.Next(4) == 0 ? mine.Next(plain.Length) : (int)((long)plain.Length * i / 400);
                var into = new byte[mine.Next(1, 30_000)];
                try
                {
                    var got = pack.Read(at, into);
                    got.ShouldBeGreaterThan(0);
                    into.AsSpan(0, got).SequenceEqual(plain.AsSpan(at, got)).ShouldBeTrue($"seed {seed}, reader {n}, {got} bytes at {at}");
                    (at / SealingStream.Piece).ShouldNotBe(changed);
                }
                catch (SealBrokenException)
                {
                    (at / SealingStream.Piece).ShouldBe(changed);
                    Interlocked.Increment(ref refused);
                }
            }
        }, TestContext.Current.CancellationToken));
        await Task.WhenAll(readers);
        refused.ShouldBeGreaterThan(0);
    }
}
