namespace YardRelay.Files;

/// <summary>Reads an open file from its start without a buffer of its own; closes it unless told to leave it open.</summary>
/// <param name="bytes">How long it says it is.</param>
public class FileReadStream(OpenFile file, long bytes, bool leaveOpen = false) : ReadOnlyStream
{
    /// <inheritdoc/>
    public override long Length => bytes;

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        var got = file.Read(Position, buffer);
        Went(got);
        return got;
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing && !leaveOpen) file.Dispose();
        base.Dispose(disposing);
    }
}
