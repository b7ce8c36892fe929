using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Pace;

namespace YardRelay.Carriage.Trips;

/// <summary>The file changed between the look and the end of the read.</summary>
internal sealed class ChangedWhileReadException() : IOException("The file changed while it was read.");

/// <summary>
/// Reads one source file: digests on the way, counts, and at its last byte looks whether the file is still what it was, so that a torn read
/// never becomes visible in a depot.
/// Closed, it reads no more: of a save that broke off a connection may still be sending, while the next try begins with the same file and
/// digest.
/// </summary>
internal sealed class WatchedStream : FileReadStream
{
    private readonly OpenFile _file;
    private readonly NodeFacts _facts;
    private readonly Odometer _progress;
    private readonly StreamDigest _digest;
    private readonly Lock _reading = new();
    private long _done;
    private bool _counted;
    private bool _isClosed;

    // a retry starts over on the same handle
    public WatchedStream(OpenFile file, NodeFacts facts, Odometer progress, StreamDigest digest)
        : base(file, facts.Bytes, leaveOpen: true)
    {
        (_file, _facts, _progress, _digest) = (file, facts, progress, digest);
        digest.Restart();
        if (facts.Bytes == 0) Look();
    }

    /// <summary>What the progress must be set back by when this read did not count.</summary>
    public long Done => _done;

    public override int Read(Span<byte> buffer)
    {
        lock (_reading)
        {
            ObjectDisposedException.ThrowIf(_isClosed, this);
            return ReadOpen(buffer);
        }
    }

    private int ReadOpen(Span<byte> buffer)
    {
        int got;
        try
        {
            got = base.Read(buffer);
        }
        catch (FileTroubleException broke)
        {
            throw new SourceBrokeException(broke.Message, broke);
        }
        if (got == 0 && _done < _facts.Bytes)
            throw new SourceBrokeException("The file became shorter while it was read.", new ChangedWhileReadException());
        _digest.Append(buffer[..got]);
        _done += got;
        _progress.Moved(got);
        if (_done >= _facts.Bytes && !_counted) Look();
        return got;
    }

    private void Look()
    {
        _counted = true;
        if (IsTorn(_facts, _file.Facts(afresh: true)))
            throw new SourceBrokeException("The file changed while it was read.", new ChangedWhileReadException());
    }

    /// <summary>Whether a file changed between a look at it and another.</summary>
    public static bool IsTorn(in NodeFacts before, in NodeFacts now) =>
        now.Bytes != before.Bytes || now.Modified != before.Modified || now.Changed != before.Changed;

    protected override void Dispose(bool disposing)
    {
        lock (_reading) _isClosed = true;
        base.Dispose(disposing);
    }
}
