using Spectre.Console;

namespace YardRelay.Line.Shown;

/// <summary>Tables for people: hairlines only, figures to the right, never wrapped when the output is no terminal.</summary>
internal static class Tables
{
    public static void Show(string[] heads, IEnumerable<string[]> rows, params int[] rightAligned)
    {
        var all = rows.ToList();
        if (!Console.IsOutputRedirected) Fit(heads, all, AnsiConsole.Profile.Width);
        var table = new Table().Border(TableBorder.Simple).BorderColor(Color.Grey);
        foreach (var (i, head) in heads.Index())
        {
            var column = new TableColumn(new Text(head, new Style(decoration: Decoration.Dim))).NoWrap();
            table.AddColumn(rightAligned.Contains(i) ? column.RightAligned() : column);
        }
        foreach (var row in all) table.AddRow(row.Select(cell => new Text(cell)).ToArray());
        if (Console.IsOutputRedirected) AnsiConsole.Profile.Width = 4000;
        AnsiConsole.Write(table);
    }

    /// <summary>Shortens the widest columns until a row fits the terminal: one line each reads better than wrapped cells.</summary>
    private static void Fit(string[] heads, List<string[]> rows, int width)
    {
        var widths = heads.Select((h, i) => Math.Max(h.Length, rows.Select(r => r[i].Length).DefaultIfEmpty().Max())).ToArray();
        // Two cells of margin and one of rule for each column.
        while (widths.Sum() + (3 * widths.Length) + 1 > width && widths.Max() > 12) widths[Array.IndexOf(widths, widths.Max())]--;
        foreach (var row in rows)
            for (var i = 0; i < row.Length; i++)
                if (row[i].Length > widths[i]) row[i] = row[i][..(widths[i] - 1)] + "…";
    }

    public static void Say(string text) => Console.Out.WriteLine(text);
}
