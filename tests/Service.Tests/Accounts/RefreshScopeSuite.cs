using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;

namespace YardRelay.Service.Tests;

public sealed class SqliteRefreshScopeTests(OnSqlite service) : RefreshScopeSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresRefreshScopeTests(OnPostgres service) : RefreshScopeSuite(service), IClassFixture<OnPostgres>;

/// <summary>An account for single refreshes finds nothing of the others, whatever it asks; a person is one person.</summary>
public abstract class RefreshScopeSuite(RunningService service) : Morning(service)
{
    private const string Nothing = "There is no ";

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
        await Service.WithRecordsAsync(async db =>
        {
            db.Snags.Add(new()
            {
                Id = snag,
                Refresh = other,
                Swap = $"{other}-0001",
                Path = "a",
                Kind = SnagKind.Unreadable,
                Side = "old",
                Reason = "r",
                End = "open"
            });
            return await db.SaveChangesAsync();
        });
        var endpoints = Service.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.RoutePattern.RawText!.StartsWith("/api/", StringComparison.Ordinal)
                && e.Metadata.GetMetadata<IEndpointNameMetadata>() is not null);
        var asked = 0;
        foreach (var endpoint in endpoints)
        {
            var (route, policy) = (endpoint.RoutePattern.RawText!, endpoint.Metadata.GetMetadata<IAuthorizeData>()?.Policy);
            if (policy is null || !Accounts.Roles.Policies[policy].Contains("coordinator")) continue;
            var names = Regex.IsMatch(route, @"\{(refresh|swap|snag|followUp)[:}]");
            if (!names && policy != Accounts.Roles.Leads) continue;
            var path = Regex.Replace(route, @"\{(\w+)(:\w+)?\}", m => m.Groups[1].Value switch
            {
                "refresh" => other,
                "swap" => $"{other}-0001",
                "snag" => snag,
                "followUp" => follow.Id,
                "number" => "1",
                _ => "none"
            });
            foreach (var method in endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods)
            {
                using var request = new HttpRequestMessage(new(method), path);
                if (method != "GET") request.Content = JsonContent.Create(new { });
                using var answer = await limited.SendAsync(request);
                answer.StatusCode.ShouldBe(names ? HttpStatusCode.NotFound : HttpStatusCode.Forbidden, $"{method} {path}");
                (await answer.Content.ReadAsStringAsync()).ShouldContain(names ? Nothing : "whole service", Case.Sensitive, path);
                asked++;
            }
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
