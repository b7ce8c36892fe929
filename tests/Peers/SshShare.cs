namespace YardRelay.Peers;

/// <summary>A real OpenSSH server with SFTP on loopback, with keys of its own.</summary>
public sealed class SshShare : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly int _port = Ports.Free();
    private System.Diagnostics.Process _process;

    public SshShare()
    {
        Content = _folder.Make("content");
        foreach (var key in new[] { "host", "user" }) Run.Must("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-f", _folder[key]);
        File.Copy(_folder["user.pub"], _folder["authorized"]);
        File.WriteAllText(_folder["sshd.conf"], $"""
            Port {_port}
            ListenAddress 127.0.0.1
            HostKey {_folder["host"]}
            PidFile none
            AuthorizedKeysFile {_folder["authorized"]}
            StrictModes no
            UsePAM no
            PasswordAuthentication no
            PermitRootLogin yes
            Subsystem sftp internal-sftp
            """);
        Directory.CreateDirectory("/run/sshd");
        _process = Start();
    }

    /// <summary>Where its depot lies on this machine.</summary>
    public string Content { get; }

    public string Address => $"sftp://{Environment.UserName}@127.0.0.1:{_port}{Content}";

    public string KeyFile => _folder["user"];

    /// <summary>The server's key as ssh-keygen prints it.</summary>
    public string HostKey => Run.Must("ssh-keygen", "-lf", _folder["host.pub"]).Split(' ')[1];

    /// <summary>A line of known hosts for this server.</summary>
    public string KnownHost => $"[127.0.0.1]:{_port} {string.Join(' ', File.ReadAllText(_folder["host.pub"]).Split(' ')[..2])}";

    /// <summary>Ends every connection and starts again.</summary>
    public void Restart()
    {
        Stop();
        _process = Start();
    }

    private System.Diagnostics.Process Start()
    {
        var process = Run.Start("/usr/sbin/sshd", ["-D", "-f", _folder["sshd.conf"], "-E", _folder["log"]]);
        for (var tries = 0; ; tries++)
        {
            try
            {
                using var client = new System.Net.Sockets.TcpClient("127.0.0.1", _port);
                return process;
            }
            catch (System.Net.Sockets.SocketException) when (tries < 100 && !process.HasExited)
            {
                Thread.Sleep(50);
            }
        }
    }

    private void Stop()
    {
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit(5000);
        _process.Dispose();
    }

    public void Dispose()
    {
        Stop();
        _folder.Dispose();
    }
}
