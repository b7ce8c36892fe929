using System.Diagnostics;
using System.Globalization;
using System.Runtime.InteropServices;
using System.Text.Json;
using YardRelay.Contracts;

namespace YardRelay.Hand.Service;

/// <summary>
/// Work beside a person's own is done in a process of its own with low priority: on Linux a process that has made itself slow may not make
/// itself fast again, and the next order may be urgent.
/// The order goes in by its input, with all that it needs; when the input ends, whoever gave it is gone, and it stops.
/// </summary>
internal static partial class Beside
{
    private const int Nice = 10;
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(5);
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>Has a process of its own do an order, and waits for it.</summary>
    public static async Task DoAsync(OrderTaken order, string stateFolder, string powerFolder, TextWriter say, CancellationToken cancel)
    {
        var start = new ProcessStartInfo(Environment.ProcessPath!) { RedirectStandardInput = true, RedirectStandardOutput = true };
        // Where the program is started by the runtime, its first argument is the program.
        if (Path.GetFileNameWithoutExtension(Environment.ProcessPath) == "dotnet")
            start.ArgumentList.Add(Environment.GetCommandLineArgs()[0]);
        foreach (var arg in new[] { "work", "--state", stateFolder, "--power", powerFolder, "--order-from-input" })
            start.ArgumentList.Add(arg);
        using var process = Process.Start(start)!;
        await using var stop = cancel.Register(process.StandardInput.Close);
        await process.StandardInput.WriteLineAsync(JsonSerializer.Serialize(order, Json).AsMemory(), cancel);
        await process.StandardInput.FlushAsync(cancel);
        while (await process.StandardOutput.ReadLineAsync(CancellationToken.None) is { } line) await say.WriteLineAsync(line);
        await process.WaitForExitAsync(CancellationToken.None);
        // The order is taken up again at once; a process that cannot even begin is not begun over and over.
        if (process.ExitCode != 0) await Task.Delay(Rest, cancel);
    }

    /// <summary>In that process: reads the order, and a token that is cancelled when whoever gave it is gone.</summary>
    public static async Task<(OrderTaken? Order, CancellationTokenSource Gone)> ReadAsync(CancellationToken cancel)
    {
        var gone = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        using var input = new StreamReader(Console.OpenStandardInput(), leaveOpen: true);
        var line = await input.ReadLineAsync(cancel);
        _ = Task.Run(
            async () =>
            {
                var one = new byte[1];
                await using var rest = Console.OpenStandardInput();
                while (await rest.ReadAsync(one, CancellationToken.None) > 0)
                {
                }
                await gone.CancelAsync();
            },
            CancellationToken.None);
        return (line is null ? null : JsonSerializer.Deserialize<OrderTaken>(line, Json), gone);
    }

    /// <summary>Gives way to whatever else runs on the computer.</summary>
    public static void GiveWay()
    {
        if (!OperatingSystem.IsLinux())
        {
            using var self = Process.GetCurrentProcess();
            self.PriorityClass = ProcessPriorityClass.BelowNormal;
            return;
        }
        // Linux counts it by thread; those that come later take it from the one that makes them.
        foreach (var thread in Directory.EnumerateDirectories("/proc/self/task"))
            _ = setpriority(0, int.Parse(Path.GetFileName(thread), CultureInfo.InvariantCulture), Nice);
    }

    [LibraryImport("libc", SetLastError = true)]
    private static partial int setpriority(int which, int who, int priority);
}
