using System.Security.Cryptography;

namespace YardRelay.Carriage.Digests;

/// <summary>
/// The SHA-256 of a stream whose bytes come one piece after the other. Large streams on a processor without instructions for it sit at a <see cref="DigestTable"/>;
/// all others have the platform's own.
/// </summary>
internal sealed class StreamDigest : IDisposable
{
    // One piece tells nothing of what else comes, and has nobody to wait for.
    private const int LeastForSeat = 256 * 1024;

    private DigestSeat? _seat;
    private readonly IncrementalHash? _hash;

    private StreamDigest(DigestSeat? seat, IncrementalHash? hash) => (_seat, _hash) = (seat, hash);

    /// <summary>Files that are to go at once at least, so that their digests are as fast as they can be.</summary>
    public static int AtOnce => Sha256Blocks.IsWorthIt ? Sha256Blocks.Width : 1;

    /// <summary>The digest of a stream of about so many bytes.</summary>
    public static StreamDigest For(long bytes) => Sha256Blocks.IsWorthIt && bytes > LeastForSeat ? new(DigestTable.Sit(), null) : new(null, IncrementalHash.CreateHash(HashAlgorithmName.SHA256));

    /// <summary>Puts bytes behind those that came before.</summary>
    public void Append(ReadOnlySpan<byte> bytes)
    {
        _seat?.Append(bytes);
        _hash?.AppendData(bytes);
    }

    /// <summary>Lower-case hexadecimal digest of all that came; afterwards it is as new.</summary>
    public string Finish() => Convert.ToHexStringLower(_seat?.Finish() ?? _hash!.GetHashAndReset());

    /// <summary>Forgets what came.</summary>
    public void Restart()
    {
        _seat?.Restart();
        _hash?.GetHashAndReset();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        // A seat that was left belongs to another.
        Interlocked.Exchange(ref _seat, null)?.Dispose();
        _hash?.Dispose();
    }
}
