using System.Buffers;
using System.Security.Cryptography;

#pragma warning disable RS0030 // A digest is the processor's work alone: a thread waits here for another, never for a clock or a file.

namespace YardRelay.Carriage.Digests;

/// <summary>
/// The SHA-256 of a stream whose bytes come one piece after the other. Large streams that come side by side, on a processor without
/// instructions for it, sit at a <see cref="DigestTable"/>;
/// all others have the platform's own. Which it is to be is decided once its first megabyte is there, and others had time to begin;
/// afterwards there is no way back.
/// </summary>
internal sealed class StreamDigest : IDisposable
{
    private const int First = 1 << 20;

    // What is no longer is kept until its end: one call then digests it, and no state of the platform's has to be made for it.
    private const int Small = 64 * 1024;

    // With fewer others each is faster by itself.
    private const int LeastOthers = 2;

    private static readonly TimeSpan TimeToBegin = TimeSpan.FromMilliseconds(4);

    private static int _begun;

    private byte[]? _first;
    private readonly bool _isSmall;
    private int _came;
    private DigestSeat? _seat;
    private IncrementalHash? _hash;

    private StreamDigest(byte[]? first, IncrementalHash? hash, bool isSmall = false) => (_first, _hash, _isSmall) = (first, hash, isSmall);

    /// <summary>Files that are to go at once at least, so that their digests are as fast as they can be.</summary>
    public static int AtOnce => Sha256Blocks.IsWorthIt ? Sha256Blocks.Width : 1;

    /// <summary>The digest of a stream of about so many bytes.</summary>
    public static StreamDigest For(long bytes)
    {
        if (bytes <= Small) return new(ArrayPool<byte>.Shared.Rent((int)bytes), null, isSmall: true);
        if (!Sha256Blocks.IsWorthIt || bytes <= First) return new(null, Platform());
        Interlocked.Increment(ref _begun);
        return new(ArrayPool<byte>.Shared.Rent(First), null);
    }

    /// <summary>Puts bytes behind those that came before.</summary>
    public void Append(ReadOnlySpan<byte> bytes)
    {
        if (_first is { } first)
        {
            if (_came + bytes.Length <= (_isSmall ? first.Length : First))
            {
                bytes.CopyTo(first.AsSpan(_came));
                _came += bytes.Length;
                return;
            }
            Decide(first);
        }
        _seat?.Append(bytes);
        _hash?.AppendData(bytes);
    }

    private void Decide(byte[] first)
    {
        // The first ones keep all processors busy: who is to come beside them has not even begun.
        if (!_isSmall && !HasOthers) Thread.Sleep(TimeToBegin);
        if (!_isSmall && HasOthers) _seat = DigestTable.Sit();
        else _hash = Platform();
        LetGo();
        _seat?.Append(first.AsSpan(0, _came));
        _hash?.AppendData(first.AsSpan(0, _came));
        ArrayPool<byte>.Shared.Return(first);
    }

    // Itself is still counted as begun.
    private static bool HasOthers => Volatile.Read(ref _begun) - 1 + DigestTable.Seated >= LeastOthers;

    private void LetGo()
    {
        _first = null;
        if (!_isSmall) Interlocked.Decrement(ref _begun);
    }

    private static IncrementalHash Platform() => IncrementalHash.CreateHash(HashAlgorithmName.SHA256);

    /// <summary>Lower-case hexadecimal digest of all that came; afterwards it is as new.</summary>
    public string Finish()
    {
        var digest = _first is { } first ? SHA256.HashData(first.AsSpan(0, _came)) : _seat?.Finish() ?? _hash!.GetHashAndReset();
        _came = 0;
        return Convert.ToHexStringLower(digest);
    }

    /// <summary>Forgets what came.</summary>
    public void Restart()
    {
        _came = 0;
        _seat?.Restart();
        _hash?.GetHashAndReset();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        if (_first is { } first)
        {
            LetGo();
            ArrayPool<byte>.Shared.Return(first);
        }
        // A seat that was left belongs to another.
        Interlocked.Exchange(ref _seat, null)?.Dispose();
        _hash?.Dispose();
    }
}
