using YardRelay.Peers;

namespace YardRelay.Files.Tests.Linux;

/// <summary>Where the system keeps what passes, most often a disk.</summary>
public sealed class LinuxConformance() : OnLinux(null);

/// <summary>In memory there is no medium: what is read never comes from one.</summary>
public sealed class MemoryConformance() : OnLinux("/dev/shm");

public abstract class OnLinux(string? under) : FileSystemConformance
{
    private readonly TempFolder _folder = new(under);

    protected override TreeRoot Root => TreeRoot.Here(_folder.At);

    public override void Dispose()
    {
        base.Dispose();
        _folder.Dispose();
    }
}
