using YardRelay.Files.Simulated;

namespace YardRelay.Files.Tests.Simulated;

public sealed class SimulatedConformance : FileSystemConformance
{
    private readonly SimulatedDisk _disk = new(TimeProvider.System);

    public SimulatedConformance() => _disk.Settle();

    protected override TreeRoot Root => _disk.At("/");
}
