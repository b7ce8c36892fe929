using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteRoundTests(OnSqlite service) : RoundSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresRoundTests(OnPostgres service) : RoundSuite(service), IClassFixture<OnPostgres>;

/// <summary>A technician's round: whose turn it is, and when hands are free. On every database.</summary>
public abstract class RoundSuite(RunningService service) : Morning(service)
{
    /// <summary>Ida's and Sol's swaps are Noor's this morning, half an hour apart; the others are Vera's.</summary>
    private async Task<(string Refresh, string Ida, string Sol)> TwoOfNoorAsync()
    {
        var refresh = await MorningAsync();
        var (ida, sol) = ($"{refresh}-0001", $"{refresh}-0002");
        foreach (var other in new[] { 3, 4 }) await BookAsync($"{refresh}-000{other}", "vera", 100);
        await BookAsync(ida, "noor", 0);
        await BookAsync(sol, "noor", 30);
        return (refresh, ida, sol);
    }

    /// <summary>Noor has begun at Ida's desk, and the first trip is under way.</summary>
    private async Task<(HttpClient Hand, OrderTaken Order)> BegunAsync(string ida, string refresh)
    {
        await Service.WorkAsync(ida, s => s.Phase is "before" or "swap" && s.Key is not "swapped");
        var hand = await Service.HandAsync(refresh, "KB-1");
        (await PostAsync($"swaps/{ida}/orders", new OrderWanted("first-trip"))).EnsureSuccessStatusCode();
        return (hand, await RunningService.TakeAsync(hand));
    }

    [Fact]
    public async Task A_round_names_the_turns_in_their_order_with_the_step_that_is_next()
    {
        var (refresh, ida, sol) = await TwoOfNoorAsync();
        var round = await RoundAsync(refresh, "noor");
        round.Turns.Select(t => (t.Swap, t.Part)).ShouldBe([(ida, "first"), (sol, "first"), (ida, "back"), (sol, "back")]);
        (round.Turns[0].StepTitle, round.Alone.Count).ShouldBe((
            (await Service.SwapAsync(ida)).Checklist.Steps.First(s => s.State == "open" && s.Kind != "automatic").Title, 0));
    }

    [Fact]
    public async Task What_was_begun_is_gone_on_with()
    {
        var (refresh, ida, _) = await TwoOfNoorAsync();
        await Service.WorkAsync(ida, s => s.Phase is "before" or "swap" && s.Key is not "swapped");
        (await RoundAsync(refresh, "noor")).Turns[0].ShouldSatisfyAllConditions(t => t.Swap.ShouldBe(ida), t => t.Part.ShouldBe("go-on"));
    }

    [Fact]
    public async Task While_an_order_is_under_way_the_hands_are_free_for_the_next()
    {
        var (refresh, ida, sol) = await TwoOfNoorAsync();
        await BegunAsync(ida, refresh);
        var round = await RoundAsync(refresh, "noor");
        (round.Alone.Single().Swap, round.Turns[0].Swap).ShouldBe((ida, sol));
    }

    [Fact]
    public async Task When_the_unattended_part_is_over_it_calls_back()
    {
        var (refresh, ida, _) = await TwoOfNoorAsync();
        var (hand, order) = await BegunAsync(ida, refresh);
        (await Service.EndAsync(hand, order, RunningService.Result(10, 10))).EnsureSuccessStatusCode();
        await Service.DoAsync(ida, "verify", hand, HandReport.Fine);
        var round = await RoundAsync(refresh, "noor");
        (round.Turns[0].Swap, round.Turns[0].Part, round.Alone.Count).ShouldBe((ida, "back", 0));
        round.Turns[0].Words.ShouldContain("over");
    }

    [Fact]
    public async Task Who_is_no_technician_has_no_round() =>
        (await RefusedAsync(Kit.GetAsync($"api/refreshes/{await MorningAsync()}/round"), 404)).ShouldContain("'kit' is no technician");
}
