namespace YardRelay.EndToEnd;

/// <summary>Many runs of the command line in one process.</summary>
public sealed class LineTests
{
    private const int Closed = 1000;

    [Fact]
    public void Each_keeps_its_words_and_its_environment_to_itself() => Parallel.For(0, 40, i =>
    {
        var wrong = LineWithin.Run(new Dictionary<string, string>(), "between", "--from", $"system-{i}", "--to", "linux");
        (wrong.Exit, wrong.Out).ShouldBe((2, ""));
        wrong.Err.ShouldStartWith($"'system-{i}' is no system");
        var environment = new Dictionary<string, string>
        {
            ["YARD_SERVICE"] = $"http://127.0.0.1:{Closed + i}",
            ["YARD_TOKEN"] = "none",
            ["YARD_REFRESH"] = "spring"
        };
        var away = LineWithin.Run(environment, "swap", "list");
        (away.Exit, away.Out).ShouldBe((3, ""));
        away.Err.ShouldContain($":{Closed + i}");
        var json = LineWithin.Run(environment, "swap", "list", "--json");
        (json.Exit, json.Err).ShouldBe((3, ""));
        json.Out.ShouldContain("service.unreachable");
    });
}
