using YardRelay.Files.Simulated;

namespace YardRelay.Files.Tests.Simulated;

public sealed class SimulatedConformance : FileSystemConformance
{
    private readonly SimulatedDisk _disk = new(TimeProvider.System);

    protected override TreeRoot Root => _disk.At("/");
}
