using YardRelay.Peers;

namespace YardRelay.Files.Tests.Linux;

public sealed class LinuxConformance : FileSystemConformance
{
    private readonly TempFolder _folder = new();

    protected override TreeRoot Root => TreeRoot.Here(_folder.At);

    public override void Dispose()
    {
        base.Dispose();
        _folder.Dispose();
    }
}
