namespace YardRelay.Files;

/// <summary>Names as the calls of a system take them: bytes with a NUL behind.</summary>
internal static unsafe class NulEnded
{
    /// <summary>Runs <paramref name="call"/> with where such a name stands, for as long as it lasts.</summary>
    public static T With<T>(ReadOnlySpan<byte> name, Func<nint, T> call)
    {
        Span<byte> ended = name.Length < 1024 ? stackalloc byte[name.Length + 1] : new byte[name.Length + 1];
        name.CopyTo(ended);
        ended[name.Length] = 0;
        fixed (byte* at = ended) return call((nint)at);
    }
}
