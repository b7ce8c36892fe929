using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteBegunTests(OnSqlite service) : BegunSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresBegunTests(OnPostgres service) : BegunSuite(service), IClassFixture<OnPostgres>;

/// <summary>Parcels whose first trip has begun and may never end.</summary>
public abstract class BegunSuite(RunningService service)
{
    private const string Key = "AGE-SECRET-KEY-1X";

    private HttpClient Kit => service.Kit;

    private static Task<HttpResponseMessage> BeginAsync(HttpClient hand, OrderTaken order, string id, int attempt, int batch = 1) =>
        hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/{batch}",
            new OrderReport(attempt, DateTimeOffset.UnixEpoch, new(1, 10, 10, 100, 5), Begun: new(id, Key)),
            RunningService.Json);

    /// <summary>A swap whose first trip has told which parcel it began, in a refresh that has a rescue, too.</summary>
    private async Task<(string Refresh, string Swap, HttpClient Hand, OrderTaken Order)> BegunAsync()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        (await service.RosterAsync(
            refresh,
            "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North,renew,KB-1,KB-2\nk4,Ida Moreau,North,rescue,,KB-8\n"))
            .EnsureSuccessStatusCode();
        var (swap, hand) = ($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        (await service.OrderAsync(swap, new("first-trip"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (await BeginAsync(hand, order, "the-id", order.Attempt)).EnsureSuccessStatusCode();
        return (refresh, swap, hand, order);
    }

    private static async Task FailAsync(HttpClient hand, OrderTaken order) =>
        (await hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/2",
            new OrderReport(order.Attempt, DateTimeOffset.UnixEpoch, null, new NotDone("The cable was pulled.")),
            RunningService.Json)).EnsureSuccessStatusCode();

    private Task<HttpResponseMessage> MoveAsync(string refresh, string swap, string depot) =>
        Kit.PostAsJsonAsync($"api/refreshes/{refresh}/swaps/edits", new SwapEdit([swap], Depot: depot), RunningService.Json);

    [Fact]
    public async Task What_a_lost_computer_had_brought_before_its_first_trip_broke_off_serves_a_rescue_and_its_key_is_known()
    {
        var (refresh, swap, hand, order) = await BegunAsync();
        await FailAsync(hand, order);
        var lost = (await Kit.GetFromJsonAsync<List<LostComputer>>("api/lost-computers?q=kb-1", RunningService.Json))!
            .Single(l => l.Swap == swap);
        (lost.LastTripAt, lost.Refusal).ShouldBe((null, null));

        var served = await Kit.PutAsJsonAsync($"api/swaps/{refresh}-0002/rescue", new RescueWanted(swap, "KB-1"));

        served.EnsureSuccessStatusCode();
        (await served.Content.ReadFromJsonAsync<RescueSeen>(RunningService.Json))!.Words.ShouldContain("broke off");
        (await service.OrderAsync($"{refresh}-0002", new("restore"))).EnsureSuccessStatusCode();
        var restore = await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-8"));
        (restore.Work.At!.ParcelId, restore.Work.At.ParcelKey).ShouldBe(("the-id", Key));
        restore.Work.ShouldBeOfType<RestoreWork>().Unfinished.ShouldBeTrue();
    }

    [Fact]
    public async Task Once_it_landed_all_that_came_is_in_the_account_and_the_rescue_is_restored()
    {
        var (refresh, swap, hand, order) = await BegunAsync();
        await FailAsync(hand, order);
        var rescue = $"{refresh}-0002";
        (await Kit.PutAsJsonAsync($"api/swaps/{rescue}/rescue", new RescueWanted(swap, "KB-1"))).EnsureSuccessStatusCode();
        await service.DoAsync(
            rescue, "restore", await service.HandAsync(refresh, "KB-8"), RunningService.Result(7, 7) with { Unfinished = true });
        var seen = await service.SwapAsync(rescue);
        (seen.Total.Old.Files, seen.Total.InDepot.Files, seen.Total.OnNew!.Value.Files, seen.Total.Unexplained).ShouldBe((7, 7, 7, 0));
        seen.Swap.Line.Single(s => s.Station == Station.Restored).At.ShouldNotBeNull();
    }

    [Fact]
    public async Task It_is_told_by_the_hand_that_has_the_order_and_the_next_try_may_begin_another()
    {
        var (_, swap, hand, order) = await BegunAsync();
        await RunningService.ProblemAsync(await BeginAsync(hand, order, "another", order.Attempt + 1, batch: 2), 409);
        (await BeginAsync(hand, order, "another", order.Attempt, batch: 1)).EnsureSuccessStatusCode();
        await FailAsync(hand, order);
        (await service.OrderAsync(swap, new("first-trip"))).EnsureSuccessStatusCode();
        var again = await RunningService.TakeAsync(hand);
        again.Work.At!.ParcelId.ShouldBe("the-id", "a batch that came before changes nothing");
        (await BeginAsync(hand, again, "anew", again.Attempt)).EnsureSuccessStatusCode();
        (await service.WithRecordsAsync(async db => (await db.Swaps.FindAsync(swap))!.ParcelId)).ShouldBe("anew");
    }

    [Fact]
    public async Task A_trip_that_is_over_before_its_first_report_tells_both_at_once()
    {
        var refresh = await service.RefreshAsync();
        var (swap, hand) = ($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        (await service.OrderAsync(swap, new("first-trip"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        var outcome = (RunningService.Result(3, 3) with { ParcelId = "the-id", ParcelKey = Key }).Of(order.Work);
        (await hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1",
            new OrderReport(order.Attempt, DateTimeOffset.UnixEpoch, null, outcome, Begun: new("the-id", Key)), RunningService.Json))
            .EnsureSuccessStatusCode();
        ((await service.SwapAsync(swap)).Parcel!.Trips, (await RunningService.TakeAsync(hand)).Work.At!.ParcelKey).ShouldBe((1, Key));
    }

    [Fact]
    public async Task It_can_be_purged_and_begun_anew()
    {
        var (_, swap, hand, order) = await BegunAsync();
        await FailAsync(hand, order);
        var parcel = (await service.SwapAsync(swap)).Parcel!;
        (parcel.Begun, parcel.Trips, parcel.Hold.Missing.Count).ShouldBe((true, 0, 0));
        (await service.OrderAsync(swap, new("purge", Confirm: parcel.Name))).EnsureSuccessStatusCode();
        (await service.EndAsync(hand, await RunningService.TakeAsync(hand), HandReport.Fine)).EnsureSuccessStatusCode();
        (await service.SwapAsync(swap)).Parcel!.Begun.ShouldBeFalse();
        (await service.OrderAsync(swap, new("first-trip"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(hand)).Work.At!.ParcelId.ShouldBeNull();
    }

    [Fact]
    public async Task Another_depot_is_chosen_once_no_hand_is_at_work_and_what_lies_in_the_first_is_somebodys_to_take_away()
    {
        var (refresh, swap, hand, order) = await BegunAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/other", new DepotWanted("Other share", "https://other.kestrelbay.example/")))
            .EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(await MoveAsync(refresh, swap, "other"), 409)).ToJsonString().ShouldContain("at work");
        await FailAsync(hand, order);

        (await MoveAsync(refresh, swap, "other")).EnsureSuccessStatusCode();

        var seen = await service.SwapAsync(swap);
        seen.Parcel!.Begun.ShouldBeFalse();
        seen.FollowUps!.ShouldContain(f => f.Words.Contains(seen.Parcel.Name, StringComparison.Ordinal));
    }
}
