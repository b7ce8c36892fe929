using System.Buffers;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// The content of a small file, read once and kept until the depot gave it back: each try sends the very bytes that were hashed,
/// and what comes back is compared with them, which is the faster way to the same as a digest.
/// </summary>
internal sealed class AtHand
{
    /// <summary>Largest file that is kept; so many for each lane.</summary>
    public const int Most = 256 * 1024;

    private readonly byte[] _buffer;
    private readonly int _bytes;

    private AtHand(int bytes) => (_buffer, _bytes) = (ArrayPool<byte>.Shared.Rent(bytes), bytes);

    /// <summary>Reads all of a stream that says its length.</summary>
    public static async Task<AtHand> ReadAsync(Stream stream, CancellationToken cancel)
    {
        var kept = new AtHand((int)stream.Length);
        await stream.ReadExactlyAsync(kept._buffer.AsMemory(0, kept._bytes), cancel);
        return kept;
    }

    /// <summary>Opens it from its start.</summary>
    public Stream Open() => new MemoryStream(_buffer, 0, _bytes, writable: false);

    /// <summary>Whether a stream has this content to the byte, and nothing behind it.</summary>
    public ValueTask<bool> IsSameAsync(Stream stream, CancellationToken cancel) =>
        IsSameAsync(_buffer.AsMemory(0, _bytes), stream, cancel);

    /// <summary>Whether a stream has some content to the byte, and nothing behind it.</summary>
    public static async ValueTask<bool> IsSameAsync(ReadOnlyMemory<byte> content, Stream stream, CancellationToken cancel)
    {
        var most = content.Length + 1;
        var back = ArrayPool<byte>.Shared.Rent(most);
        var got = await stream.ReadAtLeastAsync(back.AsMemory(0, most), most, throwOnEndOfStream: false, cancel);
        var same = content.Span.SequenceEqual(back.AsSpan(0, got));
        ArrayPool<byte>.Shared.Return(back);
        return same;
    }

    /// <summary>
    /// Its memory goes to others. Only after a save that went well: of one that broke off a connection may still be sending.
    /// </summary>
    public void LetGo() => ArrayPool<byte>.Shared.Return(_buffer);
}
