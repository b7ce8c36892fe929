using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots;

/// <summary>Content from a share, opened again behind what was read when the connection breaks off in the middle.</summary>
/// <param name="first">The content from its start.</param>
/// <param name="broke">Whether an exception means that the connection broke off.</param>
/// <param name="gone">What to say when it breaks off again and again, or cannot be gone on with.</param>
/// <param name="reopen">Opens the content from a byte on; null where it is no longer the same content, or not there.</param>
internal sealed class ResumingStream(
    Stream first,
    Func<Exception, bool> broke,
    Func<long, CancellationToken, Task<Stream?>> reopen,
    int tries,
    TimeSpan wait,
    IWork work,
    Func<Exception, Exception> gone) : Stream
{
    private Stream _from = first;
    private long _done;
    private int _broken;

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => throw new NotSupportedException();

    public override long Position { get => _done; set => throw new NotSupportedException(); }

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        while (true)
        {
            try
            {
                var got = await _from.ReadAsync(buffer, cancellationToken);
                _done += got;
                if (got > 0) _broken = 0;
                return got;
            }
            catch (Exception why) when (broke(why))
            {
                if (++_broken >= tries) throw gone(why);
                LetGo();
                await Task.Delay(wait * _broken, work.Time, cancellationToken);
                _from = await reopen(_done, cancellationToken)
                    ?? throw gone(new IOException("after that the content could not be had as it was.", why));
            }
        }
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public override int Read(byte[] buffer, int offset, int count) =>
        work.Wait(async () => await ReadAsync(buffer.AsMemory(offset, count)));

    public override void Flush()
    {
    }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    private void LetGo()
    {
        try
        {
            _from.Dispose();
        }
        catch (Exception why) when (broke(why))
        {
            // It is gone with its connection.
        }
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing) LetGo();
        base.Dispose(disposing);
    }
}
