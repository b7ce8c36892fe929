using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots.Limited;

public sealed class LimitedDepotConformance : DepotConformance, IDisposable
{
    private readonly TempFolder _folder = new();

    public LimitedDepotConformance() =>
        Depot = new LimitedDepot(new FolderDepot(TreeRoot.Here(_folder.At)), new(ThreadWork.Here) { BytesPerSecond = 50_000_000 });

    protected override IDepot Depot { get; }

    public void Dispose()
    {
        Depot.Dispose();
        _folder.Dispose();
    }
}
