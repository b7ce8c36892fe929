using System.Security.Cryptography;

namespace YardRelay.Carriage.Digests;

/// <summary>Digests what is read through it.</summary>
internal sealed class HashedStream(Stream inner) : ReadOnlyStream
{
    private readonly IncrementalHash _hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);

    /// <summary>Lower-case digest of all that was read so far.</summary>
    public string Sha256 => Convert.ToHexStringLower(_hash.GetCurrentHash());

    public override long Length => inner.Length;

    public override int Read(Span<byte> buffer)
    {
        var got = inner.Read(buffer);
        _hash.AppendData(buffer[..got]);
        Went(got);
        return got;
    }

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var got = await inner.ReadAsync(buffer, cancellationToken);
        _hash.AppendData(buffer.Span[..got]);
        Went(got);
        return got;
    }

    protected override void Dispose(bool disposing)
    {
        // The digest is asked for after the stream was closed; the hash frees itself.
        if (disposing) inner.Dispose();
        base.Dispose(disposing);
    }
}
