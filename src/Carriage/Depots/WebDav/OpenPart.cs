namespace YardRelay.Carriage.Depots.WebDav;

/// <summary>A stretch of a stream that stays open behind it; tells how far it was read.</summary>
internal sealed class OpenPart(Stream whole, Action<int> read) : ForwardStream
{
    public override int Read(Span<byte> buffer)
    {
        var got = whole.Read(buffer);
        read(got);
        return got;
    }

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var got = await whole.ReadAsync(buffer, cancellationToken);
        read(got);
        return got;
    }
}
