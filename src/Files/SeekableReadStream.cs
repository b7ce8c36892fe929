namespace YardRelay.Files;

/// <summary>Reads an open file from any place in it, without a buffer of its own; closes it.</summary>
/// <param name="bytes">How long it says it is.</param>
public sealed class SeekableReadStream(OpenFile file, long bytes) : ReadOnlyStream
{
    private long _at;

    /// <inheritdoc/>
    public override bool CanSeek => true;

    /// <inheritdoc/>
    public override long Length => bytes;

    /// <inheritdoc/>
    public override long Position
    {
        get => _at;
        set
        {
            ArgumentOutOfRangeException.ThrowIfNegative(value);
            _at = value;
        }
    }

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) =>
        Position = offset + origin switch { SeekOrigin.Begin => 0, SeekOrigin.Current => _at, _ => bytes };

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        var got = file.Read(_at, buffer);
        _at += got;
        return got;
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing) file.Dispose();
        base.Dispose(disposing);
    }
}
