using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>The last trip before a swap, while somebody still works on the old computer.</summary>
public sealed class ClosingTripTests
{
    /// <summary>Something is done whenever what came was noted.</summary>
    private static Given Meanwhile(bool seals, Action<Given, int> what)
    {
        var given = new Given { Seals = seals, IsClosing = true };
        for (var i = 0; i < 9; i++) given.Write($"letter {i}.txt", $"letter {i}");
        var times = 0;
        given.Depot = new DepotThat(given.Depot)
        {
            BeforeSave = path =>
            {
                if (path.Contains("/yard/journal/", StringComparison.Ordinal)) what(given, times++);
            }
        };
        return given;
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task What_changes_and_comes_while_it_runs_comes_along(bool seals)
    {
        using var given = Meanwhile(seals, (given, times) =>
        {
            if (times > 0) return;
            given.Write("letter 0.txt", "LETTER 0");
            given.Write("a new one.txt", "new");
        });
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        File.ReadAllText(Path.Combine(given.Target, "letter 0.txt")).ShouldBe("LETTER 0");
        File.ReadAllText(Path.Combine(given.Target, "a new one.txt")).ShouldBe("new");
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task What_is_written_to_each_time_it_looks_is_named_and_it_ends(bool seals)
    {
        using var given = Meanwhile(seals, (given, times) => given.Write("letter 0.txt", $"letter {times} of a long log"));
        var report = await given.CarryAsync();
        var snag = report.Snags.ShouldHaveSingleItem();
        (snag.Path, snag.Kind, report.IsWhole).ShouldBe(("letter 0.txt", SnagKind.ChangedWhileRead, false));
        (report.Open.Files, report.Added.Files, report.Kept.Files).ShouldBe((0, 9, 0), "a state of it is in the parcel, and counts once");
        given.Depot = ((DepotThat)given.Depot).Inner;
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
    }
}
