using YardRelay.Carriage.Depots.Direct;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots;

/// <summary>Opens depots by their address.</summary>
public static class DepotAddress
{
    /// <summary>
    /// <c>file:///path</c> or a plain path: a folder, <c>file:///path#LABEL</c> on the disk of that label;
    /// <c>http(s)://[user:password@]host/path</c>: a WebDAV share; <c>sftp://user@host[:port]/path</c>: a folder behind an SSH server;
    /// <c>direct://host:port</c>: another hand that receives. Behind the path of a folder, here or behind an SSH server, stands who may
    /// reach what is staged, as <c>?modes=group</c>; private without that.
    /// Nothing is contacted yet.
    /// </summary>
    /// <param name="address">The address.</param>
    /// <param name="access">What opens it; null: what the environment gives.</param>
    /// <param name="reach">How far whoever opens it goes; null: everywhere.</param>
    public static Result<IDepot> Open(string address, DepotAccess? access = null, DepotReach? reach = null)
    {
        access ??= DepotAccess.OfEnvironment;
        if (address.StartsWith('/') || address.StartsWith("./", StringComparison.Ordinal))
            return new FolderDepot(TreeRoot.Here(Path.GetFullPath(address)));
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri)) return Unknown(address);
        if (!DepotModesText.Of(uri).TryGet(out var modes, out var unknown)) return unknown;
        return uri.Scheme switch
        {
            "file" when uri.IsLoopback || uri.Host.Length == 0 =>
                new FolderDepot(
                    TreeRoot.Here(Uri.UnescapeDataString(uri.AbsolutePath)),
                    uri.Fragment.Length > 1 ? Uri.UnescapeDataString(uri.Fragment[1..]) : null,
                    modes: modes),
            "http" or "https" => new WebDavDepot(uri, new WebDavDepotOptions
            {
                User = access.User,
                Password = access.Password,
                Reach = reach
            }),
            "sftp" when uri.Host.Length > 0 => new SftpDepot(
                uri, (reach is null ? SftpDepotOptions.Of(access) : SftpDepotOptions.Given(access, reach)) with { Modes = modes }),
            "direct" when uri.Host.Length > 0 && uri.Port > 0 =>
                Direct(uri, access.Code ?? Environment.GetEnvironmentVariable("YARD_DIRECT_CODE")),
            _ => Unknown(address),
        };
    }

    private static Result<IDepot> Direct(Uri address, string? code)
    {
        if (DirectCode.TryParse(code) is not { } paired)
            return new DirectCodeProblem(code is null
                ? "The direct way wants the code that 'yardhand receive' shows at the other computer."
                : "That is no code. It has 20 letters and digits, as 'yardhand receive' shows it at the other computer.");
        return new WebDavDepot(new($"https://{address.Authority}/"), new WebDavDepotOptions
        {
            User = DirectCode.User,
            Password = paired.Password,
            ServerKey = paired.PublicKey()
        });
    }

    private static Problem Unknown(string address) =>
        new DepotAddressProblem(address);
}
