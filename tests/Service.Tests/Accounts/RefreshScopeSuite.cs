using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteRefreshScopeTests(OnSqlite service) : RefreshScopeSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresRefreshScopeTests(OnPostgres service) : RefreshScopeSuite(service), IClassFixture<OnPostgres>;

/// <summary>An account for single refreshes finds nothing of the others, whatever it asks; a person is one person.</summary>
public abstract partial class RefreshScopeSuite(RunningService service) : Morning(service)
{
    private const string Nothing = "There is no ";

    [GeneratedRegex(@"\{(refresh|swap|snag|followUp)[:}]")]
    private static partial Regex Named();

    private async Task<HttpClient> LimitedAsync(string name, string role, string refresh)
    {
        (await Service.Kit.PutAsJsonAsync(
            $"api/accounts/{name}", new AccountWanted(name, role, RunningService.Password, [], null, [refresh]))).EnsureSuccessStatusCode();
        return await Service.AsAsync(name);
    }

    [Fact]
    public async Task Every_endpoint_says_that_nothing_of_another_refresh_is_there_and_leads_none_of_the_service()
    {
        var (own, other) = (await MorningAsync(), await MorningAsync());
        var limited = await LimitedAsync($"lead-{own}", "coordinator", own);
        var follow = await OkAsync<FollowUpSeen>(PostAsync($"swaps/{other}-0001/follow-ups", new FollowUpWanted("call", "kit")));
        var snag = $"snag-{other}";
        await SnagAsync(snag, $"{other}-0001");
        var asked = 0;
        foreach (var call in EndpointWalk.Of(Service, part => part switch
        {
            "refresh" => other,
            "swap" => $"{other}-0001",
            "snag" => snag,
            "followUp" => follow.Id,
            "number" => "1",
            _ => "none"
        }))
        {
            if (call.IsOpen || !Accounts.Roles.Policies[call.Policies[0]].Contains("coordinator")) continue;
            var names = Named().IsMatch(call.Route);
            if (!names && call.Policies[0] != Accounts.Roles.Leads) continue;
            using var answer = await call.AskAsync(limited);
            answer.StatusCode.ShouldBe(names ? HttpStatusCode.NotFound : HttpStatusCode.Forbidden, $"{call.Method} {call.Path}");
            (await answer.Content.ReadAsStringAsync()).ShouldContain(names ? Nothing : "whole service", Case.Sensitive, call.Path);
            asked++;
        }
        asked.ShouldBeGreaterThan(90);
    }

    [Fact]
    public async Task Lists_over_all_refreshes_have_ones_own_and_a_stream_ends_with_the_right_to_it()
    {
        var (own, other) = (await MorningAsync(), await MorningAsync());
        var auditor = await LimitedAsync($"reads-{own}", "auditor", own);
        async Task<List<string>> RefreshesAsync() =>
            [.. (await OkAsync<List<RefreshSeen>>(auditor.GetAsync("api/refreshes"))).Select(r => r.Key)];
        (await RefreshesAsync()).ShouldBe([own]);
        (await OkAsync<Me>(auditor.GetAsync("api/me"))).Refreshes.ShouldBe([own]);
        (await auditor.GetAsync($"api/swaps/{own}-0001")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await auditor.GetAsync($"api/swaps/{other}-0001")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        using var stream = await auditor.GetAsync($"api/refreshes/{own}/events", HttpCompletionOption.ResponseHeadersRead);
        stream.EnsureSuccessStatusCode();
        await LimitedAsync($"reads-{own}", "auditor", other);
        (await RefreshesAsync()).ShouldBe([other]);
        await stream.Content.ReadAsStringAsync().WaitAsync(TimeSpan.FromMinutes(2));
    }

    [Fact]
    public async Task The_same_key_in_another_refresh_is_somebody_else()
    {
        var (own, other) = (await MorningAsync(), await MorningAsync());
        var name = $"ida-{own}";
        var ida = await Service.AccountAsync(name, "person", own);
        (await OkAsync<List<SwapListed>>(ida.GetAsync("api/my-swaps"))).Select(s => s.Id).ShouldBe([$"{own}-0001"]);
        (await OkAsync<PersonPage>(ida.GetAsync("api/person"))).Swap.Id.ShouldBe($"{own}-0001");
        // In the other refresh, a parcel is left to the one whose key is the same.
        await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == $"{other}-0002")
            .ExecuteUpdateAsync(s => s.SetProperty(r => r.Receiver, "k1").SetProperty(r => r.Kind, Core.Swaps.SwapKind.Leave)));
        (await ida.PostAsync($"api/swaps/{other}-0002/receiver/acceptance", null)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        foreach (var refreshes in new[] { Array.Empty<string>(), [own, other] })
        {
            var wanted = new AccountWanted("Ida", "person", RunningService.Password, [], "k1", refreshes);
            await RefusedAsync(Service.Kit.PutAsJsonAsync("api/accounts/nobodys", wanted), 422);
        }
        // Erasing the other one leaves this account.
        await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Refresh == other)
            .ExecuteUpdateAsync(s => s.SetProperty(r => r.CalledOffAt, Service.Now)));
        (await PostAsync($"swaps/{other}-0001/person/erasure", new ErasureWanted("asked"))).EnsureSuccessStatusCode();
        (await ida.GetAsync("api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }
}
