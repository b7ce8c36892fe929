using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Invocation;
using YardRelay.Line.Helping;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline help</c>, and what <c>--help</c> shows.</summary>
internal static class HelpVerb
{
    public static Command Create(RootCommand root)
    {
        var words = new Argument<string[]>("command")
        {
            Description = "The command, such as: swap order.",
            Arity = ArgumentArity.ZeroOrMore
        };
        var book = new Option<bool>("--markdown") { Description = "All commands as one document.", Hidden = true };
        var help = new Command("help", "Says what a command does, with examples.\n\nExample:\n  yardline help swap order") { words, book };
        help.SetAction(args =>
        {
            if (args.GetValue(book))
            {
                Surroundings.Here.Out.Write(HelpBook.Of(root));
                return ExitCodes.Done;
            }
            Command command = root;
            foreach (var word in args.GetValue(words) ?? [])
            {
                if (command.Subcommands.FirstOrDefault(c => c.Name == word) is not { } below)
                    return Call.Fail(args, new NoSuchCommand(word, Nearest.Of(word, Names(command))), ExitCodes.Usage);
                command = below;
            }
            Show(command);
            return ExitCodes.Done;
        });
        return help;
    }

    /// <summary>Lets <c>--help</c> show the same.</summary>
    public static void Take(RootCommand root)
    {
        foreach (var option in root.Options.OfType<HelpOption>())
        {
            option.Description = "Says what the command does, with examples.";
            option.Action = new Showing();
        }
    }

    /// <summary>Shows the help of a command.</summary>
    public static void Show(Command command)
    {
        var here = Surroundings.Here;
        here.Out.Write(HelpPage.Of(command, PathOf(command), here.OutIsTerminal ? here.Tables.Profile.Width : int.MaxValue));
    }

    /// <summary>The names below a command that are there for people.</summary>
    public static IEnumerable<string> Names(Command command) => command.Subcommands.Where(c => !c.Hidden).Select(c => c.Name);

    private static string PathOf(Command command) =>
        command is RootCommand ? "yardline" : $"{PathOf(command.Parents.OfType<Command>().First())} {command.Name}";

    private sealed class Showing : SynchronousCommandLineAction
    {
        public override bool ClearsParseErrors => true;

        public override int Invoke(ParseResult parseResult)
        {
            Show(parseResult.CommandResult.Command);
            return ExitCodes.Done;
        }
    }
}
