using System.Buffers;
using System.Security.Cryptography;

namespace YardRelay.Carriage.Trips;

/// <summary>The SHA-256 of a stream.</summary>
internal static class Digest
{
    /// <summary>Lower-case hexadecimal digest and length of all that is left in a stream, read in pieces of 256 KiB.</summary>
    public static async ValueTask<(string Sha256, long Bytes)> OfAsync(Stream stream, Odometer? progress, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var buffer = ArrayPool<byte>.Shared.Rent(256 * 1024);
        try
        {
            long bytes = 0;
            while (await stream.ReadAsync(buffer, cancel) is > 0 and var got)
            {
                hash.AppendData(buffer, 0, got);
                bytes += got;
                progress?.Moved(got);
            }
            return (Convert.ToHexStringLower(hash.GetHashAndReset()), bytes);
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }
}
