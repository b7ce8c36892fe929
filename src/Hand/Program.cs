using System.CommandLine;
using System.CommandLine.Parsing;
using Spectre.Console;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Hand.Runs;
using YardRelay.Hand.Verbs;

// Folders, mounted shares among them, are read and written in calls that wait: a thread for each file that goes at once, from the start,
// and some for all else.
ThreadPool.GetMinThreads(out var workers, out var ports);
ThreadPool.SetMinThreads(Math.Max(workers, 2 * new TripOptions().AtOnce), ports);

// Names of files are others' texts: on a terminal they move and paint nothing. What is drawn there goes its own way.
AnsiConsole.Console = AnsiConsole.Create(new() { Out = new AnsiConsoleOutput(Console.Out) });
if (!Console.IsOutputRedirected) Console.SetOut(Visible.On(Console.Out));
Console.SetError(Visible.On(Console.Error));

var root = new RootCommand("""
    yardhand, the hand of Yard Relay: surveys a computer, carries its files to a depot, verifies and restores them.

    Examples:
      yardhand survey --from /home/ida
      yardhand carry --from /home/ida --depot file:///mnt/share --parcel "ida-0412"
      yardhand verify --depot https://cloud.kestrelbay.example/dav --parcel "ida-0412"
      yardhand restore --depot file:///mnt/share --parcel "ida-0412" --to /home/ida

    Exit codes: 0 all accounted for, 1 snags or damage found, 2 wrong use, 3 depot or service not reachable.
    """)
{
    SurveyVerb.Create(),
    SurveyVerb.CreateRules(),
    ProbeVerb.Create(),
    ProbeVerb.CreateCheck(),
    ProbeVerb.CreateLabel(),
    CarryVerb.Create(),
    ReceiveVerb.Create(),
    AdoptVerb.Create(),
    VerifyVerb.Create(),
    RestoreVerb.Create(),
    PurgeVerb.Create(),
    KeyVerb.Create(),
    EnrolVerb.Create(),
    EnrolVerb.CreateBench(),
    WorkVerb.Create(),
};
var parsed = root.Parse(args);
if (parsed.Errors.Count > 0)
{
    foreach (var error in parsed.Errors) Console.Error.WriteLine(error.Message);
    var words = "--help";
    for (var at = parsed.CommandResult; at is { Command: not RootCommand }; at = at.Parent as CommandResult)
        words = $"{at.Command.Name} {words}";
    Console.Error.WriteLine($"Run 'yardhand {words}' for the options and an example.");
    return ExitCodes.Usage;
}
try
{
    return await parsed.InvokeAsync(new() { EnableDefaultExceptionHandler = false });
}
catch (OperationCanceledException)
{
    return ExitCodes.Stopped;
}
catch (Exception broke) when (Environment.GetEnvironmentVariable("YARD_TRACE") is not { Length: > 0 })
{
    Console.Error.WriteLine(
        $"It broke off in a way that nobody foresaw: {broke.Message} What was done is safe; run the same command again. With YARD_TRACE=1 "
            + "it says where it broke, for whoever mends it.");
    return ExitCodes.SnagsOrDamage;
}
