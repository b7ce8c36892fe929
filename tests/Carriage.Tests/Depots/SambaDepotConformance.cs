using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Files;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

/// <summary>A share of a real SMB server, mounted as a folder.</summary>
public sealed class SambaDepotConformance : DepotConformance, IDisposable
{
    private readonly SmbShare _share = new();

    public SambaDepotConformance() => Depot = new FolderDepot(TreeRoot.Here(_share.Folder));

    protected override IDepot Depot { get; }

    public void Dispose()
    {
        Depot.Dispose();
        _share.Dispose();
    }
}
