using System.Diagnostics;

namespace YardRelay.Peers;

/// <summary>What a program printed and how it ended.</summary>
public sealed record Ran(int Exit, string Out, string Err)
{
    public string All => Out + Err;
}

/// <summary>Runs programs, with a limit on every wait.</summary>
public static class Run
{
    public static readonly string Root = FindRoot(AppContext.BaseDirectory);

    private static string FindRoot(string folder) =>
        File.Exists(Path.Combine(folder, "YardRelay.slnx")) ? folder : FindRoot(Path.GetDirectoryName(folder)!);

    /// <summary>The program itself, not its starter, as it was built beside the tests: what is killed is what works.</summary>
    public static string Dll(string name)
    {
        var part = name switch { "yardrelay" => "Service", "yardhand" => "Hand", "yardline" => "Line", _ => "Stand" };
        var built = Path.Combine(Root, "out/artifacts/bin", part, "release", name + ".dll");
        // Compiled ahead it starts in half the time; what was built since counts more.
        var quick = Path.Combine(Root, "out/quick", part, name + ".dll");
        return File.Exists(quick) && File.GetLastWriteTimeUtc(quick) >= File.GetLastWriteTimeUtc(built) ? quick : built;
    }

    public static string Bin(string name) => Path.Combine(Root, "out", "bin", name);

    /// <summary>How long a program may take on a busy machine: what is slow is no fault, what never ends is.</summary>
    public static readonly TimeSpan Patience = TimeSpan.FromMinutes(15);

    public static Process Start(string program, IEnumerable<string> args, IReadOnlyDictionary<string, string>? environment = null)
    {
        var start = new ProcessStartInfo(program, args)
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            RedirectStandardInput = true
        };
        foreach (var (name, value) in environment ?? new Dictionary<string, string>()) start.Environment[name] = value;
        var process = Process.Start(start)!;
        process.StandardInput.Close();
        return process;
    }

    public static Ran To(string program, params string[] args) => With(null, program, args);

    public static Ran With(IReadOnlyDictionary<string, string>? environment, string program, params string[] args)
    {
        using var process = Start(program, args, environment);
        var (output, error) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        if (!process.WaitForExit(Patience))
        {
            process.Kill(entireProcessTree: true);
            throw new TimeoutException($"{program} {string.Join(' ', args)} did not end in {Patience.TotalMinutes} minutes.");
        }
        return new(process.ExitCode, output.GetAwaiter().GetResult(), error.GetAwaiter().GetResult());
    }

    public static void Quietly(string program, params string[] args) => To(program, args);

    /// <summary>Runs and insists on success.</summary>
    public static string Must(string program, params string[] args)
    {
        var ran = To(program, args);
        return ran.Exit == 0
            ? ran.Out
            : throw new InvalidOperationException($"{program} {string.Join(' ', args)} ended with {ran.Exit}: {ran.All}");
    }
}
