namespace YardRelay.Files.Working;

/// <summary>Bytes that are only passing; gone when it is closed. Safe for reads from several threads at once.</summary>
public abstract class Temporary : IDisposable
{
    /// <summary>Where they are written, one after the other; nothing is held back.</summary>
    public abstract Stream Into { get; }

    /// <summary>Reads from a place; fewer bytes than asked for are no end, none is.</summary>
    public abstract int Read(long at, Span<byte> into);

    /// <summary>Reads what was written so far, from its start; as often as is wanted.</summary>
    public Stream Open() => new Reader(this, Into.Length);

    /// <inheritdoc/>
    public abstract void Dispose();

    private sealed class Reader(Temporary from, long bytes) : ReadOnlyStream
    {
        public override long Length => bytes;

        public override int Read(Span<byte> buffer)
        {
            var got = from.Read(Position, buffer[..(int)Math.Min(buffer.Length, bytes - Position)]);
            Went(got);
            return got;
        }
    }
}
