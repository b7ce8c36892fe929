using System.Diagnostics;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>Service, cloud share and hands as programs on loopback, with a small roster, set up through the command line.</summary>
public sealed class RunningYard : IAsyncLifetime
{
    private readonly TempFolder _folder = new();
    private readonly List<Process> _running = [];

    public string Address { get; } = $"http://127.0.0.1:{Run.FreePort()}";

    public TempFolder Folder => _folder;

    private Dictionary<string, string> Environment => new() { ["YARDLINE_CONFIG"] = _folder["connection.json"], ["YARD_PASSWORD"] = "kestrel-bay", ["YARD_NEW_PASSWORD"] = "kestrel-bay" };

    public Ran TryLine(params string[] args) => Run.With(Environment, Run.Bin("yardline"), args);

    public string Line(params string[] args)
    {
        var ran = TryLine(args);
        return ran.Exit == 0 ? ran.Out : throw new InvalidOperationException($"yardline {string.Join(' ', args)}: {ran.All}");
    }

    private Process Start(string name, params string[] args)
    {
        var process = Run.Start(Run.Bin(name), args, Environment);
        _running.Add(process);
        process.BeginErrorReadLine();
        return process;
    }

    public async ValueTask InitializeAsync()
    {
        var service = Start("yardrelay", "--urls", Address, "--state", _folder["state"], "--first", "kit:kestrel-bay", "--log", "Error");
        service.BeginOutputReadLine();
        using var http = new HttpClient();
        for (var tries = 0; ; tries++)
        {
            try
            {
                if ((await http.GetAsync(new Uri(Address + "/health/ready"))).IsSuccessStatusCode) break;
            }
            catch (HttpRequestException) when (tries < 150)
            {
                await Task.Delay(100);
            }
        }
        var cloud = Start("yardstand", "cloud", "--folder", _folder["cloud"]);
        var share = (await cloud.StandardOutput.ReadLineAsync())!.Split(' ')[^1];
        await File.WriteAllTextAsync(_folder["roster.csv"], """
            person,name,site,room,kind,old_tag,new_tag
            k1,Ida Moreau,North Quay,Ticket hall,renew,KB-1,KB-11
            k2,Sol Okafor,North Quay,Desk 4,renew,KB-2,KB-12
            k3,Ana Petrov,Lantern Point,Desk 7,renew,KB-3,KB-13
            k4,Per Lunde,Lantern Point,Crew room,issue,,KB-14

            """);
        Line("sign-in", Address, "--name", "kit", "--refresh", "spring");
        // A zone in which it is morning, so that today has visits at any hour.
        var shift = 7 - DateTime.UtcNow.Hour;
        shift = shift > 14 ? shift - 24 : shift < -12 ? shift + 24 : shift;
        var zone = $"Etc/GMT{(shift >= 0 ? "-" : "+")}{Math.Abs(shift)}";
        Line("refresh", "make", "spring", "--name", "Spring", "--starts", DateTime.UtcNow.AddHours(shift).ToString("yyyy-MM-dd"), "--days", "3", "--zone", zone);
        Line("roster", "take", _folder["roster.csv"]);
        Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "Lantern Point", "--shift", "daily 08:00-18:00");
        Line("depot", "set", "cloud", "--name", "Cloud share", "--address", share);
        Line("account", "set", "noor", "--name", "Noor Haddad", "--role", "technician", "--site", "North Quay");
        Line("account", "set", "wren", "--name", "Wren Ashby", "--role", "auditor");
        Line("plan", "make", "--steps", "100");
        foreach (var tag in new[] { "KB-1", "KB-2", "KB-3" }) SampleTrees.MakeHostile(_folder[$"disks/{tag}/Documents"], tag[3], 40);
        foreach (var tag in new[] { "KB-11", "KB-12", "KB-13" }) _folder.Make($"disks/{tag}");
        foreach (var tag in new[] { "KB-2", "KB-3" }) Run.Must("mkfifo", _folder[$"disks/{tag}/Documents/print-queue"]);
        await File.WriteAllTextAsync(_folder["codes.json"], Line("hand", "code", "--json"));
        Run.Must(Run.Bin("yardhand"), "enrol-bench", "--service", Address, "--codes", _folder["codes.json"], "--disks", _folder["disks"], "--state", _folder["hands"]);
        var work = Start("yardhand", ["work", .. Directory.GetDirectories(_folder["hands"]).SelectMany(h => new[] { "--state", h })]);
        work.BeginOutputReadLine();
        Line("swap", "order", "survey");
        Line("swap", "wait");
        Line("swap", "order", "first-trip", "spring-0001", "spring-0002", "spring-0003");
        Line("swap", "wait");
        Line("swap", "order", "restore", "spring-0001");
        Line("swap", "wait");
    }

    public ValueTask DisposeAsync()
    {
        foreach (var process in _running)
        {
            if (!process.HasExited) process.Kill(entireProcessTree: true);
            process.WaitForExit(5000);
            process.Dispose();
        }
        _folder.Dispose();
        return ValueTask.CompletedTask;
    }
}
