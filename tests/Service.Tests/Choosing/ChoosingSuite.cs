using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using YardRelay.Contracts;
using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Service.Tests;

public sealed class SqliteChoosingTests(OnSqlite service) : ChoosingSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresChoosingTests(OnPostgres service) : ChoosingSuite(service), IClassFixture<OnPostgres>;

/// <summary>How people come to another time: rules, waiting, exchanging, groups. On every database.</summary>
public abstract class ChoosingSuite(RunningService service) : OwnPages(service)
{
    private async Task<string> WeekAsync(PlanWanted? plan = null)
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        await RulesAsync(refresh, new(2));
        await Service.PublishAsync(refresh, plan ?? new(Steps: 0));
        return refresh;
    }

    private async Task RulesAsync(string refresh, ChoosingRules rules) =>
        (await OkAsync<ChoosingRules>(Kit.PutAsJsonAsync($"api/refreshes/{refresh}/choosing", rules, RunningService.Json))).ShouldBe(rules);

    private static async Task<DateTimeOffset> StartAsync(HttpClient device) => (await PageAsync(device)).Swap.Appointment!.Start;

    private static Task<SlotsSeen> SlotsAsync(HttpClient device) => OkAsync<SlotsSeen>(device.GetAsync("api/person/slots"));

    private async Task SecondTechnicianAsync(string refresh, params string[] sites) =>
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/vera",
            new TechnicianWanted("Vera", sites, ["daily 08:00-12:00", "daily 13:00-17:00"]))).EnsureSuccessStatusCode();

    [Fact]
    public async Task No_more_begin_at_one_time_by_choice_than_the_rules_allow()
    {
        var refresh = await WeekAsync();
        await SecondTechnicianAsync(refresh, "North");
        var (ida, per) = (await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0003"));
        // With two technicians two may begin at once, until the rules say one.
        var idas = await StartAsync(ida);
        (await SlotsAsync(per)).Slots.ShouldContain(s => s.Start == idas);
        await RulesAsync(refresh, new(2, 1));
        (await SlotsAsync(per)).Slots.ShouldNotContain(s => s.Start == idas);
        (await RefusedAsync(PutAsync(per, "slot", new SlotWanted(idas)), 409)).ShouldContain("no longer free");
    }

    [Theory]
    [InlineData(1, null, "2 to 720")]
    [InlineData(24, 0, "1 to 1000")]
    public async Task A_rule_that_nobody_could_keep_is_refused(int hours, int? atOnce, string what) =>
        (await RefusedAsync(
            Kit.PutAsJsonAsync($"api/refreshes/{await WeekAsync()}/choosing", new ChoosingRules(hours, atOnce), RunningService.Json), 422))
            .ShouldContain(what);

    /// <summary>Ida has the last hours of the refresh; each swap is prepared at a bench.</summary>
    private async Task<(string Refresh, HttpClient Ida, HttpClient Sol, HttpClient Una, SlotSeen Last, WaitWanted Wait)> LastTakenAsync()
    {
        var refresh = await WeekAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/estimates/kind/renew",
            new EstimateWanted(null, null, null, new Preparation("North", 15, 15, 0)),
            RunningService.Json)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 200));
        var (ida, sol, una) = (
            await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0002"), await DeviceAsync($"{refresh}-0004"));
        var last = (await SlotsAsync(ida)).Slots[^1];
        (await PutAsync(ida, "slot", new SlotWanted(last.Start))).EnsureSuccessStatusCode();
        return (refresh, ida, sol, una, last, new(last.Start, last.End.AddMinutes(5)));
    }

    private static async Task GiveUpAsync(HttpClient device, SlotSeen slot)
    {
        var another = (await SlotsAsync(device)).Slots.First(s => s.Start != slot.Start);
        (await PutAsync(device, "slot", new SlotWanted(another.Start))).EnsureSuccessStatusCode();
    }

    /// <summary>Una waits before Sol, the time becomes free, and the service has looked.</summary>
    private async Task<(string Refresh, HttpClient Sol, HttpClient Una, SlotSeen Last)> GivenUpAsync()
    {
        var (refresh, ida, sol, una, last, wait) = await LastTakenAsync();
        foreach (var who in new[] { una, sol }) (await PutAsync(who, "wait", wait)).EnsureSuccessStatusCode();
        await GiveUpAsync(ida, last);
        await LookAsync();
        return (refresh, sol, una, last);
    }

    private async Task LookAsync() => await Service.Services.GetServices<IHostedService>().OfType<Choosing.WaitingLook>().Single()
        .RoundAsync(TestContext.Current.CancellationToken);

    private Task<DateTimeOffset?> BenchAsync(string swap) => Service.WithRecordsAsync(async db =>
        (await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap)).BenchStart);

    [Fact]
    public async Task Who_waits_has_a_place_in_the_queue_and_keeps_it_when_it_is_said_again()
    {
        var (refresh, _, sol, una, _, wait) = await LastTakenAsync();
        (await OkAsync<PersonPage>(PutAsync(una, "wait", wait))).Booking.Wait.ShouldBe(new(wait.From, wait.Until, 0));
        (await OkAsync<PersonPage>(PutAsync(sol, "wait", wait))).Booking.Wait!.Ahead.ShouldBe(1);
        (await OkAsync<PersonPage>(PutAsync(una, "wait", wait))).Booking.Wait!.Ahead.ShouldBe(0);
        (await Kit.GetFromJsonAsync<List<WaitingSeen>>($"api/refreshes/{refresh}/waiting", RunningService.Json))!
            .Select(v => v.Name)
            .ShouldBe(["Una Berg", "Sol Okafor"]);
        (await OkAsync<PersonPage>(sol.DeleteAsync("api/person/wait"))).Booking.Wait.ShouldBeNull();
    }

    [Fact]
    public async Task Nobody_waits_for_what_they_have_or_for_no_time()
    {
        var (_, ida, _, _, _, wait) = await LastTakenAsync();
        (await RefusedAsync(PutAsync(ida, "wait", wait), 409)).ShouldContain("nothing to wait for");
        (await RefusedAsync(PutAsync(ida, "wait", new WaitWanted(wait.Until, wait.From)), 422)).ShouldContain("31 days");
    }

    [Fact]
    public async Task Nobody_is_moved_while_nothing_is_free()
    {
        var (_, _, _, una, last, wait) = await LastTakenAsync();
        (await PutAsync(una, "wait", wait)).EnsureSuccessStatusCode();
        await LookAsync();
        (await StartAsync(una)).ShouldNotBe(last.Start);
    }

    [Fact]
    public async Task A_time_that_becomes_free_goes_to_whoever_has_waited_longest_without_anybody_asking()
    {
        var (refresh, ida, sol, una, last, wait) = await LastTakenAsync();
        foreach (var who in new[] { una, sol }) (await PutAsync(who, "wait", wait)).EnsureSuccessStatusCode();
        await GiveUpAsync(ida, last);
        for (var until = DateTime.UtcNow.AddMinutes(2); await StartAsync(una) != last.Start;)
        {
            DateTime.UtcNow.ShouldBeLessThan(until, "the service looks by itself");
            await Task.Delay(200, TestContext.Current.CancellationToken);
        }
        (await PageAsync(una)).Booking.Wait.ShouldBeNull();
        (await PageAsync(sol)).Booking.Wait!.Ahead.ShouldBe(0);
        (await Service.LedgerAsync(refresh)).ShouldContain(e => e.Json.Contains("swap.chosen"));
    }

    [Fact]
    public async Task The_bench_preparation_of_whoever_gets_another_time_stays_where_it_was()
    {
        var (refresh, ida, _, una, last, wait) = await LastTakenAsync();
        var bench = await BenchAsync($"{refresh}-0004");
        bench.ShouldNotBeNull();
        (await PutAsync(una, "wait", wait)).EnsureSuccessStatusCode();
        await GiveUpAsync(ida, last);
        await LookAsync();
        (await StartAsync(una)).ShouldBe(last.Start);
        (await BenchAsync($"{refresh}-0004")).ShouldBe(bench);
    }

    [Fact]
    public async Task A_plan_made_later_keeps_what_was_waited_for()
    {
        var (refresh, _, una, last) = await GivenUpAsync();
        await Service.PublishAsync(refresh, new(Steps: 500));
        (await StartAsync(una)).ShouldBe(last.Start);
    }

    /// <summary>Ida offers her time; Per asks for it, and then Una.</summary>
    private sealed record Offered(
        string Refresh, HttpClient Ida, HttpClient Per, HttpClient Una, DateTimeOffset Idas, DateTimeOffset Pers, DateTimeOffset Unas,
        string Offer)
    {
        public async Task<string> QuestionAsync(int number) => (await PageAsync(Ida)).Booking.Exchanges[number].Id;
    }

    private async Task<Offered> OfferedAsync()
    {
        var refresh = await WeekAsync();
        var (ida, per, una) = (
            await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0003"), await DeviceAsync($"{refresh}-0004"));
        (await PutAsync(ida, "offer", new OfferWanted(true))).EnsureSuccessStatusCode();
        var offer = (await SlotsAsync(per)).Offers.Single().Offer;
        foreach (var who in new[] { per, una }) (await PostAsync(who, "exchanges", new ExchangeWanted(offer))).EnsureSuccessStatusCode();
        return new(refresh, ida, per, una, await StartAsync(ida), await StartAsync(per), await StartAsync(una), offer);
    }

    private static Task<HttpResponseMessage> AgreeAsync(HttpClient device, string question) =>
        PostAsync(device, $"exchanges/{question}/answer", new ExchangeAnswer(true));

    [Fact]
    public async Task A_time_is_offered_and_asked_for_once_however_often_that_is_said()
    {
        var refresh = await WeekAsync();
        var (ida, per) = (await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0003"));
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PutAsync(ida, "offer", new OfferWanted(true)))).Booking.IsOffered.ShouldBeTrue();
        var offer = (await SlotsAsync(per)).Offers.ShouldHaveSingleItem();
        (offer.Start, offer.IsAsked).ShouldBe((await StartAsync(ida), false));
        (await SlotsAsync(ida)).Offers.ShouldBeEmpty("nobody is offered their own");
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PostAsync(
                    per, "exchanges", new ExchangeWanted(offer.Offer)))).Booking.Exchanges.ShouldHaveSingleItem().IsOwn.ShouldBeTrue();
        (await SlotsAsync(per)).Offers.Single().IsAsked.ShouldBeTrue();
    }

    [Fact]
    public async Task Whoever_offers_sees_what_they_would_get_from_each_who_asks()
    {
        var o = await OfferedAsync();
        (await PageAsync(o.Ida)).Booking.Exchanges.Select(x => (x.Mine, x.Theirs, x.IsOwn))
            .ShouldBe([(o.Idas, o.Pers, false), (o.Idas, o.Unas, false)]);
    }

    [Fact]
    public async Task Neither_hears_who_the_other_is()
    {
        var o = await OfferedAsync();
        (await o.Ida.GetStringAsync("api/person")).ShouldNotContain("Lunde");
        (await o.Per.GetStringAsync("api/person/slots")).ShouldNotContain("Moreau");
    }

    [Fact]
    public async Task Who_asked_cannot_agree_for_the_other_and_a_stranger_not_at_all()
    {
        var o = await OfferedAsync();
        var question = await o.QuestionAsync(0);
        (await AgreeAsync(o.Per, question)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await AgreeAsync(await DeviceAsync($"{o.Refresh}-0002"), question)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await StartAsync(o.Ida), await StartAsync(o.Per)).ShouldBe((o.Idas, o.Pers));
    }

    [Fact]
    public async Task Agreed_several_times_at_once_is_agreed_once()
    {
        var o = await OfferedAsync();
        var question = await o.QuestionAsync(0);
        (await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => AgreeAsync(o.Ida, question))))
            .ShouldAllBe(a => a.StatusCode == HttpStatusCode.OK);
        (await StartAsync(o.Ida), await StartAsync(o.Per)).ShouldBe((o.Pers, o.Idas));
    }

    [Fact]
    public async Task With_the_exchange_the_offer_and_all_other_questions_are_gone()
    {
        var o = await OfferedAsync();
        var (first, second) = (await o.QuestionAsync(0), await o.QuestionAsync(1));
        (await AgreeAsync(o.Ida, first)).EnsureSuccessStatusCode();
        (await PageAsync(o.Ida)).Booking.ShouldSatisfyAllConditions(b => b.IsOffered.ShouldBeFalse(), b => b.Exchanges.ShouldBeEmpty());
        (await PageAsync(o.Una)).Booking.Exchanges.ShouldBeEmpty();
        (await RefusedAsync(PostAsync(o.Una, "exchanges", new ExchangeWanted(o.Offer)), 409)).ShouldContain("not offered any more");
        (await AgreeAsync(o.Ida, second)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_plan_made_later_keeps_what_was_exchanged()
    {
        var o = await OfferedAsync();
        (await AgreeAsync(o.Ida, await o.QuestionAsync(0))).EnsureSuccessStatusCode();
        await Service.PublishAsync(o.Refresh, new(Steps: 500));
        (await StartAsync(o.Ida), await StartAsync(o.Per)).ShouldBe((o.Pers, o.Idas));
    }

    private Task<HttpResponseMessage> GroupAsync(string refresh, string key, GroupWanted wanted) =>
        Kit.PutAsJsonAsync($"api/refreshes/{refresh}/groups/{key}", wanted, RunningService.Json);

    private static IEnumerable<DateOnly> Days(SlotsSeen seen) =>
        seen.Slots.Select(s => DateOnly.FromDateTime(s.Start.UtcDateTime)).Distinct();

    [Fact]
    public async Task Whose_group_is_kept_apart_is_not_offered_the_others_time()
    {
        var refresh = await WeekAsync();
        await SecondTechnicianAsync(refresh, "North", "South");
        var (ida, per) = ($"{refresh}-0001", $"{refresh}-0003");
        var (device, idas) = (await DeviceAsync(per), await StartAsync(await DeviceAsync(ida)));
        (await SlotsAsync(device)).Slots.ShouldContain(s => s.Start == idas);
        (await OkAsync<GroupSeen>(GroupAsync(refresh, "pay", new("Pay office", [ida, per], AtOnce: 1)))).Names
            .ShouldBe(["Ida Moreau", "Per Lunde"]);
        (await SlotsAsync(device)).Slots.ShouldNotContain(s => s.Start == idas);
        (await PutAsync(device, "slot", new SlotWanted(idas))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_plan_keeps_groups_apart_and_together()
    {
        var refresh = await WeekAsync();
        await SecondTechnicianAsync(refresh, "North", "South");
        var (ida, per, una) = ($"{refresh}-0001", $"{refresh}-0003", $"{refresh}-0004");
        (await GroupAsync(refresh, "pay", new("Pay office", [ida, per], AtOnce: 1))).EnsureSuccessStatusCode();
        (await GroupAsync(refresh, "crew", new("Ferry crew", [ida, per, una], OneDay: true))).EnsureSuccessStatusCode();
        var plan = await Service.PublishAsync(refresh, new(Steps: 500));
        var crew = plan.Appointments.Where(p => p.Swap == ida || p.Swap == per || p.Swap == una).ToList();
        crew.Count.ShouldBe(3);
        crew.Select(p => DateOnly.FromDateTime(p.Start.UtcDateTime)).Distinct().ShouldHaveSingleItem();
        var (first, second) = (crew.Single(p => p.Swap == ida), crew.Single(p => p.Swap == per));
        (first.End <= second.Start || second.End <= first.Start).ShouldBeTrue("they are kept apart");
    }

    [Fact]
    public async Task Whose_group_is_kept_together_may_choose_within_its_day_until_the_group_is_taken_out()
    {
        var refresh = await WeekAsync();
        var device = await DeviceAsync($"{refresh}-0003");
        Days(await SlotsAsync(device)).Count().ShouldBeGreaterThan(1);
        string[] crew = [$"{refresh}-0001", $"{refresh}-0003"];
        (await GroupAsync(refresh, "crew", new("Ferry crew", crew, OneDay: true))).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 500));
        Days(await SlotsAsync(device)).ShouldBe([DateOnly.FromDateTime((await StartAsync(device)).UtcDateTime)]);
        (await Kit.DeleteAsync($"api/refreshes/{refresh}/groups/crew")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        Days(await SlotsAsync(device)).Count().ShouldBeGreaterThan(1);
        (await Kit.GetFromJsonAsync<List<GroupSeen>>($"api/refreshes/{refresh}/groups", RunningService.Json))!.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_group_that_bounds_nothing_or_nobody_is_refused_in_words()
    {
        var refresh = await WeekAsync();
        var (ida, per) = ($"{refresh}-0001", $"{refresh}-0003");
        (await GroupAsync(refresh, "pay", new("Pay office", [ida, per], AtOnce: 1))).EnsureSuccessStatusCode();
        foreach (var (wrong, what) in new (GroupWanted, string)[]
        {
            (new("One", [ida], 1), "2 to 500"),
            (new("None", [ida, per]), "neither"),
            (new("Zero", [ida, per], 0), "1 or more"),
            (new("Loose", [ida, per], 2), "bounds nothing"),
            (new("Far", [ida, "nowhere-1"], 1), "nowhere-1"),
            (new("Pay office", [ida, per], 1), "called")
        })
            (await (await GroupAsync(refresh, "wrong", wrong)).Content.ReadAsStringAsync()).ShouldContain(what);
    }
}
