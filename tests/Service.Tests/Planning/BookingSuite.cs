using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteBookingTests(OnSqlite service) : BookingSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresBookingTests(OnPostgres service) : BookingSuite(service), IClassFixture<OnPostgres>;

/// <summary>What a published plan books; on every database.</summary>
public abstract class BookingSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task A_plan_books_what_fits_says_why_not_and_moves_nobody_who_was_told_without_need()
    {
        var refresh = await service.RefreshAsync();
        (await RunningService.ProblemAsync(
            await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(Steps: -1)), 422))["code"]!.GetValue<string>()
            .ShouldBe("plan.steps");
        var plan = await service.PublishAsync(refresh, new(200));
        (plan.Appointments.Count, plan.LeftOut.Count).ShouldBe((3, 0));
        var again = await service.PublishAsync(refresh, new(200, Seed: 9));
        again.Appointments.ShouldBe(plan.Appointments, "what was promised is kept");
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/sites/South", new SiteWanted("South", 1))).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(
            await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/sites/South", new SiteWanted("South", -1)), 422))["code"]!.GetValue<string>()
            .ShouldBe("site.benches");
    }
}
