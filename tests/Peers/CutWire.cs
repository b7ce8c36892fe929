using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;

namespace YardRelay.Peers;

/// <summary>A wire to a server on loopback that can be cut and mended: cut, every connection breaks and no new one is taken.</summary>
public sealed class CutWire : IDisposable
{
    private readonly int _to;
    private readonly ConcurrentDictionary<TcpClient, byte> _ends = new();
    private readonly int _port = Ports.Free();
    private TcpListener? _listener;

    /// <param name="to">Port of the server.</param>
    public CutWire(int to)
    {
        _to = to;
        Mend();
    }

    /// <summary>Where the wire begins.</summary>
    public string Address => $"http://127.0.0.1:{_port}";

    /// <summary>Breaks everything that goes over it.</summary>
    public void Cut()
    {
        _listener?.Stop();
        _listener = null;
        foreach (var end in _ends.Keys) end.Close();
        _ends.Clear();
    }

    /// <summary>It carries again.</summary>
    public void Mend()
    {
        _listener = new(IPAddress.Loopback, _port);
        _listener.Start();
        _ = ServeAsync(_listener);
    }

    private async Task ServeAsync(TcpListener listener)
    {
        try
        {
            while (true) _ = CarryAsync(await listener.AcceptTcpClientAsync());
        }
        catch (Exception cut) when (cut is SocketException or ObjectDisposedException or InvalidOperationException)
        {
            // Cut.
        }
    }

    private async Task CarryAsync(TcpClient from)
    {
        using (from)
        using (var to = new TcpClient())
        {
            _ends[from] = 0;
            _ends[to] = 0;
            try
            {
                await to.ConnectAsync(IPAddress.Loopback, _to);
                await Task.WhenAny(from.GetStream().CopyToAsync(to.GetStream()), to.GetStream().CopyToAsync(from.GetStream()));
            }
            catch (Exception cut) when (cut is IOException or SocketException or ObjectDisposedException or InvalidOperationException)
            {
                // Cut.
            }
            finally
            {
                _ends.TryRemove(from, out _);
                _ends.TryRemove(to, out _);
            }
        }
    }

    /// <inheritdoc/>
    public void Dispose() => Cut();
}
