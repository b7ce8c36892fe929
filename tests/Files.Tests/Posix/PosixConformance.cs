using YardRelay.Files.Posix;
using YardRelay.Peers;

namespace YardRelay.Files.Tests.Posix;

/// <summary>Linux asked by what POSIX has, where the system keeps what passes.</summary>
public sealed class PosixConformance() : ByPosix(null);

/// <summary>The same in memory.</summary>
public sealed class PosixMemoryConformance() : ByPosix("/dev/shm");

public abstract class ByPosix(string? under) : FileSystemConformance
{
    private readonly TempFolder _folder = new(under);

    protected override TreeRoot Root => new(PosixFileSystem.Here, _folder.At);

    public override void Dispose()
    {
        base.Dispose();
        _folder.Dispose();
    }
}
