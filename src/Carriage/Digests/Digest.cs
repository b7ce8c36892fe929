using System.Buffers;
using System.Security.Cryptography;
using YardRelay.Carriage.Pace;

namespace YardRelay.Carriage.Digests;

/// <summary>The SHA-256 of a stream.</summary>
internal static class Digest
{
    private const int Piece = 256 * 1024;

    /// <summary>Lower-case hexadecimal digest and length of all that is left in a stream, read in pieces of 256 KiB.</summary>
    public static async ValueTask<(string Sha256, long Bytes)> OfAsync(Stream stream, Odometer? progress, CancellationToken cancel)
    {
        var buffer = ArrayPool<byte>.Shared.Rent(Piece);
        try
        {
            var first = await stream.ReadAtLeastAsync(buffer.AsMemory(0, Piece), Piece, throwOnEndOfStream: false, cancel);
            progress?.Moved(first);
            if (first < Piece) return (Convert.ToHexStringLower(SHA256.HashData(buffer.AsSpan(0, first))), first);
            using var digest = StreamDigest.For(long.MaxValue);
            digest.Append(buffer.AsSpan(0, first));
            long bytes = first;
            while (await stream.ReadAsync(buffer.AsMemory(0, Piece), cancel) is > 0 and var got)
            {
                digest.Append(buffer.AsSpan(0, got));
                bytes += got;
                progress?.Moved(got);
            }
            return (digest.Finish(), bytes);
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }
}
