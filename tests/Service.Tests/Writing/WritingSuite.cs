using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Orders;
using YardRelay.Core.Ledger;

namespace YardRelay.Service.Tests;

public sealed class SqliteWritingTests(OnSqlite service) : WritingSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresWritingTests(OnPostgres service) : WritingSuite(service), IClassFixture<OnPostgres>;

/// <summary>What is written is written once, by one chain; on every database.</summary>
public abstract class WritingSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task A_request_repeated_with_its_key_is_done_once_also_at_the_same_moment_and_another_body_is_refused()
    {
        var refresh = await service.RefreshAsync();
        async Task<HttpResponseMessage> GiveAsync(string key, string kind)
        {
            var request = new HttpRequestMessage(HttpMethod.Post, $"api/swaps/{refresh}-0001/orders")
            {
                Content = JsonContent.Create(new OrderWanted(kind))
            };
            request.Headers.Add("Idempotency-Key", key);
            return await Kit.SendAsync(request);
        }

        var key = Guid.NewGuid().ToString();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => GiveAsync(key, "survey")));
        var bodies = await Task.WhenAll(answers.Select(a => a.Content.ReadAsStringAsync()));
        answers.ShouldAllBe(a => a.StatusCode == HttpStatusCode.OK);
        bodies.Select(b => JsonNode.Parse(b)!["id"]!.GetValue<string>()).Distinct().Count().ShouldBe(1);
        (await GiveAsync(key, "survey")).Headers.Contains("Idempotency-Replayed").ShouldBeTrue();
        (await RunningService.ProblemAsync(await GiveAsync(key, "verify"), 422))["code"]!.GetValue<string>()
            .ShouldBe("idempotency.other-body");
        (await service.SwapAsync($"{refresh}-0001")).Orders.Count.ShouldBe(1);
    }

    [Fact]
    public async Task A_changed_or_cut_off_ledger_is_found()
    {
        var refresh = await service.RefreshAsync();
        var head = LedgerHead.TryParse((await Kit.GetFromJsonAsync<RefreshSeen>($"api/refreshes/{refresh}", RunningService.Json))!.Head);
        LedgerChain.Check(await service.LedgerAsync(refresh), head).ShouldBeEmpty();
        await service.WithRecordsAsync(db => db.Ledger.Where(l => l.Refresh == refresh && l.Number == 3)
            .ExecuteUpdateAsync(s => s.SetProperty(l => l.Json, l => l.Json.Replace("\"number\"", "\"Number\""))));
        LedgerChain.Check(await service.LedgerAsync(refresh), head).ShouldContain(f => f.Number == 3);
        await service.WithRecordsAsync(db => db.Ledger.Where(l => l.Refresh == refresh && l.Number >= 3).ExecuteDeleteAsync());
        LedgerChain.Check(await service.LedgerAsync(refresh), null).ShouldBeEmpty();
        LedgerChain.Check(await service.LedgerAsync(refresh), head).Single().What.ShouldContain("cut off");
    }

    [Fact]
    public async Task Many_writers_at_once_keep_one_whole_chain()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        await Task.WhenAll(Enumerable.Range(0, 24).Select(async i =>
            (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/sites/S{i}", new SiteWanted($"Site {i}", 2))).EnsureSuccessStatusCode()));
        var ledger = await service.LedgerAsync(refresh);
        LedgerChain.Check(ledger, null).ShouldBeEmpty();
        ledger.Count(e => e.Json.Contains("site.set", StringComparison.Ordinal)).ShouldBe(26);
    }
}
