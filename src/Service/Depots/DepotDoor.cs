using System.Net;
using System.Net.Sockets;
using YardRelay.Core;

namespace YardRelay.Service.Depots;

/// <summary>What opens a depot would go by a way, or to a place, that it is not for.</summary>
/// <param name="Address">Of the depot.</param>
/// <param name="Why">What is wrong with it.</param>
internal sealed record DepotDoorProblem(string Address, string Why) : Problem(
    "depot.secrets",
    $"What opens a depot is not kept for '{Address}': {Why}. Where that is meant, name the host in the service's setting "
        + "'depot-secrets-to'.");

/// <summary>Where what opens a depot may go: to the place that it was given for, in cipher, and to another computer.</summary>
internal static class DepotDoor
{
    /// <summary>Whether what opens one address is meant for another, too: it is the same, or lies in it.</summary>
    /// <param name="before">The address that it was given for.</param>
    /// <param name="now">The address that the depot gets.</param>
    public static bool Opens(string before, string now) =>
        before == now
        || (Uri.TryCreate(before, UriKind.Absolute, out var old)
            && Uri.TryCreate(now, UriKind.Absolute, out var other)
            && (old.Scheme, old.IdnHost, old.Port, old.UserInfo) == (other.Scheme, other.IdnHost, other.Port, other.UserInfo)
            && Folder(other).StartsWith(Folder(old), StringComparison.Ordinal));

    /// <summary>Why secrets may not go to an address; null: they may.</summary>
    /// <param name="address">Of the depot.</param>
    /// <param name="hosts">Hosts to which they may go in clear, or that are this computer or lie on its own wire, as somebody said.</param>
    public static DepotDoorProblem? Against(string address, IReadOnlyCollection<string> hosts)
    {
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https" or "sftp")) return null;
        if (hosts.Contains(uri.IdnHost, StringComparer.OrdinalIgnoreCase)) return null;
        return uri.Scheme == Uri.UriSchemeHttp ? new(address, "plain http shows it to everybody on the way")
            : IsNear(uri) ? new(address, "it is the computer itself, or its own wire, where other things listen")
            : null;
    }

    private static string Folder(Uri uri) => uri.AbsolutePath.TrimEnd('/') + '/';

    private static bool IsNear(Uri uri)
    {
        if (uri.IsLoopback || uri.IdnHost.EndsWith(".localhost", StringComparison.OrdinalIgnoreCase)) return true;
        return IPAddress.TryParse(uri.IdnHost, out var address) && IsNear(address);
    }

    /// <summary>Whether an address is this computer, or its own wire; also where it stands in an address of the other kind.</summary>
    public static bool IsNear(IPAddress address)
    {
        if (Within(address) is { } inner) return IsNear(inner);
        if (IPAddress.IsLoopback(address) || address.Equals(IPAddress.IPv6Any)) return true;
        return address.AddressFamily == AddressFamily.InterNetworkV6
            ? address.IsIPv6LinkLocal
            : address.GetAddressBytes() is [0, ..] or [127, ..] or [169, 254, ..];
    }

    // Mapped (RFC 4291, 2.5.5), translated (RFC 6052) and 6to4 (RFC 3056): an old address in a new one.
    private static IPAddress? Within(IPAddress address) =>
        address.AddressFamily != AddressFamily.InterNetworkV6 ? null
        : address.GetAddressBytes() switch
        {
            [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0xff, 0xff, .. var mapped] => new(mapped),
            [0, 0x64, 0xff, 0x9b, 0, 0, 0, 0, 0, 0, 0, 0, .. var translated] => new(translated),
            [0x20, 0x02, var a, var b, var c, var d, ..] => new([a, b, c, d]),
            _ => null,
        };
}
