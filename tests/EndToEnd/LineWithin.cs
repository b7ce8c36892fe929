using YardRelay.Line;
using YardRelay.Line.Shown;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// Runs the command line within the process of the tests, with an output and an environment of its own: of the hundreds of runs that set a
/// scene each would take longer to start than to work. As a program it is run where a test is about it as a program, and by the demo.
/// </summary>
internal static class LineWithin
{
    private static readonly TimeSpan Longest = Peers.Run.Patience;

    /// <summary>What was typed, as it is meant with an input and a refresh.</summary>
    public static IReadOnlyList<string> Meant(string input, string refresh, params string[] args)
    {
        var surroundings = new Surroundings(
            TextWriter.Null, TextWriter.Null, new MemoryStream(System.Text.Encoding.UTF8.GetBytes(input)), false, false, false,
            name => name switch { "YARD_SERVICE" => "http://127.0.0.1:9", "YARD_TOKEN" => "none", "YARD_REFRESH" => refresh, _ => null });
        return surroundings.RunAsync(() => Task.FromResult(CommandLine.Meant(args))).Result;
    }

    public static Ran Run(IReadOnlyDictionary<string, string> environment, params string[] args)
    {
        var (output, error) = (new StringWriter(), new StringWriter());
        var surroundings = new Surroundings(
            TextWriter.Synchronized(output), TextWriter.Synchronized(error), Stream.Null, false, false, false,
            name => environment.GetValueOrDefault(name) ?? Environment.GetEnvironmentVariable(name));
        var run = Task.Run(() => CommandLine.RunAsync(args, surroundings));
        return run.Wait(Longest)
            ? new(run.Result, output.ToString(), error.ToString())
            : throw new TimeoutException($"yardline {string.Join(' ', args)} did not end in {Longest.TotalMinutes} minutes.");
    }
}
