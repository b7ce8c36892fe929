using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;

namespace YardRelay.Service.Tests;

public sealed class SqliteAccountTests(OnSqlite service) : AccountSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresAccountTests(OnPostgres service) : AccountSuite(service), IClassFixture<OnPostgres>;

/// <summary>Who gets in, and how far; on every database.</summary>
public abstract class AccountSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task Every_endpoint_is_open_to_just_the_roles_it_names_and_closed_to_everybody_else()
    {
        var refresh = await service.RefreshAsync();
        var callers = new Dictionary<string, HttpClient>
        {
            ["coordinator"] = Kit,
            ["technician"] = await service.AccountAsync("t1", "technician", "North"),
            ["auditor"] = await service.AccountAsync("a1", "auditor"),
            ["person"] = await service.AccountAsync("p1", "person", refresh),
            ["hand"] = await service.HandAsync(refresh, "KB-1"),
            [""] = service.Browser(),
        };
        var calls = EndpointWalk.Of(service, part => part switch { "refresh" => refresh, "number" => "1", _ => "none" }).ToList();
        calls.Count.ShouldBeGreaterThan(120);
        foreach (var call in calls)
        {
            call.IsOpen.ShouldNotBe(call.Policies.Count == 1, $"{call.Name} must name exactly one policy or be open to all");
            var allowed = call.IsOpen ? callers.Keys.ToArray() : Accounts.Roles.Policies[call.Policies[0]];
            foreach (var (role, caller) in callers)
            {
                // These wait, or end what the caller is signed in by.
                if (call.Name is "GetEvents" or "TakeOrder" or "SignOut" && allowed.Contains(role)) continue;
                using var answer = await call.AskAsync(caller);
                var refused = answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
                refused.ShouldBe(
                    !allowed.Contains(role) && !call.IsOpen, $"{call.Method} {call.Path} ({call.Name}) as '{role}': {answer.StatusCode}");
                if (role.Length == 0 && !call.IsOpen) answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
            }
        }
        (await Kit.GetAsync("api/no/such")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_technician_works_the_swaps_of_their_sites_only()
    {
        var refresh = await service.RefreshAsync();
        var technician = await service.AccountAsync("t-north", "technician", "North");
        (await technician.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).StatusCode
            .ShouldBe(HttpStatusCode.OK);
        (await RunningService.ProblemAsync(
            await technician.PostAsJsonAsync($"api/swaps/{refresh}-0002/orders", new OrderWanted("survey")),
            403))["detail"]!.GetValue<string>()
            .ShouldContain("South");
        (await RunningService.ProblemAsync(
            await technician.PostAsJsonAsync(
                $"api/swaps/{refresh}-0001/sign-offs", new SignOffWanted(SignOffPart.Coordinator), RunningService.Json),
            403))["detail"]!.GetValue<string>()
            .ShouldContain("coordinator");
    }

    [Fact]
    public async Task What_is_sent_for_a_swap_elsewhere_is_refused_before_it_is_read()
    {
        var refresh = await service.RefreshAsync();
        var technician = await service.AccountAsync("t-far", "technician", "North");
        var path = $"api/swaps/{refresh}-0002/checklist/steps/swapped";
        // Larger than any photo, and of no version: neither is looked at for somebody who may not work there.
        using var photo = new ByteArrayContent(new byte[13 << 20]);
        (await RunningService.ProblemAsync(await technician.PutAsync(path + "/photo", photo), 403))["detail"]!.GetValue<string>()
            .ShouldContain("South");
        (await RunningService.ProblemAsync(await technician.PutAsJsonAsync(path, new StepChange("nonsense")), 403))["detail"]!
            .GetValue<string>()
            .ShouldContain("South");
    }

    [Fact]
    public async Task Nothing_but_a_digest_of_any_secret_is_kept()
    {
        var hand = await service.HandAsync(await service.RefreshAsync(), "KB-1");
        var token = hand.DefaultRequestHeaders.Authorization!.Parameter!;
        (await service.WithRecordsAsync(db => db.Tokens.CountAsync(t => t.Sha256 == token || t.Label.Contains(token)))).ShouldBe(0);
        (await service.WithRecordsAsync(db => db.Accounts.CountAsync(a => a.Password == RunningService.Password))).ShouldBe(0);
    }
}
