using System.CommandLine;
using System.Text.Json;
using YardRelay.Client;
using YardRelay.Core;
using YardRelay.Core.Clocks;
using YardRelay.Line.Connections;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>A call of the service: signed in, with a refresh, and with one place where problems become text and exit codes.</summary>
internal static class Call
{
    public static readonly Option<bool> Json = new("--json") { Description = "JSON for machines instead of a table.", Recursive = true };
    public static readonly Option<string?> Refresh = new("--refresh", "-r")
    {
        Description = "Key of the refresh; left out: the one of 'yardline sign-in', or the only one there is.",
        Recursive = true
    };

    public static readonly Option<bool> Wide = new("--wide")
    {
        Description = "Tables as wide as they are, whatever the terminal's width.",
        Recursive = true
    };

    private static readonly JsonSerializerOptions Pretty = new(YardClient.Json)
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping
    };

    /// <summary>Makes a command whose work is one call.</summary>
    public static Command Command<T>(
        string name,
        string description,
        string example,
        IEnumerable<Symbol> parts,
        Func<YardClient, string, ParseResult, CancellationToken, Task<Result<T>>> work,
        Action<T> show,
        bool needsRefresh = true)
    {
        var command = new Command(name, $"{description}\n\nExample:\n  {example}");
        foreach (var part in parts)
        {
            if (part is Argument argument) command.Arguments.Add(argument);
            else if (part is Option option) command.Options.Add(option);
        }
        command.SetAction((args, cancel) =>
            RunAsync(args, needsRefresh, (client, refresh) => work(client, refresh, args, cancel), show, cancel));
        return command;
    }

    private static async Task<int> RunAsync<T>(
        ParseResult args, bool needsRefresh, Func<YardClient, string, Task<Result<T>>> work, Action<T> show, CancellationToken cancel)
    {
        if (Connection.Read() is not { } connection)
            return Fail(
                args,
                new NotSignedInProblem(),
                ExitCodes.Usage);
        using var client = new YardClient(new(connection.Service), connection.Token);
        try
        {
            var refresh = args.GetValue(Refresh) ?? connection.Refresh ?? "";
            if (needsRefresh && refresh.Length == 0)
            {
                if (!(await client.RefreshesAsync(cancel)).TryGet(out var all, out var refused))
                    return Fail(args, refused, ExitCodes.Refused);
                if (all.Count != 1)
                    return Fail(
                        args,
                        new RefreshWhichProblem(all.Count == 0
                            ? "There is no refresh yet. Make one with 'yardline refresh make'."
                            : $"Say which refresh with --refresh: {string.Join(", ", all.Select(r => r.Key))}."),
                        ExitCodes.Usage);
                refresh = all[0].Key;
            }
            var result = await work(client, refresh);
            if (!result.IsOk) return Fail(args, result.Problem, ExitCodes.Refused);
            if (args.GetValue(Json)) Surroundings.Here.Out.WriteLine(JsonSerializer.Serialize(result.Value, Pretty));
            else
            {
                var clock = Surroundings.Here.Clock;
                clock.Take(client.Zone);
                show(result.Value);
                clock.Name();
            }
            return ExitCodes.Done;
        }
        catch (ServiceUnreachableException gone)
        {
            return Fail(args, new ServiceUnreachableProblem(gone.Message), ExitCodes.Unreachable);
        }
    }

    /// <summary>Reads a time that was typed as the clocks of a refresh show it.</summary>
    public static async Task<Result<DateTimeOffset>> TimeAsync(YardClient client, string refresh, string text, CancellationToken cancel)
    {
        if (WallTime.TryReadInstant(text, out var at)) return at;
        if (!(await client.RefreshesAsync(cancel)).TryGet(out var all, out var refused)) return refused;
        if (all.FirstOrDefault(r => r.Key == refresh) is not { } seen) return new RefreshWhichProblem($"There is no refresh '{refresh}'.");
        return TimeZoneInfo.TryFindSystemTimeZoneById(seen.Zone, out var zone)
            ? WallTime.Read(text, zone)
            : new UnknownZoneProblem(seen.Zone);
    }

    public static int Fail(ParseResult args, Problem problem, int exit)
    {
        var all = problem is Refused { All.Count: > 0 } refused ? refused.All : [problem];
        if (args.GetValue(Json))
            Surroundings.Here.Out.WriteLine(JsonSerializer.Serialize(
                new { problem.Code, problem.Message, problems = all.Select(p => new { p.Code, p.Message }) }, YardClient.Json));
        else foreach (var one in all) Surroundings.Here.Error.WriteLine(one.Message);
        return exit;
    }
}
