using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using Renci.SshNet;
using Renci.SshNet.Common;

namespace YardRelay.Carriage.Depots.Sftp;

/// <summary>The connection: made when it is needed, made again when it broke, to a server whose key is known only.</summary>
public sealed partial class SftpDepot
{
    private DepotUnreachableException Gone(string why, Exception? inner = null) => new(Address, why, inner);

    private async Task<SftpClient> ClientAsync(CancellationToken cancel)
    {
        if (_client is { IsConnected: true } there) return there;
        await _connecting.WaitAsync(cancel);
        try
        {
            if (_client is { IsConnected: true } now) return now;
            // What is let go of here is not asked again whether it is connected, also where no other one comes.
            _client?.Dispose();
            _client = null;
            var ways = new List<AuthenticationMethod>();
            if (_options.PrivateKey is { } text)
                ways.Add(new PrivateKeyAuthenticationMethod(
                    _user, new PrivateKeyFile(new MemoryStream(Encoding.UTF8.GetBytes(text)), _options.Password)));
            else if (_options.KeyFile is { } file)
                ways.Add(new PrivateKeyAuthenticationMethod(_user, new PrivateKeyFile(file, _options.Password)));
            if (_options.Password is { } password) ways.Add(new PasswordAuthenticationMethod(_user, password));
            if (ways.Count == 0)
                throw Gone("it wants a password or a key. Set YARD_DEPOT_PASSWORD, or YARD_DEPOT_KEY to the file of a private key.");
            var host = _options.Reach is { } reach ? await AddressAsync(reach, cancel) : _host;
            var client = new SftpClient(new ConnectionInfo(host, _port, _user, [.. ways])
            {
                Timeout = _options.AnswerWithin
            })
            { OperationTimeout = _options.AnswerWithin };
            client.HostKeyReceived += (_, key) => key.CanTrust = IsKnown(key.HostKey);
            try
            {
                await client.ConnectAsync(cancel);
            }
            catch
            {
                client.Dispose();
                throw;
            }
            return _client = client;
        }
        finally
        {
            _connecting.Release();
        }
    }

    private async Task<string> AddressAsync(DepotReach reach, CancellationToken cancel)
    {
        try
        {
            return $"{(await reach.AddressesAsync(_host, cancel))[0]}";
        }
        catch (IOException nowhere)
        {
            throw Gone(nowhere.Message);
        }
    }

    private bool IsKnown(byte[] key)
    {
        var print = "SHA256:" + Convert.ToBase64String(SHA256.HashData(key)).TrimEnd('=');
        var known = _options.HostKey is { } wanted
            ? wanted.TrimEnd('=') == print
            : _options.KnownHosts is { } file && File.Exists(file) && KnownHosts.Holds(File.ReadAllText(file), _host, _port, key);
        _unknownKey = known ? null : print;
        return known;
    }

    /// <summary>Does it, again after a while when the connection broke; what the server itself says comes out as it is.</summary>
    private async Task<T> TryAsync<T>(Func<SftpClient, Task<T>> work, CancellationToken cancel)
    {
        var wait = _options.FirstWait;
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                return await work(await ClientAsync(cancel));
            }
            catch (SshAuthenticationException refused)
            {
                throw Gone("it refused the user, password or key.", refused);
            }
            catch (Exception broke) when (IsBroken(broke) && !cancel.IsCancellationRequested)
            {
                if (_unknownKey is { } print)
                    throw Gone(
                        $"its key is not known here. It is {print}; if that is right, set YARD_DEPOT_HOSTKEY to it, or add the host to "
                            + $"your known hosts.",
                        broke);
                if (attempt >= _options.Tries) throw Gone($"{broke.Message.TrimEnd('.')}.", broke);
                await Task.Delay(wait, _options.Work.Time, cancel);
                wait = TimeSpan.FromTicks(Math.Min(LongestWait.Ticks, wait.Ticks * 2));
            }
        }
    }

    // A connection that ends while a call begins has no session for a moment, and the library follows the empty reference.
    private static bool IsBroken(Exception why) =>
        why is SshConnectionException or SshOperationTimeoutException or SocketException or ObjectDisposedException
            or NullReferenceException { Source: "Renci.SshNet" };
}
