using System.Net;
using System.Net.Sockets;

namespace YardRelay.Peers;

/// <summary>Gives out ports for servers that are started with a number. They lie below those that the system gives to
/// connections and to servers that name none, and stay this process's as long as it runs: nobody takes one between being
/// given out and being listened on, neither an outgoing connection nor another test beside it.</summary>
public static class Ports
{
    private const int Lowest = 20_000;
    private static readonly int Beyond = FirstOfTheSystem();
    private static readonly string Folder = Path.Combine(Path.GetTempPath(), "yardrelay-ports-" + Environment.UserName);
    // Kept open for as long as the process runs: the lock on the file is what keeps the port.
    private static readonly List<FileStream> Kept = [];
    private static int next = Lowest + Environment.ProcessId * 61 % (Beyond - Lowest);

    public static int Free()
    {
        lock (Kept)
        {
            Directory.CreateDirectory(Folder);
            for (var tries = Lowest; tries < Beyond; tries++)
            {
                var port = next;
                next = next + 1 < Beyond ? next + 1 : Lowest;
                if (TryKeep(port)) return port;
            }
        }
        throw new InvalidOperationException($"No port between {Lowest} and {Beyond} is free.");
    }

    private static bool TryKeep(int port)
    {
        FileStream? mine = null;
        try
        {
            mine = new(Path.Combine(Folder, $"{port}"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
            using var listener = new TcpListener(IPAddress.Any, port);
            listener.Start();
            Kept.Add(mine);
            return true;
        }
        catch (Exception taken) when (taken is IOException or SocketException)
        {
            mine?.Dispose();
            return false;
        }
    }

    private static int FirstOfTheSystem()
    {
        var range = File.ReadAllText("/proc/sys/net/ipv4/ip_local_port_range").Split('\t', ' ')[0];
        var first = int.Parse(range, System.Globalization.CultureInfo.InvariantCulture);
        return first > Lowest + 1_000 ? first : 32_768;
    }
}
