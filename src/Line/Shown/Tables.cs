using Spectre.Console;
using YardRelay.Core;

namespace YardRelay.Line.Shown;

/// <summary>Tables for people: hairlines only, figures to the right, never wrapped when the output is no terminal.</summary>
internal static class Tables
{
    public static void Show(string[] heads, IEnumerable<string[]> rows, params int[] rightAligned)
    {
        var all = rows.Select(r => Array.ConvertAll(r, Visible.Line)).ToList();
        if (all.Count == 0)
        {
            Say("There are none.");
            return;
        }
        var here = Surroundings.Here;
        var fit = TableFit.Of(heads, all, here.OutIsTerminal && !here.IsWide ? here.Tables.Profile.Width : int.MaxValue);
        var table = new Table().Border(TableBorder.Simple).BorderColor(Color.Grey);
        foreach (var i in fit.Columns)
        {
            var column = new TableColumn(new Text(heads[i], new Style(decoration: Decoration.Dim))).NoWrap();
            table.AddColumn(rightAligned.Contains(i) ? column.RightAligned() : column);
        }
        foreach (var row in fit.Rows) table.AddRow(row.Select(cell => new Text(cell)).ToArray());
        here.Tables.Write(table);
        if (fit.LeftOut.Count > 0) Say($"Too narrow for: {string.Join(", ", fit.LeftOut)}. --wide shows all.");
    }

    /// <summary>
    /// Shows on the terminal's error stream how far something is, once it takes longer than a moment. Without a terminal nothing is shown.
    /// </summary>
    /// <param name="look">What is being done and its share done, 0 to 1 (null: not known); null as a whole: nothing new is known.</param>
    public static async Task ProgressAsync(Task work, string first, Func<Task<(string What, double? Share)?>> look)
    {
        var here = Surroundings.Here;
        if (!here.ErrorIsTerminal || await Task.WhenAny(work, Task.Delay(400)) == work) return;
        await Surroundings.Draw(Console.Error, isTerminal: true).Progress()
            .AutoClear(true)
            .Columns(new TaskDescriptionColumn { Alignment = Justify.Left }, new ProgressBarColumn(), new PercentageColumn())
            .StartAsync(async context =>
        {
            var shown = context.AddTask(first, maxValue: 1);
            shown.IsIndeterminate = true;
            while (await Task.WhenAny(work, Task.Delay(200)) != work)
                if (await look() is var (what, share))
                {
                    shown.Description = Markup.Escape(what);
                    shown.IsIndeterminate = share is null;
                    if (share is { } done) shown.Value = done;
                }
        });
    }

    public static void Say(string text) => Surroundings.Here.Out.WriteLine(text);
}
