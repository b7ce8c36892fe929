using System.CommandLine;

namespace YardRelay.Line.Helping;

/// <summary>What the help of a command says, taken apart: what it does, its parts, and examples.</summary>
internal sealed record HelpText(
    string Name, string Usage, string Does, IReadOnlyList<HelpText.Part> Arguments, IReadOnlyList<HelpText.Part> Options,
    IReadOnlyList<HelpText.Part> Commands, IReadOnlyList<string> Examples)
{
    /// <summary>A part of a command: how it is written, and what it is.</summary>
    internal sealed record Part(string Written, string Does);

    /// <summary>Whether an argument is written so.</summary>
    public bool Takes(string written) => Arguments.Any(a => a.Written.Contains(written, StringComparison.Ordinal));

    /// <summary>Reads a command.</summary>
    /// <param name="path">From the program on: <c>yardline swap order</c>.</param>
    public static HelpText Of(Command command, string path)
    {
        var (does, examples) = Apart(command.Description ?? "");
        var below = command.Subcommands.Where(c => !c.Hidden).ToList();
        var options = command.Options.Where(o => !o.Hidden && !o.Recursive && o.Name is not ("--help" or "--version")).ToList();
        return new(
            path,
            string.Join(' ', new[] { path }.Concat(command.Arguments.Select(Written))
                .Concat(below.Count > 0 ? [command.Action is null ? "COMMAND" : "[COMMAND]"] : Array.Empty<string>())
                .Concat(options.Count > 0 ? ["[OPTIONS]"] : Array.Empty<string>())),
            does,
            [.. command.Arguments.Select(a => new Part(Written(a), a.Description ?? ""))],
            [.. options.Select(o => new Part(Written(o), o.Description ?? ""))],
            [.. below.Select(c => new Part(string.Join(' ', new[] { c.Name }.Concat(c.Arguments.Select(Written))), FirstSentence(c)))],
            examples);
    }

    /// <summary>What a command does, up to the first full stop.</summary>
    public static string FirstSentence(Command command)
    {
        var (does, _) = Apart(command.Description ?? "");
        var line = does.Split('\n')[0];
        return line.IndexOf(". ", StringComparison.Ordinal) is > 0 and var end ? line[..(end + 1)] : line;
    }

    private static (string Does, IReadOnlyList<string> Examples) Apart(string description)
    {
        var text = description.ReplaceLineEndings("\n");
        var at = text.IndexOf("\n\nExample", StringComparison.Ordinal);
        if (at < 0) return (text.Trim(), []);
        // What follows the examples is said of the command, too.
        var blocks = text[(at + 2)..].Split("\n\n", 2);
        var examples = blocks[0].Split('\n')[1..].Select(l => l.Trim()).Where(l => l.Length > 0);
        return ((text[..at] + (blocks.Length > 1 ? "\n\n" + blocks[1] : "")).Trim(), [.. examples]);
    }

    private static string Written(Argument argument)
    {
        var name = argument.Name.ToUpperInvariant().Replace('_', '-');
        var many = argument.Arity.MaximumNumberOfValues > 1 ? name + "…" : name;
        return argument.Arity.MinimumNumberOfValues == 0 ? $"[{many}]" : many;
    }

    private static string Written(Option option)
    {
        var names = string.Join(", ", option.Aliases.Where(a => a.StartsWith('-') && a.Length == 2).Append(option.Name));
        var takes = option.Arity.MaximumNumberOfValues == 0 || option.ValueType == typeof(bool) ? ""
            : $" {(option.HelpName ?? option.Name.TrimStart('-')).ToUpperInvariant()}";
        return names + takes;
    }
}
