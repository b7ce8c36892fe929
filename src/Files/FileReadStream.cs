namespace YardRelay.Files;

/// <summary>Reads an open file from its start without a buffer of its own; closes it unless told to leave it open.</summary>
/// <param name="bytes">How long it says it is.</param>
public class FileReadStream(OpenFile file, long bytes, bool leaveOpen = false) : Stream
{
    private long _position;

    /// <inheritdoc/>
    public override bool CanRead => true;

    /// <inheritdoc/>
    public override bool CanSeek => false;

    /// <inheritdoc/>
    public override bool CanWrite => false;

    /// <inheritdoc/>
    public override long Length => bytes;

    /// <inheritdoc/>
    public override long Position { get => _position; set => throw new NotSupportedException(); }

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        var got = file.Read(_position, buffer);
        _position += got;
        return got;
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        cancellationToken.ThrowIfCancellationRequested();
        return new(Read(buffer.Span));
    }

    /// <inheritdoc/>
    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    /// <inheritdoc/>
    public override void Flush()
    {
    }

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing && !leaveOpen) file.Dispose();
        base.Dispose(disposing);
    }
}
