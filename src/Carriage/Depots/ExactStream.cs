namespace YardRelay.Carriage.Depots;

/// <summary>Content of a stated length: ends after so many bytes, and is broken where the source ends before.</summary>
internal sealed class ExactStream(Stream content, long bytes) : Stream
{
    private long _done;

    /// <summary>What the source broke with; null: it has not.</summary>
    public Exception? Broke { get; private set; }

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => bytes;

    public override long Position { get => _done; set => throw new NotSupportedException(); }

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    public override int Read(Span<byte> buffer)
    {
        var most = (int)Math.Min(buffer.Length, bytes - _done);
        if (most == 0) return 0;
        try
        {
            return Took(content.Read(buffer[..most]));
        }
        catch (Exception broke)
        {
            Broke ??= broke;
            throw;
        }
    }

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var most = (int)Math.Min(buffer.Length, bytes - _done);
        if (most == 0) return 0;
        try
        {
            return Took(await content.ReadAsync(buffer[..most], cancellationToken));
        }
        catch (Exception broke)
        {
            Broke ??= broke;
            throw;
        }
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) => ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    private int Took(int got)
    {
        if (got == 0) throw new EndOfStreamException($"The content ended after {_done} of {bytes} bytes.");
        _done += got;
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
        if (disposing) content.Dispose();
        base.Dispose(disposing);
    }
}
