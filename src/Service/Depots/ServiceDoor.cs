using System.Net;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Files;

namespace YardRelay.Service.Depots;

/// <summary>The service opens no such depot by itself.</summary>
internal sealed record DepotNotByServiceProblem(string Address) : Problem(
    "depot.not-by-service",
    $"The service itself does not open '{Address}': it is a folder of this computer that no setting 'depot-folders' names, or no depot "
        + "that it could reach. Have it verified by a hand.");

/// <summary>
/// Opens depots for the service's own process: its own; folders only where its settings name them; others at addresses that are neither
/// this computer nor its wire, unless <c>depot-secrets-to</c> names the host.
/// </summary>
internal sealed class ServiceDoor(BuiltInDepot own, ServiceOptions options)
{
    /// <summary>The depot that an order names.</summary>
    public Result<IDepot> Open(ParcelPlace place)
    {
        if (place.Depot == BuiltInDepot.Path) return new FolderDepot(TreeRoot.Here(own.Folder));
        var isFolder = FolderOf(place.Depot) is not null;
        if (isFolder ? !IsNamed(FolderOf(place.Depot)!) : !IsElsewhere(place.Depot)) return new DepotNotByServiceProblem(place.Depot);
        return DepotAddress.Open(
            place.Depot,
            place.Access is { } a ? new(a.User, a.Password, a.PrivateKey, a.HostKey) : new(),
            new DepotReach(May));
    }

    /// <summary>Where a host is; null: the service does not go there.</summary>
    /// <exception cref="System.Net.Sockets.SocketException">Nobody knows the name.</exception>
    public async Task<IPAddress[]?> WhereAsync(string host, CancellationToken cancel)
    {
        var places = await Dns.GetHostAddressesAsync(host, cancel);
        return places.Length > 0 && places.All(p => May(host, p)) ? places : null;
    }

    private bool May(string host, IPAddress address) =>
        !DepotDoor.IsNear(address) || options.DepotSecretsTo.Contains(host, StringComparer.OrdinalIgnoreCase);

    private static bool IsElsewhere(string address) =>
        Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" or "sftp";

    private static string? FolderOf(string address) =>
        address.StartsWith('/') || address.StartsWith("./", StringComparison.Ordinal) ? Path.GetFullPath(address)
        : Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.IsFile
        ? Path.GetFullPath(Uri.UnescapeDataString(uri.AbsolutePath))
        : null;

    private bool IsNamed(string folder) =>
        options.DepotFolders.Any(f => (folder.TrimEnd('/') + '/').StartsWith(f.TrimEnd('/') + '/', StringComparison.Ordinal));
}
