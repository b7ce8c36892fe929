using System.Collections.Concurrent;
using System.Diagnostics;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// Service, cloud share and hands as programs on loopback in a folder of their own; each can be killed and started again.
/// </summary>
public sealed class Yard : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly List<Process> _running = [];
    private readonly int _cloudPort = Ports.Free();
    private TimeSpan _ahead;
    private readonly ConcurrentQueue<string> _said = new();

    public string Address { get; } = $"http://127.0.0.1:{Ports.Free()}";

    public string CloudAddress => $"http://127.0.0.1:{_cloudPort}/";

    public TempFolder Folder => _folder;

    /// <summary>All that the started programs printed.</summary>
    public string Said => string.Join('\n', _said);

    /// <summary>Set for all programs besides.</summary>
    public Dictionary<string, string> More { get; } = [];

    private Dictionary<string, string> Environment =>
        new(More)
        {
            ["YARDLINE_CONFIG"] = _folder["connection.json"],
            ["YARD_PASSWORD"] = "kestrel-bay-ferries",
            ["YARD_NEW_PASSWORD"] = "kestrel-bay-ferries",
            ["XDG_STATE_HOME"] = _folder["hand-state"],
            // What a login shell and others set, and no program of ours reads.
            ["MAIL"] = "/var/mail/kit",
            ["KEY"] = "/no/such/key",
            ["STATE"] = "/no/such/state"
        };

    /// <summary>What a service that practises is told of the time.</summary>
    public string ClockFile => _folder["clock"];

    /// <summary>The day that it is for a service that practises.</summary>
    public DateOnly Today => DateOnly.FromDateTime(DateTime.UtcNow + _ahead);

    /// <summary>The next Wednesday, nine o'clock, is now for a service that takes its time from <see cref="ClockFile"/>.</summary>
    public void PractiseWednesdayMorning()
    {
        var now = DateTime.UtcNow;
        var wednesday = now.Date.AddDays(((int)DayOfWeek.Wednesday - (int)now.DayOfWeek + 7) % 7).AddHours(9);
        Jump((wednesday < now ? wednesday.AddDays(7) : wednesday) - now);
    }

    /// <summary>Puts the practised clock so far ahead of where it is.</summary>
    public void Jump(TimeSpan by)
    {
        _ahead += by;
        File.WriteAllText(ClockFile, _ahead.ToString("c"));
    }

    /// <summary>Runs a command; as a program of its own where the programs of this yard stand in another environment.</summary>
    public Ran TryLine(params string[] args) =>
        More.Count == 0 ? LineWithin.Run(Environment, args) : Run.With(Environment, Run.Bin("yardline"), args);

    public string Line(params string[] args)
    {
        var ran = TryLine(args);
        return ran.Exit == 0 ? ran.Out : throw new InvalidOperationException($"yardline {string.Join(' ', args)}: {ran.All}\n{Said}");
    }

    /// <summary>Seconds that orders may take on the slowest machine.</summary>
    public const string OrderPatience = "600";

    /// <summary>Works the checklist of a change of computer up to the person's look, the scans of tags left out.</summary>
    public void WorkSteps(string swap)
    {
        string[][] claims =
        [
            [
                "told", "noted", "ready", "unwanted-off", "programs-closed", "licences-out", "swapped", "connected", "one-library", "mail",
                "desktop", "backup", "looked"
            ],
            ["updates", "cleared", "--ran"], ["updates", "cleared"], ["power", "--answer", "desk"], [
                "maintenance", "--answer", "every quarter"
            ], ["screens", "--answer", "2"], ["screens-set"], ["printer", "--answer", "prints"],
            ["prepared", "restarted", "opened", "--started"], ["prepared", "restarted", "opened"],
        ];
        foreach (var claim in claims) Line(["step", "set", swap, .. claim]);
    }

    public Process Start(string name, params string[] args) =>
        Follow(name, Run.Start("dotnet", [Run.Dll(name), .. args], Environment));

    /// <summary>Starts a program whose files are open to everybody unless it sees to that itself.</summary>
    public Process StartOpenly(string name, params string[] args) =>
        Follow(name, Run.Start("sh", ["-c", "umask 0; exec dotnet \"$0\" \"$@\"", Run.Dll(name), .. args], Environment));

    private Process Follow(string name, Process process)
    {
        _running.Add(process);
        process.OutputDataReceived += (_, line) => _said.Enqueue($"{name}: {line.Data}");
        process.ErrorDataReceived += (_, line) => _said.Enqueue($"{name}! {line.Data}");
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        return process;
    }

    public async Task<Process> StartServiceAsync(string log = "Error")
    {
        var service = Start(
            "yardrelay", "--urls", Address, "--state", _folder["state"], "--first", "kit:kestrel-bay-ferries", "--log", log);
        await UntilAsync(
            async http => (await http.GetAsync(new Uri(Address + "/health/ready"))).IsSuccessStatusCode, "the service is ready");
        return service;
    }

    public async Task<Process> StartCloudAsync(params string[] more)
    {
        var cloud = Start("yardstand", ["cloud", "--folder", _folder["cloud"], "--port", $"{_cloudPort}", .. more]);
        await UntilAsync(async http => (await http.GetAsync(new Uri(CloudAddress))).IsSuccessStatusCode, "the share is ready");
        return cloud;
    }

    /// <summary>Waits for something, at most five minutes: what is slow is no fault.</summary>
    public async Task UntilAsync(Func<HttpClient, Task<bool>> is_so, string what)
    {
        using var http = new HttpClient { Timeout = TimeSpan.FromSeconds(20) };
        for (var began = System.Environment.TickCount64; System.Environment.TickCount64 - began < 300_000;)
        {
            var asked = System.Environment.TickCount64;
            try
            {
                if (await is_so(http)) return;
            }
            catch (Exception away) when (away is HttpRequestException or OperationCanceledException)
            {
            }
            // To ask takes the time of what is waited for: it has two thirds at least.
            await Task.Delay((int)Math.Clamp(2 * (System.Environment.TickCount64 - asked), 100, 1000));
        }
        throw new TimeoutException($"It did not come about that {what}.\n{Said}");
    }

    /// <summary>Enrols a hand for each computer that the roster names and whose disk is there.</summary>
    public async Task EnrolAsync()
    {
        await File.WriteAllTextAsync(_folder["codes.json"], Line("hand", "code", "--json"));
        Run.Must(
            Run.Bin("yardhand"), "enrol-bench", "--service", Address, "--codes", _folder["codes.json"], "--disks", _folder["disks"],
            "--state", _folder["hands"]);
    }

    /// <summary>Sets the enrolled hands to work.</summary>
    public Process Work() =>
        Start("yardhand", ["work", .. Directory.GetDirectories(_folder["hands"]).SelectMany(h => new[] { "--state", h })]);

    public static void Kill(Process process)
    {
        process.Kill();
        process.WaitForExit(5000);
    }

    public void Dispose()
    {
        foreach (var process in _running)
        {
            if (!process.HasExited) process.Kill(entireProcessTree: true);
            process.WaitForExit(5000);
            process.Dispose();
        }
        _folder.Dispose();
    }
}
