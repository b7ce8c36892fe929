namespace YardRelay.Carriage.Posix;

/// <summary>Seconds and nanoseconds since 1970, as file systems keep them; any year.</summary>
internal readonly record struct Stamp(long Seconds, uint Nanos)
{
    public override string ToString() => $"{Seconds}.{Nanos:000000000}";

    public static bool TryParse(string? text, out Stamp stamp)
    {
        stamp = default;
        var dot = text?.IndexOf('.', StringComparison.Ordinal) ?? -1;
        if (dot < 1 || text!.Length != dot + 10 || !long.TryParse(text.AsSpan(0, dot), out var seconds) || !uint.TryParse(text.AsSpan(dot + 1), out var nanos)) return false;
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
internal readonly record struct NodeFacts(NodeKind Kind, ushort Mode, long Bytes, long Blocks, uint Links, ulong Device, ulong Inode, Stamp Modified, Stamp Changed)
{
    /// <summary>Whether fewer blocks are stored than the length needs.</summary>
    public bool MayBeSparse => Kind == NodeKind.File && Blocks * 512 < Bytes;
}
