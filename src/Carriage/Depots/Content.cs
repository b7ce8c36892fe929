namespace YardRelay.Carriage.Depots;

/// <summary>What is to be saved: a length, and a way to open it anew, so that a retry can start over or go on inside.</summary>
public sealed class Content
{
    private readonly Func<long, Stream> _open;

    /// <summary>Content that can be opened from its start.</summary>
    /// <param name="open">Opens it from its start.</param>
    /// <param name="bytes">Its exact length, 0 or more.</param>
    /// <param name="goesOn">Each opening gives the same bytes, so that a save that broke off may go on where it stopped.</param>
    public Content(Func<Stream> open, long bytes, bool goesOn = false) : this(from => Passed(open(), from), bytes, goesOn)
    {
    }

    private Content(Func<long, Stream> open, long bytes, bool goesOn) =>
        (_open, Bytes, GoesOn) = (open, bytes, goesOn && bytes >= LeastToGoOn);

    /// <summary>Below so many bytes starting over costs no more than looking where to go on.</summary>
    public const long LeastToGoOn = 8 << 20;

    /// <summary>Exact length in bytes.</summary>
    public long Bytes { get; }

    /// <summary>Whether what lies aside of it is its beginning.</summary>
    public bool GoesOn { get; }

    /// <summary>
    /// Whether it is brought onto the medium before a name shows it, where the depot has a way to ask for that: what says what belongs to
    /// a parcel is never there in part.
    /// </summary>
    public bool SettlesFirst { get; init; }

    /// <summary>
    /// SHA-256, lower-case hexadecimal, of what was opened last, asked once that was read to its end: what stood under its name, or is a
    /// list, gives way only to what the medium gives back as this, where the depot has a way to ask for that. Null: nobody knows.
    /// </summary>
    public Func<string>? Sha256 { get; init; }

    /// <summary>Told when it was read back as <see cref="Sha256"/> says, and where from; null: nobody asks.</summary>
    public Action<ReadFrom>? GaveBack { get; init; }

    /// <summary>Opens it behind its first <paramref name="from"/> bytes; the caller closes it.</summary>
    /// <exception cref="EndOfStreamException">It is shorter than that.</exception>
    public Stream Open(long from = 0) => _open(from);

    /// <summary>The same content, seen through something.</summary>
    public Content Through(Func<Stream, Stream> through) =>
        new(from => through(_open(from)), Bytes, GoesOn) { SettlesFirst = SettlesFirst, Sha256 = Sha256, GaveBack = GaveBack };

    // What lies before is read all the same: whoever hashes on the way needs it.
    private static Stream Passed(Stream stream, long bytes)
    {
        if (bytes == 0) return stream;
        var buffer = System.Buffers.ArrayPool<byte>.Shared.Rent(256 * 1024);
        try
        {
            for (var left = bytes; left > 0;)
            {
                var got = stream.Read(buffer, 0, (int)Math.Min(buffer.Length, left));
                if (got == 0) throw new EndOfStreamException($"The content ended after {bytes - left} bytes.");
                left -= got;
            }
            return stream;
        }
        catch
        {
            stream.Dispose();
            throw;
        }
        finally
        {
            System.Buffers.ArrayPool<byte>.Shared.Return(buffer);
        }
    }
}

/// <summary>Shorter ways to save.</summary>
public static class DepotSaving
{
    /// <summary>Saves content that starts over when it breaks off.</summary>
    public static Task<YardRelay.Core.Result<long>> SaveAsync(
        this IDepot depot, DepotPath path, DepotPath aside, Func<Stream> open, long bytes, CancellationToken cancel) =>
        depot.SaveAsync(path, aside, new Content(open, bytes), cancel);
}
