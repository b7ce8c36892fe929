using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Orders;

namespace YardRelay.Service.Tests;

public sealed class SqliteHandTests(OnSqlite service) : HandSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresHandTests(OnPostgres service) : HandSuite(service), IClassFixture<OnPostgres>;

/// <summary>Hands that enrol, ask for orders and report; on every database.</summary>
public abstract class HandSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task A_code_enrols_one_hand_once_at_its_own_computer_and_a_new_hand_replaces_the_old_one()
    {
        var refresh = await service.RefreshAsync();
        var code = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"))).Content
            .ReadFromJsonAsync<CodeMade>(RunningService.Json))!.Code;
        var nobody = service.Nobody();
        foreach (var (wrong, tag) in new[] { ("AAAA-BBBB-CCCC-DDDD", "KB-1"), (code, "KB-2") })
            (await RunningService.ProblemAsync(
                await nobody.PostAsJsonAsync("api/hand/enrol", new EnrolWanted(wrong, tag, "h")), 403))["code"]!.GetValue<string>()
                .ShouldBe("hand.code-wrong");
        (await nobody.PostAsJsonAsync("api/hand/enrol", new EnrolWanted(code.ToLowerInvariant(), "KB-1", "h"))).StatusCode
            .ShouldBe(HttpStatusCode.OK);
        (await RunningService.ProblemAsync(
            await nobody.PostAsJsonAsync("api/hand/enrol", new EnrolWanted(code, "KB-1", "h")), 403))["detail"]!.GetValue<string>()
            .ShouldContain("used already");
        var first = await service.HandAsync(refresh, "KB-1");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        var order = await RunningService.TakeAsync(first);
        var second = await service.HandAsync(refresh, "KB-1");
        (await first.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        var again = await RunningService.TakeAsync(second);
        (again.Id, again.Attempt).ShouldBe((order.Id, 2));
        ((int)(await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted("KB-999"))).StatusCode).ShouldBe(404);
    }

    [Fact]
    public async Task A_hand_that_replaces_a_living_one_is_told_of_it_and_the_ledger_keeps_it()
    {
        var refresh = await service.RefreshAsync();
        async Task<Enrolled> EnrolAsync(string host)
        {
            var code = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"))).Content
                .ReadFromJsonAsync<CodeMade>(RunningService.Json))!.Code;
            return (await (await service.Nobody().PostAsJsonAsync("api/hand/enrol", new EnrolWanted(code, "KB-1", host))).Content
                .ReadFromJsonAsync<Enrolled>(RunningService.Json))!;
        }

        var first = await EnrolAsync("bench-1");
        first.Instead.ShouldBeNull();
        var hand = service.Nobody();
        hand.DefaultRequestHeaders.Authorization = new("Bearer", first.Token);
        hand.DefaultRequestHeaders.Add(HandProtocol.VersionHeader, "9.8.7");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        await RunningService.TakeAsync(hand);
        var seen = (await Kit.GetFromJsonAsync<Page<HandSeen>>(
            $"api/refreshes/{refresh}/hands?q=BENCH", RunningService.Json))!.Items.ShouldHaveSingleItem();
        (seen.Tag, seen.Host, seen.Version, seen.Order, seen.Name, seen.HeardAt is not null)
            .ShouldBe(("KB-1", "bench-1", "9.8.7", "Survey", "Ida Moreau", true));
        var instead = (await EnrolAsync("bench-2")).Instead.ShouldNotBeNull();
        instead.ShouldContain("bench-1");
        instead.ShouldContain("heard of just now");
        instead.ShouldContain("survey");
        (await service.WithRecordsAsync(db => db.Ledger.Where(l => l.Refresh == refresh && l.Kind == "hand.enrolled")
            .OrderBy(l => l.Number).Select(l => l.Words).ToListAsync()))[^1].ShouldContain("in place of the hand on bench-1");
    }

    [Fact]
    public async Task A_hand_that_is_withdrawn_while_it_waits_is_told_by_whom_and_its_order_waits_for_another()
    {
        var refresh = await service.RefreshAsync();
        var first = await service.HandAsync(refresh, "KB-1");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        var order = await RunningService.TakeAsync(first);
        var spare = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"))).Content
            .ReadFromJsonAsync<CodeMade>(RunningService.Json))!.Code;
        var withdrawn = (await (await Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-1")).Content
            .ReadFromJsonAsync<HandWithdrawn>(RunningService.Json))!;
        (withdrawn.Hand!.Order, withdrawn.Codes).ShouldBe(("Survey", 1));
        var late = await first.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1", new OrderReport(order.Attempt, service.Now, null, null), RunningService.Json);
        (await RunningService.ProblemAsync(late, 401)).ToJsonString().ShouldContain("withdrawn by kit");
        await RunningService.ProblemAsync(
            await service.Nobody().PostAsJsonAsync("api/hand/enrol", new EnrolWanted(spare, "KB-1", "h")), 403);
        await RunningService.ProblemAsync(await Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-1"), 404);
        await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"));
        (await (await Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-1")).Content
            .ReadFromJsonAsync<HandWithdrawn>(RunningService.Json)).ShouldBe(new HandWithdrawn(null, 1));
        (await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-1"))).Attempt.ShouldBe(2);
        var waiting = (await service.HandAsync(refresh, "KB-2")).PostAsync("api/hand/orders/next?waitSeconds=25", null);
        await Task.Delay(300, TestContext.Current.CancellationToken);
        (await Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-2")).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(
            await waiting.WaitAsync(TimeSpan.FromMinutes(2), TestContext.Current.CancellationToken), 401)).ToJsonString()
            .ShouldContain("withdrawn by kit");
    }

    [Fact]
    public async Task A_hand_that_is_replaced_while_it_waits_is_told_at_once_and_gets_no_order_any_more()
    {
        var refresh = await service.RefreshAsync();
        var first = await service.HandAsync(refresh, "KB-1");
        var waiting = first.PostAsync("api/hand/orders/next?waitSeconds=25", null);
        await Task.Delay(300, TestContext.Current.CancellationToken);
        var second = await service.HandAsync(refresh, "KB-1");
        (await RunningService.ProblemAsync(
            await waiting.WaitAsync(TimeSpan.FromMinutes(2), TestContext.Current.CancellationToken), 401))["code"]!.GetValue<string>()
            .ShouldBe("hand.replaced");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        (await RunningService.TakeAsync(second)).Attempt.ShouldBe(1);
    }

    [Fact]
    public async Task Numbered_batches_may_be_repeated_but_not_skipped_and_an_expired_lease_goes_to_whoever_asks_next()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        (await hand.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var waiting = RunningService.TakeAsync(hand);
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        var order = await waiting;
        OrderReport Progress(int attempt, long files) => new(attempt, service.Now, new(files, 10, 0, 0, 0), null);
        async Task<HttpResponseMessage> SendAsync(int number, OrderReport report) =>
            await hand.PostAsJsonAsync($"api/hand/orders/{order.Id}/reports/{number}", report, RunningService.Json);
        (await SendAsync(1, Progress(1, 3))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await SendAsync(1, Progress(1, 9))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await service.SwapAsync($"{refresh}-0001")).Swap.Moving!.Files.ShouldBe(3);
        (await RunningService.ProblemAsync(await SendAsync(3, Progress(1, 4)), 409))["code"]!.GetValue<string>()
            .ShouldBe("order.batch-missing");
        service.Clock.Jump(Lease.Length + TimeSpan.FromSeconds(1));
        (await RunningService.TakeAsync(hand)).Attempt.ShouldBe(2);
        (await RunningService.ProblemAsync(
            await SendAsync(2, new(1, service.Now, null, RunningService.Result(1, 0).Of(order.Work))), 409))["code"]!.GetValue<string>()
            .ShouldBe("order.lease-lost");
        for (var i = 0; i < 2; i++)
            (await SendAsync(1, new(2, service.Now, null, RunningService.Result(7, 0).Of(order.Work)))).StatusCode
                .ShouldBe(HttpStatusCode.OK);
        (await service.SwapAsync($"{refresh}-0001")).Total.Old.Files.ShouldBe(7);
        (await service.LedgerAsync(refresh)).Count(e => e.Json.Contains("order.done", StringComparison.Ordinal)).ShouldBe(1);
    }

    [Fact]
    public async Task A_hand_of_another_version_is_told_so_in_words_gets_no_order_and_strands_none()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        foreach (var (number, code) in new[]
        {
            (null, "hand.older"), ($"{HandProtocol.Number - 1}", "hand.older"), ($"{HandProtocol.Number + 1}", "hand.newer")
        })
        {
            hand.DefaultRequestHeaders.Remove(HandProtocol.Header);
            if (number is not null) hand.DefaultRequestHeaders.Add(HandProtocol.Header, number);
            var refused = await RunningService.ProblemAsync(await hand.PostAsync("api/hand/orders/next?waitSeconds=0", null), 409);
            (refused["code"]!.GetValue<string>(), refused["detail"]!.GetValue<string>()).ShouldSatisfyAllConditions(
                p => p.Item1.ShouldBe(code), p => p.Item2.ShouldContain("yardhand"));
            // What one of before tells of an order that it had is refused, too, so that it stops.
            var old = new { attempt = 1, at = service.Now, progress = (object?)null, result = new { isWhole = true } };
            await RunningService.ProblemAsync(await hand.PostAsJsonAsync("api/hand/orders/any/reports/1", old), 409);
        }
        hand.DefaultRequestHeaders.Remove(HandProtocol.Header);
        hand.DefaultRequestHeaders.Add(HandProtocol.Header, HandProtocol.Number.ToString());
        (await RunningService.TakeAsync(hand)).Attempt.ShouldBe(1);
    }

    [Fact]
    public async Task What_a_hand_tells_of_another_kind_of_order_is_refused_and_changes_nothing()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("first-trip"));
        var order = await RunningService.TakeAsync(hand);
        var refused = await hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1",
            new OrderReport(order.Attempt, service.Now, null, new Verified(0)),
            RunningService.Json);
        (await RunningService.ProblemAsync(refused, 422))["code"]!.GetValue<string>().ShouldBe("order.outcome");
        (await service.SwapAsync($"{refresh}-0001")).Orders.ShouldHaveSingleItem().State.ShouldBe("under-way");
        (await service.EndAsync(hand, order, RunningService.Result(3, 3))).StatusCode.ShouldBe(HttpStatusCode.OK);
    }
}
