namespace YardRelay.Files;

/// <summary>Reads an open file from its start without a buffer of its own; closes it unless told to leave it open.</summary>
/// <param name="bytes">How long it says it is.</param>
public class FileReadStream(OpenFile file, long bytes, bool leaveOpen = false) : ReadOnlyStream
{
    /// <inheritdoc/>
    public override long Length => bytes;

    // It gave less than was asked for and is as long as it said: asking once more would tell nothing new.
    private bool _isOver;

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        if (_isOver) return 0;
        var got = file.Read(Position, buffer);
        Went(got);
        _isOver = got < buffer.Length && Position == bytes;
        return got;
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing && !leaveOpen) file.Dispose();
        base.Dispose(disposing);
    }
}
