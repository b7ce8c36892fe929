using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteReturnVisitTests(OnSqlite service) : ReturnVisitSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresReturnVisitTests(OnPostgres service) : ReturnVisitSuite(service), IClassFixture<OnPostgres>;

/// <summary>Somebody who comes back; on every database.</summary>
public abstract class ReturnVisitSuite(RunningService service) : Morning(service)
{
    [Fact]
    public async Task Somebody_comes_back_at_the_first_time_that_fits_and_later_plans_keep_it()
    {
        var refresh = await MorningAsync();
        var (ida, sol) = ($"{refresh}-0001", $"{refresh}-0002");
        await BookAsync(ida, "noor", -90);
        (await Service.ClaimAsync(ida, "swapped", new("ticked"))).EnsureSuccessStatusCode();
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/follow-ups", new FollowUpWanted("printer", VisitMinutes: 2)), 422);
        await BookAsync(sol, "noor", 30);
        var opened = await OkAsync<FollowUpSeen>((await Service.AsAsync("noor")).PostAsJsonAsync(
                $"api/swaps/{ida}/follow-ups", new FollowUpWanted("The second screen stays dark", VisitMinutes: 25)));
        var visit = opened.Visit.ShouldNotBeNull();
        (visit.Technician, visit.End - visit.Start).ShouldBe(("Noor", TimeSpan.FromMinutes(30)));
        (await RefusedAsync(PostAsync($"swaps/{ida}/follow-ups", new FollowUpWanted("another", VisitMinutes: 25)), 409))
            .ShouldContain("second screen");
        var turn = (await RoundAsync(refresh, "noor")).Turns.Single(t => t.Part == "return");
        (turn.Swap, turn.Promised, turn.Words).ShouldBe((ida, visit.Start, "The second screen stays dark"));

        var plan = await Service.PublishAsync(refresh, new(Steps: 2000));
        plan.Appointments.Single(a => a.Swap == $"{ida}/return")
            .ShouldSatisfyAllConditions(a => a.Start.ShouldBe(visit.Start!.Value), a => a.Technician.ShouldBe("noor"));
        plan.Appointments.ShouldNotContain(
            a => a.Technician == "noor" && a.Swap != $"{ida}/return" && a.Start < visit.End && a.HandsOnUntil > visit.Start,
            "hands are at one desk at a time");
        (await (await Kit.GetAsync($"api/refreshes/{refresh}/plan/export?form=ics")).Content.ReadAsStringAsync())
            .ShouldContain("return visit");
        await OkAsync<FollowUpSeen>(PostAsync($"follow-ups/{opened.Id}/end", new FollowUpEnd("another cable")));
        (await Service.PublishAsync(refresh, new(Steps: 0))).Appointments.ShouldNotContain(a => a.Swap == $"{ida}/return");
        (await RoundAsync(refresh, "noor")).Turns.ShouldNotContain(t => t.Part == "return");
    }
}
