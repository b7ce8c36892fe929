using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
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
        var endpoints = service.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.RoutePattern.RawText!.StartsWith("/api/", StringComparison.Ordinal)
                && e.Metadata.GetMetadata<IEndpointNameMetadata>() is not null).ToList();
        endpoints.Count.ShouldBeGreaterThan(28);
        foreach (var endpoint in endpoints)
        {
            var name = endpoint.Metadata.GetMetadata<IEndpointNameMetadata>()!.EndpointName;
            var open = endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null;
            var policy = endpoint.Metadata.GetOrderedMetadata<IAuthorizeData>().Select(a => a.Policy).SingleOrDefault();
            open.ShouldNotBe(policy is not null, $"{name} must name exactly one policy or be open to all");
            var allowed = open ? callers.Keys.ToArray() : Accounts.Roles.Policies[policy!];
            var path = System.Text.RegularExpressions.Regex.Replace(
                endpoint.RoutePattern.RawText!,
                @"\{(\w+)(:\w+)?\}",
                m => m.Groups[1].Value switch { "refresh" => refresh, "number" => "1", _ => "none" });
            foreach (var (role, caller) in callers)
                foreach (var method in endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods)
                {
                    // These wait, or end what the caller is signed in by.
                    if (name is "GetEvents" or "TakeOrder" or "SignOut" && allowed.Contains(role)) continue;
                    using var request = new HttpRequestMessage(new(method), path);
                    if (method != "GET") request.Content = JsonContent.Create(new { });
                    using var answer = await caller.SendAsync(request);
                    var refused = answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
                    refused.ShouldBe(!allowed.Contains(role) && !open, $"{method} {path} ({name}) as '{role}': {answer.StatusCode}");
                    if (role.Length == 0 && !open) answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
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
