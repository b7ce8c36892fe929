using System.CommandLine;
using System.Text;

namespace YardRelay.Line.Helping;

/// <summary>The help of all commands as one document: <c>docs/commands.md</c>.</summary>
internal static class HelpBook
{
    /// <summary>Markdown, in the order of the work.</summary>
    public static string Of(RootCommand root)
    {
        var book = new StringBuilder();
        book.AppendLine("# Commands");
        book.AppendLine();
        book.AppendLine("All that `yardline` can do, in the order of the work. Made from the program's own help by `scripts/commands.sh`.");
        book.AppendLine("With each command `--json` writes one JSON document and `--refresh KEY` says which refresh is meant.");
        var byName = root.Subcommands.ToDictionary(c => c.Name);
        foreach (var group in Group.InOrderOfWork)
        {
            book.AppendLine().AppendLine($"## {group.Title}");
            foreach (var noun in group.Nouns) Write(book, byName[noun], $"yardline {noun}");
        }
        return book.ToString().ReplaceLineEndings("\n");
    }

    private static void Write(StringBuilder book, Command command, string path)
    {
        if (command.Hidden) return;
        var text = HelpText.Of(command, path);
        book.AppendLine().AppendLine($"### {path}");
        book.AppendLine().AppendLine(text.Does);
        // What only holds others is not called.
        if (command.Subcommands.Count == 0 || command.Action is not null) WriteParts(book, text);
        foreach (var below in command.Subcommands) Write(book, below, $"{path} {below.Name}");
    }

    private static void WriteParts(StringBuilder book, HelpText text)
    {
        book.AppendLine().AppendLine("```sh").AppendLine(text.Usage);
        if (text.Examples.Count > 0) book.AppendLine().AppendJoin('\n', text.Examples).AppendLine();
        book.AppendLine("```");
        if (text.Arguments.Count + text.Options.Count == 0) return;
        book.AppendLine();
        foreach (var (written, does) in text.Arguments.Concat(text.Options)) book.AppendLine($"- `{written}`: {does}");
    }
}
