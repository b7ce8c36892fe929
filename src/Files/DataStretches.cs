using System.Runtime.InteropServices;

namespace YardRelay.Files;

/// <summary>
/// Stretches of a file that hold data, where a system is asked for them by SEEK_DATA and SEEK_HOLE (POSIX.1-2024, lseek).
/// </summary>
internal static class DataStretches
{
    private const int NothingBehind = 6; // ENXIO, everywhere

    /// <summary>Those of the first <paramref name="bytes"/> bytes; null when all of them are, or the file system cannot tell.</summary>
    /// <param name="data">Where data begins from a place on; below zero: the call failed.</param>
    /// <param name="hole">Where a hole begins from a place on; below zero: the call failed.</param>
    public static List<(long Offset, long Bytes)>? Of(long bytes, Func<long, long> data, Func<long, long> hole)
    {
        var found = new List<(long, long)>();
        for (long at = 0; at < bytes;)
        {
            var begin = data(at);
            // Only this says that nothing but a hole is left; any other trouble says nothing about holes.
            if (begin < 0 && Marshal.GetLastPInvokeError() == NothingBehind) break;
            if (begin < 0) return null;
            var end = hole(begin);
            if (end < 0) return null;
            end = Math.Min(end, bytes);
            if (end > begin) found.Add((begin, end - begin));
            at = Math.Max(end, begin + 1);
        }
        return found.Count == 1 && found[0] == (0, bytes) ? null : found;
    }
}
