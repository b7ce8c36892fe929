using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots;

/// <summary>Opens depots by their address.</summary>
public static class DepotAddress
{
    /// <summary>
    /// <c>file:///path</c> or a plain path: a folder, <c>file:///path#LABEL</c> on the disk of that label; <c>http(s)://[user:password@]host/path</c>: a WebDAV share; <c>sftp://user@host[:port]/path</c>: a folder behind an SSH server.
    /// Nothing is contacted yet.
    /// </summary>
    public static Result<IDepot> Open(string address)
    {
        if (address.StartsWith('/') || address.StartsWith("./", StringComparison.Ordinal)) return new FolderDepot(Path.GetFullPath(address));
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri)) return Unknown(address);
        return uri.Scheme switch
        {
            "file" when uri.IsLoopback || uri.Host.Length == 0 => new FolderDepot(Uri.UnescapeDataString(uri.AbsolutePath), uri.Fragment.Length > 1 ? Uri.UnescapeDataString(uri.Fragment[1..]) : null),
            "http" or "https" => new WebDavDepot(uri, new WebDavDepotOptions()),
            "sftp" when uri.Host.Length > 0 => new SftpDepot(uri, SftpDepotOptions.OfEnvironment()),
            _ => Unknown(address),
        };
    }

    private static Problem Unknown(string address) =>
        new("depot.address", $"'{address}' is not an address of a depot. Use file:///path for a folder, a mounted share or a disk, http(s)://host/path for a WebDAV share, or sftp://user@host/path for a folder behind an SSH server.");
}
