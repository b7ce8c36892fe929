using System.Buffers;
using System.Net;

namespace YardRelay.Carriage.Depots.WebDav;

/// <summary>Request content of a stated length, opened anew for each try, refused when the source is shorter.</summary>
internal sealed class ExactContent(Func<Stream> open, long bytes) : HttpContent
{
    protected override Task SerializeToStreamAsync(Stream stream, TransportContext? context) =>
        SerializeToStreamAsync(stream, context, CancellationToken.None);

    protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context, CancellationToken cancellationToken)
    {
        await using var content = open();
        var buffer = ArrayPool<byte>.Shared.Rent((int)Math.Clamp(bytes, 1, 256 * 1024));
        try
        {
            for (long done = 0; done < bytes;)
            {
                var got = await content.ReadAsync(buffer.AsMemory(0, (int)Math.Min(buffer.Length, bytes - done)), cancellationToken);
                if (got == 0) throw new EndOfStreamException($"The content ended after {done} of {bytes} bytes.");
                await stream.WriteAsync(buffer.AsMemory(0, got), cancellationToken);
                done += got;
            }
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    protected override bool TryComputeLength(out long length)
    {
        length = bytes;
        return true;
    }
}
