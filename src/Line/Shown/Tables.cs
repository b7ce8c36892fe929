using Spectre.Console;

namespace YardRelay.Line.Shown;

/// <summary>Tables for people: hairlines only, figures to the right, never wrapped when the output is no terminal.</summary>
internal static class Tables
{
    public static void Show(string[] heads, IEnumerable<string[]> rows, params int[] rightAligned)
    {
        var table = new Table().Border(TableBorder.Simple).BorderColor(Color.Grey);
        foreach (var (i, head) in heads.Index())
        {
            var column = new TableColumn(new Text(head, new Style(decoration: Decoration.Dim))).NoWrap();
            table.AddColumn(rightAligned.Contains(i) ? column.RightAligned() : column);
        }
        foreach (var row in rows) table.AddRow(row.Select(cell => new Text(cell)).ToArray());
        if (Console.IsOutputRedirected) AnsiConsole.Profile.Width = 4000;
        AnsiConsole.Write(table);
    }

    public static void Say(string text) => Console.Out.WriteLine(text);
}
