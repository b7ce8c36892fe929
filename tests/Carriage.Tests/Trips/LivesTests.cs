using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>
/// Lives of parcels from seeds (<c>scripts/simulate.sh</c>). One that breaks a promise is made as short as it still breaks it, and told
/// step by step.
/// </summary>
public sealed class LivesTests
{
    private const int Usual = 300;

    [Fact]
    public void Whatever_befalls_a_parcel_what_is_called_whole_comes_back()
    {
        var failed = new List<string>();
        var (lives, steps, kills, cuts) = (0, 0, 0, 0);
        foreach (var seed in Seeds.Of(Usual))
        {
            var life = new Life(seed);
            var broken = Broken(life, LifeStep.Of(seed));
            (lives, steps) = (lives + 1, steps + LifeStep.Of(seed).Count);
            (kills, cuts) = (kills + life.Ended.Kills, cuts + life.Ended.Cuts);
            if (broken is null) continue;
            failed.Add(Shortest(seed, broken));
            if (failed.Count == 5) break;
        }
        if (Environment.GetEnvironmentVariable("YARD_LIVES") is { Length: > 0 } told)
            File.AppendAllText(told, FormattableString.Invariant($"{lives} {steps} {kills} {cuts}\n"));
        failed.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(1566)]
    [InlineData(2275)]
    [InlineData(3633)]
    [InlineData(5036)]
    [InlineData(5258)]
    [InlineData(5406)]
    [InlineData(11294)]
    [InlineData(20120)]
    [InlineData(20250)]
    [InlineData(21320)]
    [InlineData(50253)]
    [InlineData(61356)]
    [InlineData(91906)]
    [InlineData(92179)]
    [InlineData(311082)]
    [InlineData(311147)]
    [InlineData(420443)]
    [InlineData(422311)]
    [InlineData(611395)]
    [InlineData(1002381)]
    [InlineData(2011947)]
    public void A_life_in_which_a_promise_was_once_broken_keeps_it(int seed) => Broken(new(seed), LifeStep.Of(seed)).ShouldBeNull();

    [Fact]
    public void A_life_runs_the_same_each_time()
    {
        foreach (var seed in Seeds.Of(Usual).Where(s => s % 20 == 0))
        {
            var traces = Enumerable.Range(0, 2).Select(_ => new Life(seed)).Select(life =>
            {
                life.Run(LifeStep.Of(seed));
                return life.Trace;
            }).ToList();
            traces[1].ShouldBe(traces[0], $"seed {seed}");
        }
    }

    private static string? Broken(Life life, IReadOnlyList<LifeStep> steps)
    {
        try
        {
            life.Run(steps);
            return null;
        }
        catch (Exception broken)
        {
            return $"{broken.Message}\n{broken.InnerException ?? (broken is BrokenPromiseException ? null : broken)}\n  {life.Story}";
        }
    }

    private static string Shortest(int seed, string broken)
    {
        var steps = LifeStep.Of(seed).ToList();
        for (var at = steps.Count - 1; at >= 0; at--)
        {
            List<LifeStep> fewer = [.. steps.Where((_, i) => i != at)];
            if (Broken(new(seed), fewer) is not { } still) continue;
            (steps, broken) = (fewer, still);
        }
        return $"seed {seed}: {broken}";
    }
}
