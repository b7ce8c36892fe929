namespace YardRelay.Files;

/// <summary>What bears a name, by the upper four bits of its mode, which are the same on each system that keeps to POSIX.</summary>
internal static class NodeKinds
{
    public static NodeKind Of(ulong mode) => (mode & 0xF000) switch
    {
        0x4000 => NodeKind.Folder,
        0x8000 => NodeKind.File,
        0xA000 => NodeKind.Link,
        0x1000 => NodeKind.Pipe,
        0xC000 => NodeKind.Socket,
        _ => NodeKind.Device,
    };
}
