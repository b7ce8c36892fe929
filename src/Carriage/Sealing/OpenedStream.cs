using System.Buffers.Binary;
using System.Security.Cryptography;

namespace YardRelay.Carriage.Sealing;

/// <summary>
/// The content of a sealed stream, read from its start; each piece is proven before any byte of it is given out, and its end must be its
/// end.
/// </summary>
internal sealed class OpenedStream : Stream
{
    private readonly Stream _sealed;
    private readonly PieceCipher _cipher;
    // One byte more than a piece: only then it is known whether another one follows.
    private readonly byte[] _in = new byte[SealingStream.Piece + SealingStream.Tag + 1];
    private readonly byte[] _out = new byte[SealingStream.Piece];
    private int _held, _at, _ready;
    private long _count, _done;
    private bool _over;

    private OpenedStream(Stream from, byte[] key) => (_sealed, _cipher) = (from, new(key));

    /// <summary>Opens with one of the keys; null, and the stream left at some place, where none fits.</summary>
    /// <exception cref="SealBrokenException">It was never sealed, or was changed.</exception>
    public static async Task<OpenedStream?> OpenAsync(
        Stream from, IReadOnlyList<AgeIdentity> identities, string? passphrase, CancellationToken cancel)
    {
        if (await AgeHeader.ReadAsync(from, identities, passphrase, cancel) is not { } fileKey) return null;
        var nonce = new byte[16];
        return await from.ReadAtLeastAsync(nonce, 16, false, cancel) == 16
            ? new(from, AgeHeader.PayloadKey(fileKey, nonce))
            : throw new SealBrokenException("it ends behind its header.");
    }

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => throw new NotSupportedException();

    public override long Position { get => _done; set => throw new NotSupportedException(); }

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    public override int Read(Span<byte> buffer)
    {
        if (_at == _ready)
        {
            if (_over) return 0;
            while (_held < _in.Length && _sealed.Read(_in.AsSpan(_held)) is > 0 and var got) _held += got;
            Decrypt();
        }
        return Give(buffer);
    }

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        if (_at == _ready)
        {
            if (_over) return 0;
            while (_held < _in.Length && await _sealed.ReadAsync(_in.AsMemory(_held), cancellationToken) is > 0 and var got) _held += got;
            Decrypt();
        }
        return Give(buffer.Span);
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    private void Decrypt()
    {
        _over = _held < _in.Length;
        var whole = Math.Min(_held, _in.Length - 1);
        _ready = _cipher.Decrypt(_count++, _over, _in.AsSpan(0, whole), _out);
        if (_over && _ready == 0 && _count > 1) throw new SealBrokenException("it has an empty piece at its end.");
        _at = 0;
        if (_over) return;
        (_in[0], _held) = (_in[^1], 1);
    }

    private int Give(Span<byte> buffer)
    {
        var take = Math.Min(buffer.Length, _ready - _at);
        _out.AsSpan(_at, take).CopyTo(buffer);
        _at += take;
        _done += take;
        return take;
    }

    public override void Flush()
    {
    }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        if (disposing)
        {
            _sealed.Dispose();
            _cipher.Dispose();
        }
        base.Dispose(disposing);
    }
}

/// <summary>Opens single pieces of sealed content.</summary>
internal sealed class PieceCipher(byte[] key) : IDisposable
{
    private readonly ChaCha20Poly1305 _cipher = new(key);
    private readonly byte[] _nonce = new byte[12];

    /// <summary>Decrypts one piece and says how long it is.</summary>
    public int Decrypt(long number, bool isLast, ReadOnlySpan<byte> piece, Span<byte> into)
    {
        if (piece.Length < SealingStream.Tag) throw new SealBrokenException("it is shorter than it was.");
        BinaryPrimitives.WriteInt64BigEndian(_nonce.AsSpan(3), number);
        _nonce[11] = isLast ? (byte)1 : (byte)0;
        var length = piece.Length - SealingStream.Tag;
        try
        {
            _cipher.Decrypt(_nonce, piece[..length], piece[length..], into[..length]);
        }
        catch (AuthenticationTagMismatchException)
        {
            throw new SealBrokenException("a piece of it was changed, or it is shorter than it was.");
        }
        return length;
    }

    public void Dispose() => _cipher.Dispose();
}
