namespace YardRelay.Carriage.Depots;

/// <summary>Content of a stated length: ends after so many bytes, and is broken where the source ends before.</summary>
internal sealed class ExactStream(Stream content, long bytes) : ForwardStream
{
    private long _done;

    /// <summary>What the source broke with; null: it has not.</summary>
    public Exception? Broke { get; private set; }

    public override long Length => bytes;

    public override long Position { get => _done; set => throw new NotSupportedException(); }

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

    private int Took(int got)
    {
        if (got == 0) throw new EndOfStreamException($"The content ended after {_done} of {bytes} bytes.");
        _done += got;
        return got;
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing) content.Dispose();
        base.Dispose(disposing);
    }
}
