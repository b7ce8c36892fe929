using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteHandoverTests(OnSqlite service) : HandoverSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresHandoverTests(OnPostgres service) : HandoverSuite(service), IClassFixture<OnPostgres>;

/// <summary>A swap, or a whole day, that goes to colleagues. On every database.</summary>
public abstract class HandoverSuite(RunningService service) : Morning(service)
{
    /// <summary>Ida is Noor's and Sol is Vera's at the same time; the others are Theo's, in the afternoon.</summary>
    private async Task<(string Refresh, string Ida)> AtOnceAsync()
    {
        var refresh = await MorningAsync();
        await BookAsync($"{refresh}-0001", "noor", 30);
        await BookAsync($"{refresh}-0002", "vera", 30);
        foreach (var other in new[] { 3, 4 }) await BookAsync($"{refresh}-000{other}", "theo", 300);
        return (refresh, $"{refresh}-0001");
    }

    [Theory]
    [InlineData("theo", "please", 409, "North")]
    [InlineData("vera", " ", 422, "")]
    [InlineData("noor", "again", 409, "")]
    public async Task A_swap_goes_to_nobody_who_cannot_without_a_note_or_to_whoever_has_it(string to, string note, int status, string words)
    {
        var (_, ida) = await AtOnceAsync();
        (await RefusedAsync(PostAsync($"swaps/{ida}/handovers", new HandoverWanted(to, note)), status)).ShouldContain(words);
        (await Service.SwapAsync(ida)).Swap.Appointment!.Technician.ShouldBe("noor");
    }

    [Fact]
    public async Task A_swap_is_handed_over_with_a_note_and_stands_in_the_other_round()
    {
        var (refresh, ida) = await AtOnceAsync();
        var noor = await Service.AsAsync("noor");
        await OkAsync<HandoverSeen>(noor.PostAsJsonAsync(
            $"api/swaps/{ida}/handovers", new HandoverWanted("vera", "the printer cable is in my bag")));
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Appointment!.Technician, seen.Handover!.Note).ShouldBe(("vera", "the printer cable is in my bag"));
        seen.History[0].Words.ShouldContain("printer cable");
        ((await RoundAsync(refresh, "noor")).Turns.Count, (await RoundAsync(refresh, "vera")).Turns.Count).ShouldBe((0, 4));
    }

    [Fact]
    public async Task Whose_appointment_clashes_is_said_to_whoever_hands_over()
    {
        var (_, ida) = await AtOnceAsync();
        var noor = await Service.AsAsync("noor");
        var passed = await OkAsync<HandoverSeen>(noor.PostAsJsonAsync($"api/swaps/{ida}/handovers", new HandoverWanted("vera", "ill")));
        (passed.From, passed.To, passed.By).ShouldBe(("Noor", "Vera", "noor"));
        passed.Clashes.Single().ShouldContain("Sol Okafor");
    }

    private static readonly DayHandoverWanted ToColleagues = new(["vera", "theo"], "gone home ill");

    /// <summary>All four are Noor's, the first of them under way.</summary>
    private async Task<string> AllOfNoorAsync()
    {
        var refresh = await MorningAsync();
        for (var n = 1; n <= 4; n++) await BookAsync($"{refresh}-000{n}", "noor", n == 1 ? -15 : 60 + (15 * n));
        (await Service.ClaimAsync($"{refresh}-0001", "swapped", new("ticked"))).EnsureSuccessStatusCode();
        return refresh;
    }

    private Task<HttpResponseMessage> DayAsync(string refresh, DayHandoverWanted wanted, HttpClient? by = null) =>
        (by ?? Kit).PostAsJsonAsync($"api/refreshes/{refresh}/technicians/noor/day-handover", wanted, RunningService.Json);

    private async Task<List<(string, DateTimeOffset?)>> StandsAsync(string refresh) =>
        [.. (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Items
            .OrderBy(s => s.Id, StringComparer.Ordinal)
            .Select(s => (s.Appointment?.Technician ?? "", s.Appointment?.Start))];

    [Fact]
    public async Task A_look_at_a_days_handover_changes_nothing_and_says_what_will_be_done()
    {
        var refresh = await AllOfNoorAsync();
        var before = await StandsAsync(refresh);
        var looked = await OkAsync<DayHandoverSeen>(DayAsync(refresh, ToColleagues with { DryRun = true }));
        (looked.Done, looked.Swaps.Count).ShouldBe((false, 4));
        (await StandsAsync(refresh)).ShouldBe(before);
        var done = await OkAsync<DayHandoverSeen>(DayAsync(refresh, ToColleagues));
        done.Swaps.Select(s => (s.Swap, s.To, s.Start)).ShouldBe(looked.Swaps.Select(s => (s.Swap, s.To, s.Start)));
    }

    [Fact]
    public async Task A_day_is_handed_over_by_whose_it_is_and_only_to_others_once()
    {
        var refresh = await AllOfNoorAsync();
        (await RefusedAsync(DayAsync(refresh, ToColleagues, await Service.AsAsync("theo")), 403)).ShouldContain("own day");
        await RefusedAsync(DayAsync(refresh, ToColleagues with { To = ["noor"] }), 404);
        (await DayAsync(refresh, ToColleagues, await Service.AsAsync("noor"))).EnsureSuccessStatusCode();
        (await RefusedAsync(DayAsync(refresh, ToColleagues), 409)).ShouldContain("nothing left");
    }

    [Fact]
    public async Task A_whole_day_goes_to_colleagues_who_can_none_with_two_pairs_of_hands()
    {
        var refresh = await AllOfNoorAsync();
        var before = await StandsAsync(refresh);
        var done = await OkAsync<DayHandoverSeen>(DayAsync(refresh, ToColleagues));
        done.Swaps.ShouldAllBe(s => s.To != null);
        done.Swaps[0].Start.ShouldBe(before[0].Item2, "what is under way goes on where it is");
        var after = await StandsAsync(refresh);
        after.ShouldAllBe(a => a.Item1 == "vera" || a.Item1 == "theo");
        // Theo serves the South only.
        foreach (var n in new[] { 0, 2, 3 }) after[n].Item1.ShouldBe("vera");
        var vera = (await Kit.GetFromJsonAsync<Page<SwapListed>>(
            $"api/refreshes/{refresh}/swaps?technician=vera", RunningService.Json))!.Items
            .Select(s => s.Appointment!)
            .Where(a => a.Start > Service.Now).ToList();
        var parts = vera.SelectMany(a => new[] { (a.Start, End: a.HandsOnUntil), (Start: a.Finish, a.End) }).OrderBy(p => p.Start).ToList();
        for (var i = 1; i < parts.Count; i++) parts[i].Start.ShouldBeGreaterThanOrEqualTo(parts[i - 1].End);
    }

    [Fact]
    public async Task The_next_plan_moves_nobody_back_who_was_handed_over()
    {
        var refresh = await AllOfNoorAsync();
        (await DayAsync(refresh, ToColleagues)).EnsureSuccessStatusCode();
        var after = await StandsAsync(refresh);
        await Service.PublishAsync(refresh, new(Steps: 50));
        (await StandsAsync(refresh)).Select(s => s.Item1).ShouldBe(after.Select(s => s.Item1));
    }
}
