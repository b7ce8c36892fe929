using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
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
        await BookAsync($"{refresh}-0002", "vera", 240);
        var noor = await Service.AsAsync("noor");
        await OkAsync<HandoverSeen>(noor.PostAsJsonAsync(
            $"api/swaps/{ida}/handovers", new HandoverWanted("vera", "the printer cable is in my bag")));
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Appointment!.Technician, seen.Handover!.Note).ShouldBe(("vera", "the printer cable is in my bag"));
        seen.History[0].Words.ShouldContain("printer cable");
        ((await RoundAsync(refresh, "noor")).Turns.Count, (await RoundAsync(refresh, "vera")).Turns.Count).ShouldBe((0, 4));
    }

    [Fact]
    public async Task Nobody_is_given_two_swaps_at_once_and_who_is_free_is_said()
    {
        var (refresh, ida) = await AtOnceAsync();
        var before = await StandsAsync(refresh);
        var words = await RefusedAsync(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", "ill")), 409);
        words.ShouldContain("Sol Okafor");
        words.ShouldContain("Nobody else who works there is free then");
        (await StandsAsync(refresh)).ShouldBe(before);
        // With Sol in other hands Vera is free for Ida.
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{refresh}-0002/handovers", new HandoverWanted("theo", "Ida first")));
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", "ill")));
    }

    [Fact]
    public async Task After_a_handover_the_plan_on_record_has_every_visit_once_and_all_that_it_had()
    {
        var (refresh, ida) = await AtOnceAsync();
        await BookAsync($"{refresh}-0002", "vera", 240);
        // Days away, with a return visit: the handover looks at neither.
        await BookAsync($"{refresh}-0003", "theo", 4 * 24 * 60);
        await OkAsync<FollowUpSeen>(PostAsync($"swaps/{refresh}-0003/follow-ups", new FollowUpWanted("cable", VisitMinutes: 30)));
        async Task<List<string>> OnRecordAsync() =>
            [.. (await Kit.GetFromJsonAsync<PlanSeen>($"api/refreshes/{refresh}/plan", RunningService.Json))!.Appointments
                .Select(a => $"{a.Swap}{(a.IsBench ? " bench" : "")}")
                .Order(StringComparer.Ordinal)];
        var before = await OnRecordAsync();
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", "ill")));
        (await OnRecordAsync()).ShouldBe(before);
        before.ShouldContain($"{refresh}-0003/return");
    }

    [Fact]
    public async Task A_technician_is_not_told_whom_a_colleague_has_at_other_sites()
    {
        var (refresh, ida) = await AtOnceAsync();
        var north = await Service.AccountAsync($"north{refresh}", "technician", "North");
        var asked = north.PostAsJsonAsync($"api/swaps/{ida}/handovers", new HandoverWanted("vera", "ill"), RunningService.Json);
        var words = await RefusedAsync(asked, 409);
        words.ShouldContain("Vera is with somebody at another site");
        words.ShouldNotContain("Sol");
    }

    [Fact]
    public async Task Whose_appointment_changes_is_said_before_and_nothing_else_changes()
    {
        var (refresh, ida) = await AtOnceAsync();
        await BookAsync($"{refresh}-0002", "vera", 240);
        var before = await StandsAsync(refresh);
        var looked = await OkAsync<HandoverSeen>(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", "ill", DryRun: true)));
        (looked.Done, looked.Changes[^1]).ShouldBe((false, "Nobody else's appointment changes."));
        looked.Changes[0].ShouldContain("Vera instead of Noor");
        (await StandsAsync(refresh)).ShouldBe(before, "it was only looked at");
        var done = await OkAsync<HandoverSeen>(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", "ill")));
        done.Changes.ShouldBe(looked.Changes);
        before[0] = ("vera", before[0].Item2);
        (await StandsAsync(refresh)).ShouldBe(before);
    }

    [Fact]
    public async Task A_draft_that_was_made_before_a_handover_does_not_take_it_back()
    {
        var (refresh, ida) = await AtOnceAsync();
        await BookAsync($"{refresh}-0002", "vera", 240);
        await OkAsync<PlanSeen>(PostAsync($"refreshes/{refresh}/plan", new PlanWanted(Steps: 0)));
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", "ill")));
        var draft = (await Kit.GetFromJsonAsync<PlanSeen>($"api/refreshes/{refresh}/plan", RunningService.Json))!;
        draft.Appointments.Single(a => a.Swap == ida).Technician.ShouldBe("vera");
        var publish = new HttpRequestMessage(HttpMethod.Post, $"api/refreshes/{refresh}/plan/publication");
        publish.Headers.IfMatch.Add(new($"\"{draft.Version}\""));
        (await Kit.SendAsync(publish)).EnsureSuccessStatusCode();
        (await Service.SwapAsync(ida)).Swap.Appointment!.Technician.ShouldBe("vera");
        // And a plan that is made now starts from it.
        var again = await OkAsync<PlanSeen>(PostAsync($"refreshes/{refresh}/plan", new PlanWanted(Steps: 0)));
        again.Appointments.Single(a => a.Swap == ida).Technician.ShouldBe("vera");
    }

    /// <summary>Bookings as a day makes them: late, at once, under way, with two technicians and in their absence.</summary>
    [Fact]
    public async Task However_a_day_stands_when_it_is_handed_over_nobody_has_two_swaps_at_once_and_what_has_begun_keeps_its_time()
    {
        var refresh = await MorningAsync();
        for (var seed = 1; seed <= 12; seed++)
        {
            var random = new Random(seed);
            for (var n = 1; n <= 4; n++)
                await BookAsync($"{refresh}-000{n}", random.Next(3) == 0 ? "vera" : "noor", 15 * random.Next(-6, 30));
            await Service.WithRecordsAsync(db => db.Technicians.Where(t => t.Refresh == refresh)
                .ExecuteUpdateAsync(t => t.SetProperty(x => x.Absences, new List<string>())));
            var before = await BookedAsync(refresh);
            var clashedBefore = Clashes(before).ToHashSet();
            var answer = await DayAsync(refresh, ToColleagues);
            if (answer.StatusCode == System.Net.HttpStatusCode.Conflict) continue;
            var lines = (await OkAsync<DayHandoverSeen>(Task.FromResult(answer))).Swaps;
            var after = await BookedAsync(refresh);
            Clashes(after).Except(clashedBefore).ShouldBeEmpty($"seed {seed}");
            foreach (var was in before.Where(s => s.Start <= Service.Now))
                after.Single(s => s.Id == was.Id).Start.ShouldBe(was.Start, $"seed {seed}: {was.Id} has begun or is due");
            foreach (var was in before.Where(s => s.Technician != "noor"))
                after.Single(s => s.Id == was.Id).ShouldBe(was, $"seed {seed}: nobody else's appointment changes");
            lines.Count(l => l.To is not null).ShouldBe(
                before.Count(b => b.Technician == "noor" && after.Single(a => a.Id == b.Id).Technician is { } now && now != "noor"));
        }
    }

    private sealed record BookedNow(
        string Id, string? Technician, DateTimeOffset? Start, DateTimeOffset? Until, DateTimeOffset? Finish, DateTimeOffset? End);

    private Task<List<BookedNow>> BookedAsync(string refresh) => Service.WithRecordsAsync(db => db.Swaps.AsNoTracking()
        .Where(s => s.Refresh == refresh)
        .OrderBy(s => s.Id)
        .Select(s => new BookedNow(s.Id, s.Technician, s.Start, s.HandsOnUntil, s.Finish, s.End))
        .ToListAsync());

    // Of what is still ahead: hands that were in two places this morning are no fault of a handover.
    private IEnumerable<(string, string)> Clashes(List<BookedNow> booked)
    {
        (DateTimeOffset From, DateTimeOffset To)[] Ahead(BookedNow s) =>
            [.. new[] { (From: s.Start!.Value, To: s.Until!.Value), (From: s.Finish!.Value, To: s.End!.Value) }
                .Where(p => p.To > Service.Now)];
        return from a in booked
               from b in booked
               where string.CompareOrdinal(a.Id, b.Id) < 0 && a.Technician is not null && a.Technician == b.Technician
               where Ahead(a).Any(x => Ahead(b).Any(y => x.From < y.To && y.From < x.To))
               select (a.Id, b.Id);
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
