namespace YardRelay.Carriage.Posix;

/// <summary>Reads an open file from its start without a buffer of its own; closes the handle unless told to leave it open.</summary>
internal class PosixReadStream(PosixHandle handle, long bytes, bool leaveOpen = false) : Stream
{
    private long _position;

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => bytes;

    public override long Position { get => _position; set => throw new NotSupportedException(); }

    public override int Read(Span<byte> buffer)
    {
        var got = PosixFile.Read(handle, buffer);
        _position += got;
        return got;
    }

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        cancellationToken.ThrowIfCancellationRequested();
        return new(Read(buffer.Span));
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public override void Flush()
    {
    }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        if (disposing && !leaveOpen) handle.Dispose();
        base.Dispose(disposing);
    }
}
