using System.Net;
using System.Net.Sockets;

namespace YardRelay.Carriage.Depots;

/// <summary>
/// How far somebody goes who opens depots that others named, such as a service: only to addresses that they may, looked at where the
/// connection goes, so that a name that means another place a moment later leads nowhere; and with nothing of their own environment.
/// </summary>
/// <param name="May">Whether they may connect to an address, for the host of that name.</param>
public sealed record DepotReach(Func<string, IPAddress, bool> May)
{
    /// <summary>The addresses of a host that they may connect to.</summary>
    /// <exception cref="IOException">There is none.</exception>
    internal async Task<IReadOnlyList<IPAddress>> AddressesAsync(string host, CancellationToken cancel)
    {
        var all = await Dns.GetHostAddressesAsync(host, cancel);
        var may = all.Where(a => May(host, a)).ToList();
        return may.Count > 0
            ? may
            : throw new IOException($"'{host}' is {string.Join(", ", all.Take(4).Select(a => $"{a}"))}, where it does not go.");
    }

    /// <summary>Connects.</summary>
    internal async ValueTask<Stream> ConnectAsync(SocketsHttpConnectionContext context, CancellationToken cancel)
    {
        var addresses = await AddressesAsync(context.DnsEndPoint.Host, cancel);
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync([.. addresses], context.DnsEndPoint.Port, cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }
}
