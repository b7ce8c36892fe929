using System.Security.Cryptography;

namespace YardRelay.Carriage.Digests;

/// <summary>Digests what is read through it.</summary>
internal sealed class HashedStream(Stream inner) : Stream
{
    private readonly IncrementalHash _hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);

    /// <summary>Lower-case digest of all that was read so far.</summary>
    public string Sha256 => Convert.ToHexStringLower(_hash.GetCurrentHash());

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => inner.Length;

    public override long Position { get => inner.Position; set => throw new NotSupportedException(); }

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    public override int Read(Span<byte> buffer)
    {
        var got = inner.Read(buffer);
        _hash.AppendData(buffer[..got]);
        return got;
    }

    public override void Flush()
    {
    }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        // The digest is asked for after the stream was closed; the hash frees itself.
        if (disposing) inner.Dispose();
        base.Dispose(disposing);
    }
}
