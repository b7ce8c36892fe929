using CsCheck;
using YardRelay.Line.Helping;
using YardRelay.Line.Shown;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>What the command line says of itself, and how its tables fit.</summary>
public sealed class HelpTests
{
    private static Ran Run(params string[] args) =>
        LineWithin.Run(new Dictionary<string, string> { ["YARD_SERVICE"] = "http://127.0.0.1:9", ["YARD_TOKEN"] = "none" }, args);

    [Fact]
    public void The_page_of_commands_is_what_the_program_says() =>
        File.ReadAllText(Path.Combine(Peers.Run.Root, "docs/commands.md"))
            .ShouldBe(Run("help", "--markdown").Out, "scripts/commands.sh writes it anew");

    [Fact]
    public void Every_command_stands_once_in_the_order_of_the_work()
    {
        var page = Run("help").Out;
        var nouns = Group.InOrderOfWork.SelectMany(g => g.Nouns).ToList();
        nouns.ShouldBeUnique();
        nouns.Order().ShouldBe(YardRelay.Line.CommandLine.Nouns.Order());
        foreach (var noun in nouns) page.ShouldContain($"\n  {noun} ");
        Run("--help").Out.ShouldBe(page);
        Run("swap", "order", "--help").Out.ShouldBe(Run("help", "swap", "order").Out);
        Run("swap", "order", "--help").Out.ShouldContain("Examples\n  yardline swap order first-trip autumn-0012");
    }

    [Theory]
    [InlineData("Did you mean swap?", "swpa")]
    [InlineData("Did you mean sign-off?", "swap", "signoff")]
    [InlineData("'yardline help' lists all.", "xylophone")]
    [InlineData("Did you mean --site?", "ready", "--sites", "North")]
    [InlineData("'--status' is no option here.", "swap", "list", "--status")]
    public void A_slip_is_found_before_anything_is_asked_and_what_was_meant_is_said(string said, params string[] args)
    {
        var ran = Run(args);
        (ran.Exit, ran.Out).ShouldBe((2, ""));
        ran.Err.ShouldContain(said);
    }

    [Fact]
    public void A_table_fits_where_it_can_and_no_id_tag_or_time_is_ever_cut() =>
        Gen.Select(Gen.Int[30, 160], Gen.Int[1, 6], Gen.Int[0, 100_000]).Sample((width, rows, seed) =>
        {
            var random = new Random(seed);
            string Words(int most) =>
                string.Join(' ', Enumerable.Range(0, random.Next(1, most)).Select(_ => new string('w', random.Next(1, 9))));
            string[] heads = ["Swap", "Person", "When", "Tag", "Why", "Size", "What may be done"];
            var all = Enumerable.Range(1, rows).Select(i => new[]
            {
                $"autumn-{i:0000}", Words(4), $"Wed {i} Dec 09:45", $"KB-{1000 + i}", Words(12), $"{random.Next(999)}.5 MB", Words(20)
            }).ToList();
            var fit = TableFit.Of(heads, all, width);
            fit.Columns[0].ShouldBe(0);
            fit.LeftOut.ShouldBe(heads.Where((_, i) => !fit.Columns.Contains(i)));
            foreach (var (row, was) in fit.Rows.Zip(all))
                foreach (var (cell, column) in row.Zip(fit.Columns))
                    if (heads[column] is "Swap" or "When" or "Tag" or "Size") cell.ShouldBe(was[column]);
                    else if (cell != was[column]) was[column].ShouldStartWith(cell[..^1]);
            var line = fit.Columns.Select((c, at) => fit.Rows.Select(r => r[at].Length).Append(heads[c].Length).Max() + 3).Sum() + 1;
            if (fit.Columns.Count > 1) line.ShouldBeLessThanOrEqualTo(width);
        });

    [Fact]
    public void Ids_come_from_the_input_and_a_number_is_the_swap_of_that_number_where_a_swap_is_meant()
    {
        IReadOnlyList<string> Meant(string input, params string[] args) => LineWithin.Meant(input, "autumn", args);
        Meant("12, 13\nautumn-0014\n", "swap", "order", "survey", "-").ShouldBe(
            ["swap", "order", "survey", "autumn-0012", "autumn-0013", "autumn-0014"]);
        Meant("", "detour", "late", "45", "45").ShouldBe(["detour", "late", "autumn-0045", "45"]);
        Meant("", "swap", "show", "0007", "--json").ShouldBe(["swap", "show", "autumn-0007", "--json"]);
        Meant("", "hand", "code", "1187").ShouldBe(["hand", "code", "1187"]);
    }
}
