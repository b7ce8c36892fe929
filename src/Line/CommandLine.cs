using System.CommandLine;
using YardRelay.Line.Shown;
using YardRelay.Line.Verbs;

namespace YardRelay.Line;

/// <summary>All commands of <c>yardline</c>, and one run of it.</summary>
internal static class CommandLine
{
    private static readonly Lazy<RootCommand> Root = new(Create);

    private static RootCommand Create()
    {
        var root = new RootCommand("""
            yardline, the command line of Yard Relay for coordinators, technicians and scripts.

            Examples:
              yardline sign-in https://yard.kestrelbay.example --name kit
              yardline roster take people.csv --dry-run
              yardline plan make
              yardline today

            Exit codes: 0 done, 1 refused or something is wrong, 2 wrong use, 3 service not reachable.
            """)
        {
            SignInVerb.Create(),
            RosterVerbs.Create(),
            PlanVerbs.Create(),
            ReportVerbs.Create(),
            ParcelVerbs.CreateCatalogue(),
            PlaceVerbs.Create(),
            PlaceVerbs.CreateBetween(),
            RoundVerbs.Create(),
            YardVerbs.Create(),
            ReadyVerb.Create(),
            FollowUpVerbs.Create(),
            PersonVerbs.Create(),
            NoticeVerbs.Create(),
            DetourVerbs.Create(),
            OldComputerVerbs.Create(),
            OldComputerVerbs.CreatePallets(),
        };
        foreach (var command in RefreshVerbs.Create()
            .Concat(AccountVerbs.Create())
            .Concat(WorldVerbs.Create())
            .Concat(ChoosingVerbs.Create())
            .Concat(SwapVerbs.Create())
            .Concat(LedgerVerbs.Create().Concat(ChecklistVerbs.Create()).Append(SignOffVerbs.Create())))
            root.Subcommands.Add(command);
        root.Options.Add(Call.Json);
        root.Options.Add(Call.Refresh);
        return root;
    }

    /// <summary>Runs what the arguments say.</summary>
    /// <returns>One of <see cref="ExitCodes"/>.</returns>
    public static Task<int> RunAsync(IReadOnlyList<string> args, Surroundings surroundings) => surroundings.RunAsync(async () =>
    {
        var parsed = Root.Value.Parse(args);
        if (parsed.Errors.Count > 0)
        {
            foreach (var error in parsed.Errors) surroundings.Error.WriteLine(ParseText.Of(error));
            surroundings.Error.WriteLine("Run the command with --help for its options and an example.");
            return ExitCodes.Usage;
        }
        try
        {
            return await parsed.InvokeAsync(
                new() { Output = surroundings.Out, Error = surroundings.Error, EnableDefaultExceptionHandler = false });
        }
        catch (OperationCanceledException)
        {
            return ExitCodes.Refused;
        }
        catch (Exception broke) when (Environment.GetEnvironmentVariable("YARD_TRACE") is not { Length: > 0 })
        {
            surroundings.Error.WriteLine(
                $"It broke off in a way that nobody foresaw: {broke.Message} Look whether it was done before you repeat it. With "
                    + "YARD_TRACE=1 it says where it broke, for whoever mends it.");
            return ExitCodes.Refused;
        }
    });
}
