using System.Buffers.Binary;
using System.Security.Cryptography;

namespace YardRelay.Carriage.Digests;

/// <summary>
/// The SHA-256 of several short contents that are all there: where the processor has wide registers and no instructions for it, eight at
/// a time, and the next one goes on where one has ended.
/// </summary>
internal static unsafe class SideBySide
{
    /// <summary>Bytes of a digest.</summary>
    public const int DigestBytes = Sha256Blocks.StateWords * sizeof(uint);

    // Fewer are faster each by itself.
    private const int LeastTogether = 3;

    /// <summary>Room that a content takes with what the digest puts behind it (FIPS 180-4, section 5.1.1), in bytes.</summary>
    public static int Room(int bytes) => (bytes + sizeof(ulong) + Sha256Blocks.Bytes) / Sha256Blocks.Bytes * Sha256Blocks.Bytes;

    /// <summary>Digests contents that lie in one buffer. What lies behind each, up to its <see cref="Room"/>, is written over.</summary>
    /// <param name="buffer">Where they lie.</param>
    /// <param name="contents">Where each begins, and its bytes; they do not overlap, their rooms included.</param>
    /// <param name="digests"><see cref="DigestBytes"/> for each, in the same order.</param>
    public static void Digest(byte[] buffer, ReadOnlySpan<(int At, int Bytes)> contents, Span<byte> digests)
    {
        if (!Sha256Blocks.IsWorthIt || contents.Length < LeastTogether)
            for (var i = 0; i < contents.Length; i++)
                SHA256.HashData(buffer.AsSpan(contents[i].At, contents[i].Bytes), digests[(i * DigestBytes)..]);
        else DigestTogether(buffer, contents, digests);
    }

    /// <summary>As <see cref="Digest"/>, on any processor that can.</summary>
    public static void DigestTogether(byte[] buffer, ReadOnlySpan<(int At, int Bytes)> contents, Span<byte> digests)
    {
        foreach (var (at, bytes) in contents) Pad(buffer.AsSpan(at, Room(bytes)), bytes);
        var states = stackalloc uint[Sha256Blocks.StateWords * Sha256Blocks.Width];
        var from = stackalloc byte*[Sha256Blocks.Width];
        var who = stackalloc int[Sha256Blocks.Width];
        var blocks = stackalloc int[Sha256Blocks.Width];
        new Span<int>(blocks, Sha256Blocks.Width).Clear();
        fixed (byte* first = buffer)
            for (var next = 0; ;)
            {
                var least = int.MaxValue;
                byte* one = null;
                for (var lane = 0; lane < Sha256Blocks.Width; lane++)
                {
                    if (blocks[lane] == 0 && next < contents.Length)
                    {
                        var (at, bytes) = contents[next];
                        (who[lane], blocks[lane]) = (next++, Room(bytes) / Sha256Blocks.Bytes);
                        from[lane] = first + at;
                        Begin(states, lane);
                    }
                    if (blocks[lane] == 0) continue;
                    least = Math.Min(least, blocks[lane]);
                    one = from[lane];
                }
                if (one == null) return;
                // A lane for which nothing is left goes along with another one, and nobody asks it.
                for (var lane = 0; lane < Sha256Blocks.Width; lane++)
                    if (blocks[lane] == 0) from[lane] = one;
                Sha256Blocks.Together(states, from, least);
                for (var lane = 0; lane < Sha256Blocks.Width; lane++)
                {
                    if (blocks[lane] == 0) continue;
                    from[lane] += least * Sha256Blocks.Bytes;
                    if ((blocks[lane] -= least) == 0) Tell(states, lane, digests[(who[lane] * DigestBytes)..]);
                }
            }
    }

    private static void Begin(uint* states, int lane)
    {
        for (var word = 0; word < Sha256Blocks.StateWords; word++)
            states[(word * Sha256Blocks.Width) + lane] = Sha256Blocks.Start[word];
    }

    private static void Pad(Span<byte> room, int bytes)
    {
        room[bytes] = 0x80;
        room[(bytes + 1)..].Clear();
        BinaryPrimitives.WriteUInt64BigEndian(room[^sizeof(ulong)..], (ulong)bytes * 8);
    }

    private static void Tell(uint* states, int lane, Span<byte> digest)
    {
        for (var word = 0; word < Sha256Blocks.StateWords; word++)
            BinaryPrimitives.WriteUInt32BigEndian(digest[(word * sizeof(uint))..], states[(word * Sha256Blocks.Width) + lane]);
    }
}
