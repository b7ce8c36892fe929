using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteOrderTests(OnSqlite service) : OrderSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresOrderTests(OnPostgres service) : OrderSuite(service), IClassFixture<OnPostgres>;

/// <summary>What people are told of the orders that they give. On every database.</summary>
public abstract class OrderSuite(RunningService service) : Morning(service)
{
    private async Task<SignSeen> SignAsync(string swap) => (await Service.SwapAsync(swap)).Swap.Sign;

    private async Task<List<string>> NeedsAsync(string refresh) =>
        [.. (await Kit.GetFromJsonAsync<List<NeedSeen>>($"api/refreshes/{refresh}/needs", RunningService.Json))!.Select(n => n.Words)];

    [Fact]
    public async Task An_order_at_a_computer_without_a_hand_says_so_at_once_and_is_a_need_until_one_is_enrolled()
    {
        var refresh = await MorningAsync();
        await Service.HandAsync(refresh, "KB-3");
        var made = await OkAsync<OrdersMade>(PostAsync(
            $"refreshes/{refresh}/orders", new OrdersWanted("survey", [$"{refresh}-0001", $"{refresh}-0002"])));
        (made.Given, made.WithoutHand.Single()).ShouldBe((2, "KB-1"));
        (await SignAsync($"{refresh}-0001")).Words.ShouldBe("Survey waits: no hand is enrolled at KB-1");
        (await SignAsync($"{refresh}-0002")).Words.ShouldBe("Survey waits for the hand at KB-3");
        (await NeedsAsync(refresh)).ShouldBe(["Survey waits: no hand is enrolled at KB-1"]);
        await Service.HandAsync(refresh, "KB-1");
        (await NeedsAsync(refresh)).ShouldBeEmpty();
    }

    [Fact]
    public async Task An_order_for_many_names_them_or_says_that_all_are_meant()
    {
        var refresh = await MorningAsync();
        await RefusedAsync(PostAsync($"refreshes/{refresh}/orders", new OrdersWanted("survey", [])), 422);
        var all = new OrdersWanted("survey", [], IsAll: true);
        (await OkAsync<OrdersMade>(PostAsync($"refreshes/{refresh}/orders", all))).Given.ShouldBe(4);
    }

    [Fact]
    public async Task What_waits_or_is_under_way_is_withdrawn_and_asked_again_it_answers_the_same()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        await RunningService.ProblemAsync(await Kit.DeleteAsync($"api/swaps/{swap}/order"), 409);
        var hand = await Service.HandAsync(refresh, "KB-1");
        (await Service.OrderAsync(swap, new("survey"))).EnsureSuccessStatusCode();
        var taken = await RunningService.TakeAsync(hand);
        for (var asked = 0; asked < 2; asked++)
            (await OkAsync<OrderSeen>(Kit.DeleteAsync($"api/swaps/{swap}/order"))).State.ShouldBe("withdrawn");
        (await Service.EndAsync(hand, taken, HandReport.Failed("too late"))).IsSuccessStatusCode.ShouldBeFalse("nobody waits for it");
        (await SignAsync(swap)).Sign.ShouldBe("ahead");
        // There is room for another at once.
        (await Service.OrderAsync(swap, new("survey"))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_failure_is_over_once_a_later_order_of_its_kind_is_done_and_not_by_one_of_another_kind()
    {
        var refresh = await MorningAsync();
        var (swap, hand) = ($"{refresh}-0001", await Service.HandAsync(refresh, "KB-1"));
        await Service.DoAsync(swap, "first-trip", hand, RunningService.Result(10, 10));
        await Service.DoAsync(swap, "verify", hand, HandReport.Failed("the disk is gone"));
        (await SignAsync(swap)).Sign.ShouldBe("stopped");
        (await Service.OrderAsync(swap, new("survey"))).EnsureSuccessStatusCode();
        (await SignAsync(swap)).Words.ShouldBe("Verify failed: the disk is gone", "a survey verifies nothing");
        (await Kit.DeleteAsync($"api/swaps/{swap}/order")).EnsureSuccessStatusCode();
        (await Service.OrderAsync(swap, new("verify"))).EnsureSuccessStatusCode();
        await Service.DoAsync(swap, "verify", hand, HandReport.Fine);
        (await SignAsync(swap)).Sign.ShouldNotBe("stopped");
    }
}
