using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.FollowUps;
using YardRelay.Core.SignOffs;

namespace YardRelay.Service.Tests;

public sealed class SqliteFollowUpTests(OnSqlite service) : FollowUpSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresFollowUpTests(OnPostgres service) : FollowUpSuite(service), IClassFixture<OnPostgres>;

/// <summary>What is left to do after a visit, with an owner and a time. On every database.</summary>
public abstract class FollowUpSuite(RunningService service) : Morning(service)
{
    private Task<FollowUpSeen> OpenAsync(string swap, FollowUpWanted wanted) =>
        OkAsync<FollowUpSeen>(PostAsync($"swaps/{swap}/follow-ups", wanted));

    [Fact]
    public async Task Its_owner_is_somebody_who_works_here()
    {
        var swap = $"{await MorningAsync()}-0001";
        var person = "p" + swap[..^5];
        await Service.AccountAsync(person, "person", swap[..^5]);
        foreach (var owner in new[] { "nobody", person })
            await RefusedAsync(PostAsync($"swaps/{swap}/follow-ups", new FollowUpWanted("call", owner)), 422);
    }

    [Fact]
    public async Task What_it_holds_stays_shut_until_it_is_ended()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        await FinishAsync(refresh, swap, "KB-1", "KB-2");
        var open = await OpenAsync(swap, new("Printer does not answer", "noor", Holds: FollowUpHold.SignOff));
        (await RefusedAsync(PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician)), 409))
            .ShouldContain("Printer does not answer (noor)");
        (await PostAsync($"follow-ups/{open.Id}/end", new FollowUpEnd("new cable"))).EnsureSuccessStatusCode();
        (await PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task When_its_time_has_come_it_stands_under_today_and_with_its_owner()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        var open = await OpenAsync(swap, new("Printer does not answer", "noor", Service.Now.AddHours(-1)));
        await OpenAsync(swap, new("Scanner in a week", "vera", Service.Now.AddDays(7)));
        (await Kit.GetFromJsonAsync<List<FollowUpSeen>>($"api/refreshes/{refresh}/follow-ups?owner=noor", RunningService.Json))!
            .Select(f => f.Id).ShouldBe([open.Id]);
        var needs = (await Kit.GetFromJsonAsync<DaySeen>($"api/refreshes/{refresh}/today", RunningService.Json))!.Needs;
        needs.ShouldContain(n => n.Words.Contains("Printer", StringComparison.Ordinal));
        needs.ShouldNotContain(n => n.Words.Contains("Scanner", StringComparison.Ordinal));
    }

    [Fact]
    public async Task It_goes_to_somebody_else_while_it_is_open_and_not_after()
    {
        var swap = $"{await MorningAsync()}-0001";
        var open = await OpenAsync(swap, new("Printer does not answer", "noor"));
        Task<HttpResponseMessage> ToAsync(string owner) =>
            Kit.PutAsJsonAsync($"api/follow-ups/{open.Id}", new FollowUpChange(Owner: owner), RunningService.Json);
        (await OkAsync<FollowUpSeen>(ToAsync("vera"))).Owner.ShouldBe("vera");
        (await PostAsync($"follow-ups/{open.Id}/end", new FollowUpEnd("new cable"))).EnsureSuccessStatusCode();
        (await RefusedAsync(ToAsync("noor"), 409)).ShouldContain("new cable");
    }

    [Fact]
    public async Task It_ends_once_however_often_it_is_said()
    {
        var swap = $"{await MorningAsync()}-0001";
        var open = await OpenAsync(swap, new("Printer does not answer", "noor"));
        foreach (var words in new[] { "new cable", "new cable", "another cable" })
            (await OkAsync<FollowUpSeen>(PostAsync($"follow-ups/{open.Id}/end", new FollowUpEnd(words)))).Outcome.ShouldBe("new cable");
        (await Service.SwapAsync(swap)).History.Count(h => h.Kind == "follow-up.done").ShouldBe(1);
    }
}
