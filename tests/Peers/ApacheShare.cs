namespace YardRelay.Peers;

/// <summary>A real Apache with mod_dav on loopback.</summary>
public sealed class ApacheShare : IDisposable
{
    private readonly TempFolder _folder = new();

    /// <summary>Where what it serves lies on this machine.</summary>
    public string Content => _folder["content"];

    private System.Diagnostics.Process _process;

    public ApacheShare()
    {
        var port = Ports.Free();
        var content = _folder.Make("content");
        const string modules = "/usr/lib/apache2/modules";
        File.WriteAllText(_folder["httpd.conf"], $"""
            ServerRoot {_folder.At}
            ServerName 127.0.0.1
            Listen 127.0.0.1:{port}
            PidFile {_folder["pid"]}
            ErrorLog {_folder["error.log"]}
            LoadModule mpm_event_module {modules}/mod_mpm_event.so
            LoadModule authz_core_module {modules}/mod_authz_core.so
            LoadModule dav_module {modules}/mod_dav.so
            LoadModule dav_fs_module {modules}/mod_dav_fs.so
            User www-data
            Group www-data
            DavLockDB {_folder["locks"]}
            DocumentRoot {content}
            AllowEncodedSlashes NoDecode
            <Directory {content}>
              Dav On
              Require all granted
            </Directory>
            """);
        Run.Must("chmod", "-R", "a+rwX", _folder.At);
        Address = $"http://127.0.0.1:{port}/";
        _process = Start();
    }

    /// <summary>Kills it, with all that it is doing, and starts it again.</summary>
    public void Restart()
    {
        Stop();
        _process = Start();
    }

    private System.Diagnostics.Process Start()
    {
        var process = Run.Start("/usr/sbin/apache2", ["-f", _folder["httpd.conf"], "-DFOREGROUND"]);
        using var http = new HttpClient();
        for (var tries = 0; ; tries++)
        {
            try
            {
                http.GetAsync(new Uri(Address)).GetAwaiter().GetResult().Dispose();
                return process;
            }
            catch (HttpRequestException) when (tries < 200)
            {
                Thread.Sleep(50);
                if (!process.HasExited) continue;
                // One of the killed one's children had the port a moment longer.
                process.Dispose();
                process = Run.Start("/usr/sbin/apache2", ["-f", _folder["httpd.conf"], "-DFOREGROUND"]);
            }
        }
    }

    public string Address { get; }

    private void Stop()
    {
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit(5000);
        _process.Dispose();
        File.Delete(_folder["pid"]);
    }

    public void Dispose()
    {
        Stop();
        _folder.Dispose();
    }
}
