namespace YardRelay.Peers;

/// <summary>
/// A real SMB server on a loopback address of its own, with its share mounted as a folder; only root can start it on the port that SMB has.
/// </summary>
public sealed class SmbShare : IDisposable
{
    private static int _last;
    private readonly TempFolder _folder = new();
    private readonly string _mount, _address;

    public SmbShare()
    {
        // Each share has an address of its own, so that several tests can have one at once.
        var address = $"127.{77 + (Environment.ProcessId % 100)}.{Interlocked.Increment(ref _last) % 250}.7";
        foreach (var name in new[] { "share", "mount", "state", "home/.smb" }) Directory.CreateDirectory(_folder[name]);
        var state = _folder["state"];
        File.WriteAllText(_folder["home/.smb/smb.conf"],
            $"[global]\nserver role = standalone server\ninterfaces = {address}/8\nbind interfaces only = yes\nsmb ports = 445\ndisable "
            + $"netbios = yes\nmap to guest = Bad User\nguest account = root\n"
            + $"private dir = {state}\nlock directory = {state}\nstate directory = {state}\ncache directory = {state}\npid directory = "
            + $"{state}\nncalrpc dir = {state}/ncalrpc\nlog file = {_folder["log"]}\nload printers = no\nprinting = bsd\nprintcap "
                    + $"name = /dev/null\n"
            + $"[depot]\npath = {_folder["share"]}\nread only = no\nguest ok = yes\nforce user = root\n");
        foreach (var name in new[] { "smbnetfs.conf", "smbnetfs.auth", "smbnetfs.host" })
        {
            File.WriteAllText(_folder[$"home/.smb/{name}"], "");
            File.SetUnixFileMode(_folder[$"home/.smb/{name}"], UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }
        _address = address;
        Start();
        _mount = _folder["mount"];
        Run.Must("env", $"HOME={_folder["home"]}", "smbnetfs", "-o", $"config={_folder["home/.smb/smbnetfs.conf"]}", _mount);
        Folder = Path.Combine(_mount, address, "depot");
        for (var tries = 0; tries < 100 && Run.To("ls", Folder).Exit != 0; tries++) Thread.Sleep(100);
    }

    // In the foreground it ends when nobody types to it; so it goes to the background and says its number.
    private void Start()
    {
        Run.Must("smbd", "-s", _folder["home/.smb/smb.conf"], "-D");
        for (var tries = 0; tries < 100 && !Listens(_address); tries++) Thread.Sleep(50);
    }

    /// <summary>Kills it, with all that it is doing, and starts it again.</summary>
    public void Restart()
    {
        var number = File.ReadAllText(_folder["state/smbd.pid"]).Trim();
        // Its helpers are its children; each connection has one of its own.
        Run.To("pkill", "-KILL", "-P", number);
        Run.To("kill", "-KILL", number);
        for (var tries = 0; tries < 100 && Listens(_address); tries++) Thread.Sleep(50);
        File.Delete(_folder["state/smbd.pid"]);
        Start();
    }

    /// <summary>Kills what mounts it: from then on all that is asked below the folder is answered by an error.</summary>
    public void KillMount()
    {
        Run.To("pkill", "-KILL", "-f", _folder["home/.smb/smbnetfs.conf"]);
        for (var tries = 0; tries < 100 && Run.To("ls", _mount).Exit == 0; tries++) Thread.Sleep(50);
    }

    private static bool Listens(string address)
    {
        try
        {
            using var probe = new System.Net.Sockets.TcpClient(address, 445);
            return true;
        }
        catch (System.Net.Sockets.SocketException)
        {
            return false;
        }
    }

    /// <summary>The share as a folder.</summary>
    public string Folder { get; }

    public void Dispose()
    {
        Run.To("fusermount", "-u", "-z", _mount);
        if (File.Exists(_folder["state/smbd.pid"])) Run.To("kill", File.ReadAllText(_folder["state/smbd.pid"]).Trim());
        _folder.Dispose();
    }
}
