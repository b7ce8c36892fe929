using System.Globalization;

namespace YardRelay.Carriage.Posix;

/// <summary>Seconds and nanoseconds since 1970, as file systems keep them; any year.</summary>
internal readonly record struct Stamp(long Seconds, uint Nanos)
{
    public override string ToString() => $"{Seconds}.{Nanos:000000000}";

    /// <summary>Reads seconds, a dot and nine digits.</summary>
    public static bool TryParse(ReadOnlySpan<byte> text, out Stamp stamp)
    {
        stamp = default;
        var dot = text.IndexOf((byte)'.');
        if (dot < 1
            || text.Length != dot + 10
            || !long.TryParse(text[..dot], NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var seconds)
            || !uint.TryParse(text[(dot + 1)..], NumberStyles.None, CultureInfo.InvariantCulture, out var nanos))
            return false;
        stamp = new(seconds, nanos);
        return true;
    }
}

internal enum NodeKind
{
    File,
    Folder,
    Link,
    Device,
    Pipe,
    Socket,
}

/// <summary>What the system says about a name, without following a link.</summary>
internal readonly record struct NodeFacts(
    NodeKind Kind, ushort Mode, long Bytes, long Blocks, uint Links, ulong Device, ulong Inode, Stamp Modified, Stamp Changed)
{
    /// <summary>Whether fewer blocks are stored than the length needs.</summary>
    public bool MayBeSparse => Kind == NodeKind.File && Blocks * 512 < Bytes;
}
