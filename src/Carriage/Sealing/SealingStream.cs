using System.Buffers.Binary;
using System.Security.Cryptography;

namespace YardRelay.Carriage.Sealing;

/// <summary>
/// Content of a stated length, sealed while it is read: a header, then pieces of 64 KiB by ChaCha20-Poly1305 (RFC 8439), as the age v1
/// format says. Each opening has a file key of its own.
/// </summary>
internal sealed class SealingStream : ReadOnlyStream
{
    public const int Piece = 64 * 1024;
    public const int Tag = 16;

    private readonly Stream _plain;
    private readonly byte[] _head;
    private readonly ChaCha20Poly1305 _cipher;
    private readonly long _plainBytes;
    private readonly byte[] _in = new byte[Piece];
    private readonly byte[] _out = new byte[Piece + Tag];
    private readonly byte[] _nonce = new byte[12];
    private int _at, _ready;
    private long _taken;
    private ulong _count;
    private bool _headGiven, _over;

    private SealingStream(Stream plain, long plainBytes, byte[] header, byte[] fileKey)
    {
        var nonce = RandomNumberGenerator.GetBytes(16);
        (_plain, _plainBytes, _head) = (plain, plainBytes, [.. header, .. nonce]);
        _cipher = new(AgeHeader.PayloadKey(fileKey, nonce));
    }

    /// <summary>Seals to keys. Closes <paramref name="plain"/> with itself.</summary>
    public static SealingStream To(IReadOnlyList<AgeRecipient> recipients, Stream plain, long plainBytes)
    {
        var fileKey = RandomNumberGenerator.GetBytes(16);
        return new(plain, plainBytes, AgeHeader.Write(fileKey, recipients), fileKey);
    }

    /// <summary>Seals to a passphrase.</summary>
    public static SealingStream To(string passphrase, int work, Stream plain, long plainBytes)
    {
        var fileKey = RandomNumberGenerator.GetBytes(16);
        return new(plain, plainBytes, AgeHeader.Write(fileKey, passphrase, work), fileKey);
    }

    /// <summary>Bytes that content of so many bytes has once it is sealed to so many keys.</summary>
    public static long LengthOf(long plainBytes, int recipients) =>
        AgeHeader.LengthFor(recipients) + 16 + plainBytes + (Tag * Math.Max(1, (plainBytes + Piece - 1) / Piece));

    public override long Length => _head.Length + _plainBytes + (Tag * Math.Max(1, (_plainBytes + Piece - 1) / Piece));

    public override int Read(Span<byte> buffer)
    {
        if (_at == _ready && !Refill()) return 0;
        var from = _headGiven ? _out : _head;
        var take = Math.Min(buffer.Length, _ready - _at);
        from.AsSpan(_at, take).CopyTo(buffer);
        _at += take;
        Went(take);
        return take;
    }

    private bool Refill()
    {
        if (_ready == 0)
        {
            _ready = _head.Length;
            return true;
        }
        _headGiven = true;
        if (_over) return false;
        var want = (int)Math.Min(Piece, _plainBytes - _taken);
        for (var got = 0; got < want;)
        {
            var more = _plain.Read(_in.AsSpan(got, want - got));
            if (more == 0) throw new EndOfStreamException($"The content ended after {_taken + got} of {_plainBytes} bytes.");
            got += more;
        }
        _taken += want;
        _over = _taken == _plainBytes;
        BinaryPrimitives.WriteUInt64BigEndian(_nonce.AsSpan(3), _count++);
        _nonce[11] = _over ? (byte)1 : (byte)0;
        _cipher.Encrypt(_nonce, _in.AsSpan(0, want), _out.AsSpan(0, want), _out.AsSpan(want, Tag));
        (_at, _ready) = (0, want + Tag);
        return true;
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing)
        {
            _plain.Dispose();
            _cipher.Dispose();
        }
        base.Dispose(disposing);
    }
}
