using System.CommandLine;
using System.CommandLine.Parsing;
using YardRelay.Line.Helping;
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
        root.Subcommands.Add(WhoAmIVerb.Create());
        root.Subcommands.Add(HelpVerb.Create(root));
        root.Options.Add(Call.Json);
        root.Options.Add(Call.Refresh);
        root.Options.Add(Call.Wide);
        HelpVerb.Take(root);
        return root;
    }

    /// <summary>
    /// Options that are none, which would pass for what somebody looks for. What really begins so follows after <c>--</c> alone.
    /// </summary>
    private static IReadOnlyList<string> Slips(ParseResult parsed) =>
        parsed.Tokens.Any(t => t.Type == TokenType.DoubleDash)
            ? []
            : [.. parsed.Tokens.Where(t => t.Type == TokenType.Argument && t.Value.StartsWith("--", StringComparison.Ordinal))
                .Select(t => t.Value.Split('=')[0])];

    /// <summary>Names of all commands.</summary>
    internal static IEnumerable<string> Nouns => HelpVerb.Names(Root.Value);

    /// <summary>What was typed, as it is meant.</summary>
    internal static IReadOnlyList<string> Meant(IReadOnlyList<string> args) => Spoken.Meant(args, Root.Value.Parse(args), Call.Refresh);

    /// <summary>Says what is wrong with the arguments, and what may have been meant.</summary>
    private static void Refuse(ParseResult parsed, Surroundings surroundings)
    {
        var command = parsed.CommandResult.Command;
        if (command.Subcommands.Count > 0 && command.Action is null)
        {
            // A group of commands, named alone, or with a word that is none of them.
            if (parsed.UnmatchedTokens.FirstOrDefault() is { } word)
                surroundings.Error.WriteLine(new NoSuchCommand(word, Nearest.Of(word, HelpVerb.Names(command))).Message);
            else HelpVerb.Show(command);
            return;
        }
        var options = command.Options.Concat(Root.Value.Options).Where(o => !o.Hidden).Select(o => o.Name).ToList();
        var slips = Slips(parsed);
        foreach (var slip in slips)
            surroundings.Error.WriteLine(new NoSuchOption(slip, Nearest.Of(slip, options)).Message);
        // What else is wrong follows from a slip, as a rule.
        if (slips.Count == 0)
            foreach (var error in parsed.Errors) surroundings.Error.WriteLine(ParseText.Of(error));
        surroundings.Error.WriteLine("Run the command with --help for its options and an example.");
    }

    /// <summary>Runs what the arguments say.</summary>
    /// <returns>One of <see cref="ExitCodes"/>.</returns>
    public static Task<int> RunAsync(IReadOnlyList<string> args, Surroundings surroundings) => surroundings.RunAsync(async () =>
    {
        var parsed = Root.Value.Parse(Meant(args));
        if (parsed.Errors.Count > 0 || Slips(parsed).Count > 0)
        {
            Refuse(parsed, surroundings);
            return ExitCodes.Usage;
        }
        surroundings.IsWide = parsed.GetValue(Call.Wide);
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
