using System.CommandLine;
using System.Text;

namespace YardRelay.Line.Helping;

/// <summary>Help as it is read on a terminal.</summary>
internal static class HelpPage
{
    private const int Widest = 110;
    private const int WidestPart = 30;

    /// <summary>The help of a command.</summary>
    /// <param name="path">From the program on.</param>
    /// <param name="width">Columns of the terminal.</param>
    public static string Of(Command command, string path, int width)
    {
        width = Math.Clamp(width, 40, Widest);
        var text = HelpText.Of(command, path);
        var page = new StringBuilder();
        foreach (var line in text.Does.Split('\n')) page.AppendLine(Wrapped(line, 0, width));
        page.AppendLine().AppendLine("  " + text.Usage);
        if (command is RootCommand) WriteGroups(page, command, width);
        else Write(page, "Commands", text.Commands, width);
        Write(page, "Arguments", text.Arguments, width);
        Write(page, "Options", text.Options, width);
        if (text.Examples.Count > 0)
        {
            page.AppendLine().AppendLine("Examples");
            foreach (var example in text.Examples) page.AppendLine("  " + example);
        }
        page.AppendLine();
        page.AppendLine(Wrapped(
            text.Commands.Count > 0
                ? $"'{path.Replace("yardline", "yardline help", StringComparison.Ordinal)} COMMAND' says more, with examples. With each: "
                    + "--json, --wide, --refresh KEY (-r)."
                : Everywhere(text),
            0, width));
        return page.ToString();
    }

    private static string Everywhere(HelpText text) =>
        "With each command: --json writes JSON for machines, --wide leaves no column out, --refresh KEY (-r) says which refresh is meant."
            + (text.Takes("SWAP") ? " A swap can be named by its number." : "")
            + (text.Takes("…") ? " A single '-' reads what is listed from the input." : "");

    private static void WriteGroups(StringBuilder page, Command root, int width)
    {
        var byName = root.Subcommands.ToDictionary(c => c.Name);
        foreach (var group in Group.InOrderOfWork)
            Write(
                page, group.Title, [.. group.Nouns.Select(n => new HelpText.Part(n, HelpText.FirstSentence(byName[n])))], width);
    }

    private static void Write(StringBuilder page, string title, IReadOnlyList<HelpText.Part> parts, int width)
    {
        if (parts.Count == 0) return;
        page.AppendLine().AppendLine(title);
        var indent = Math.Min(parts.Max(p => p.Written.Length), WidestPart) + 4;
        foreach (var (written, does) in parts)
        {
            var first = "  " + written;
            if (first.Length + 2 > indent) page.AppendLine(first);
            else page.Append(first.PadRight(indent));
            page.AppendLine(Wrapped(does, indent, width, first.Length + 2 > indent));
        }
    }

    /// <summary>A text in lines of the width, each but the first with blanks before it.</summary>
    private static string Wrapped(string text, int indent, int width, bool firstToo = false)
    {
        var (lines, line) = (new List<string>(), new StringBuilder());
        foreach (var word in text.Split([' ', '\n'], StringSplitOptions.RemoveEmptyEntries))
        {
            if (line.Length > 0 && indent + line.Length + 1 + word.Length > width)
            {
                lines.Add(line.ToString());
                line.Clear();
            }
            if (line.Length > 0) line.Append(' ');
            line.Append(word);
        }
        lines.Add(line.ToString());
        var blanks = new string(' ', indent);
        return (firstToo ? blanks : "") + string.Join('\n' + blanks, lines);
    }
}
