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

    [Fact]
    public async Task No_more_begin_at_one_time_by_choice_than_the_rules_allow_and_a_wrong_rule_is_refused()
    {
        var refresh = await WeekAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/vera",
            new TechnicianWanted("Vera", ["North"], ["daily 08:00-12:00", "daily 13:00-17:00"]))).EnsureSuccessStatusCode();
        var (ida, per) = (await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0003"));
        // With two technicians two may begin at once, until the rules say one.
        var idas = await StartAsync(ida);
        (await SlotsAsync(per)).Slots.ShouldContain(s => s.Start == idas);
        await RulesAsync(refresh, new(2, 1));
        (await SlotsAsync(per)).Slots.ShouldNotContain(s => s.Start == idas);
        (await RefusedAsync(PutAsync(per, "slot", new SlotWanted(idas)), 409)).ShouldContain("no longer free");
        foreach (var (wrong, what) in new[] { (new ChoosingRules(1), "2 to 720"), (new ChoosingRules(24, 0), "1 to 1000") })
            (await RefusedAsync(Kit.PutAsJsonAsync($"api/refreshes/{refresh}/choosing", wrong, RunningService.Json), 422))
                .ShouldContain(what);
    }

    [Fact]
    public async Task A_time_that_becomes_free_goes_to_whoever_has_waited_longest_and_their_bench_preparation_stays()
    {
        var refresh = await WeekAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/estimates/kind/renew",
            new EstimateWanted(null, null, null, new Preparation("North", 15, 15, 0)),
            RunningService.Json)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 200));
        var (ida, sol, una) = (
            await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0002"), await DeviceAsync($"{refresh}-0004"));
        // Somebody has the last hours of the refresh that another wants, and gives them up.
        var last = (await SlotsAsync(ida)).Slots[^1];
        (await PutAsync(ida, "slot", new SlotWanted(last.Start))).EnsureSuccessStatusCode();
        var wait = new WaitWanted(last.Start, last.End.AddMinutes(5));
        (await OkAsync<PersonPage>(PutAsync(una, "wait", wait))).Booking.Wait.ShouldBe(new(wait.From, wait.Until, 0));
        (await OkAsync<PersonPage>(PutAsync(sol, "wait", wait))).Booking.Wait!.Ahead.ShouldBe(1);
        // Said again, they keep their place.
        (await OkAsync<PersonPage>(PutAsync(una, "wait", wait))).Booking.Wait!.Ahead.ShouldBe(0);
        (await Kit.GetFromJsonAsync<List<WaitingSeen>>($"api/refreshes/{refresh}/waiting", RunningService.Json))!
            .Select(v => v.Name)
            .ShouldBe(["Una Berg", "Sol Okafor"]);
        (await RefusedAsync(PutAsync(ida, "wait", wait), 409)).ShouldContain("nothing to wait for");
        (await RefusedAsync(PutAsync(ida, "wait", new WaitWanted(wait.Until, wait.From)), 422)).ShouldContain("31 days");
        await Service.Services.GetServices<IHostedService>().OfType<Choosing.WaitingLook>().Single()
            .RoundAsync(TestContext.Current.CancellationToken);
        (await StartAsync(una)).ShouldNotBe(last.Start, "nothing is free yet");
        var bench = (await Service.WithRecordsAsync(async db =>
            await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == $"{refresh}-0004"))).BenchStart;
        bench.ShouldNotBeNull();
        (await PutAsync(
            ida, "slot", new SlotWanted((await SlotsAsync(ida)).Slots.First(s => s.Start != last.Start).Start))).EnsureSuccessStatusCode();
        for (var until = DateTime.UtcNow.AddSeconds(30); await StartAsync(una) != last.Start;)
        {
            DateTime.UtcNow.ShouldBeLessThan(until, "whoever waits longest gets the time within seconds");
            await Task.Delay(200, TestContext.Current.CancellationToken);
        }
        (await PageAsync(una)).Booking.Wait.ShouldBeNull();
        (await PageAsync(sol)).Booking.Wait!.Ahead.ShouldBe(0);
        (await Service.WithRecordsAsync(async db => await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == $"{refresh}-0004"))).BenchStart
            .ShouldBe(bench);
        (await OkAsync<PersonPage>(sol.DeleteAsync("api/person/wait"))).Booking.Wait.ShouldBeNull();
        (await Service.LedgerAsync(refresh)).ShouldContain(e => e.Json.Contains("swap.chosen"));
        // A plan made later keeps what was waited for.
        await Service.PublishAsync(refresh, new(Steps: 500));
        (await StartAsync(una)).ShouldBe(last.Start);
    }

    [Fact]
    public async Task Two_people_exchange_their_times_and_neither_hears_who_the_other_is()
    {
        var refresh = await WeekAsync();
        var (ida, per, una) = (
            await DeviceAsync($"{refresh}-0001"), await DeviceAsync($"{refresh}-0003"), await DeviceAsync($"{refresh}-0004"));
        var (idas, pers, unas) = (await StartAsync(ida), await StartAsync(per), await StartAsync(una));
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PutAsync(ida, "offer", new OfferWanted(true)))).Booking.IsOffered.ShouldBeTrue();
        var offer = (await SlotsAsync(per)).Offers.ShouldHaveSingleItem();
        (offer.Start, offer.IsAsked).ShouldBe((idas, false));
        (await SlotsAsync(ida)).Offers.ShouldBeEmpty();
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PostAsync(
                    per, "exchanges", new ExchangeWanted(offer.Offer)))).Booking.Exchanges.ShouldHaveSingleItem().IsOwn.ShouldBeTrue();
        (await PostAsync(una, "exchanges", new ExchangeWanted(offer.Offer))).EnsureSuccessStatusCode();
        (await SlotsAsync(per)).Offers.Single().IsAsked.ShouldBeTrue();
        var asked = await ida.GetStringAsync("api/person");
        asked.ShouldNotContain("Lunde");
        (await per.GetStringAsync("api/person/slots")).ShouldNotContain("Moreau");
        var page = await PageAsync(ida);
        page.Booking.Exchanges.Select(x => (x.Mine, x.Theirs, x.IsOwn)).ShouldBe([(idas, pers, false), (idas, unas, false)]);
        // Who asked cannot agree for the other, and a stranger cannot answer at all.
        (await PostAsync(per, $"exchanges/{page.Booking.Exchanges[0].Id}/answer", new ExchangeAnswer(true))).StatusCode
            .ShouldBe(HttpStatusCode.Conflict);
        (await PostAsync(
            await DeviceAsync($"{refresh}-0002"), $"exchanges/{page.Booking.Exchanges[0].Id}/answer", new ExchangeAnswer(true))).StatusCode
            .ShouldBe(HttpStatusCode.NotFound);
        // Agreed twice at once is agreed once.
        var answers = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ =>
            PostAsync(ida, $"exchanges/{page.Booking.Exchanges[0].Id}/answer", new ExchangeAnswer(true))));
        answers.ShouldAllBe(a => a.StatusCode == HttpStatusCode.OK);
        (await StartAsync(ida), await StartAsync(per)).ShouldBe((pers, idas));
        // The offer is gone, and so is the other question.
        (await PageAsync(ida)).Booking.ShouldSatisfyAllConditions(b => b.IsOffered.ShouldBeFalse(), b => b.Exchanges.ShouldBeEmpty());
        (await PageAsync(una)).Booking.Exchanges.ShouldBeEmpty();
        (await RefusedAsync(PostAsync(una, "exchanges", new ExchangeWanted(offer.Offer)), 409)).ShouldContain("not offered any more");
        (await PostAsync(ida, $"exchanges/{page.Booking.Exchanges[1].Id}/answer", new ExchangeAnswer(true))).StatusCode
            .ShouldBe(HttpStatusCode.Conflict);
        await Service.PublishAsync(refresh, new(Steps: 500));
        (await StartAsync(ida), await StartAsync(per)).ShouldBe((pers, idas));
    }

    [Fact]
    public async Task A_group_is_kept_apart_or_together_by_the_plan_and_by_what_people_may_choose()
    {
        var refresh = await WeekAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/vera",
            new TechnicianWanted("Vera", ["North", "South"], ["daily 08:00-12:00", "daily 13:00-17:00"]))).EnsureSuccessStatusCode();
        var (ida, per) = ($"{refresh}-0001", $"{refresh}-0003");
        Task<HttpResponseMessage> GroupAsync(string key, GroupWanted wanted) =>
            Kit.PutAsJsonAsync($"api/refreshes/{refresh}/groups/{key}", wanted, RunningService.Json);
        var device = await DeviceAsync(per);
        var idas = await StartAsync(await DeviceAsync(ida));
        (await SlotsAsync(device)).Slots.ShouldContain(s => s.Start == idas);
        (await OkAsync<GroupSeen>(GroupAsync("pay", new("Pay office", [ida, per], AtOnce: 1)))).Names.ShouldBe(["Ida Moreau", "Per Lunde"]);
        (await SlotsAsync(device)).Slots.ShouldNotContain(s => s.Start == idas);
        (await PutAsync(device, "slot", new SlotWanted(idas))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        // Together: the one who moves can only move within the other's day, also in a new plan.
        (await GroupAsync("crew", new("Ferry crew", [ida, per, $"{refresh}-0004"], OneDay: true))).EnsureSuccessStatusCode();
        var plan = await Service.PublishAsync(refresh, new(Steps: 500));
        var crew = plan.Appointments.Where(p => p.Swap == ida || p.Swap == per || p.Swap == $"{refresh}-0004").ToList();
        crew.Count.ShouldBe(3);
        crew.Select(p => DateOnly.FromDateTime(p.Start.UtcDateTime)).Distinct().ShouldHaveSingleItem();
        var (first, second) = (crew.Single(p => p.Swap == ida), crew.Single(p => p.Swap == per));
        (first.End <= second.Start || second.End <= first.Start).ShouldBeTrue("they are kept apart");
        (await SlotsAsync(device)).Slots
            .Select(s => DateOnly.FromDateTime(s.Start.UtcDateTime)).Distinct()
            .ShouldBe([DateOnly.FromDateTime(second.Start.UtcDateTime)]);
        foreach (var (wrong, what) in new (GroupWanted, string)[]
        {
            (new("One", [ida], 1), "2 to 500"),
            (new("None", [ida, per]), "neither"),
            (new("Zero", [ida, per], 0), "1 or more"),
            (new("Loose", [ida, per], 2), "bounds nothing"),
            (new("Far", [ida, "nowhere-1"], 1), "nowhere-1"),
            (new("Pay office", [ida, per], 1), "called")
        })
            (await (await GroupAsync("wrong", wrong)).Content.ReadAsStringAsync()).ShouldContain(what);
        (await Kit.DeleteAsync($"api/refreshes/{refresh}/groups/crew")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await SlotsAsync(device)).Slots.Select(s => DateOnly.FromDateTime(s.Start.UtcDateTime)).Distinct().Count().ShouldBeGreaterThan(1);
        (await Kit.GetFromJsonAsync<List<GroupSeen>>($"api/refreshes/{refresh}/groups", RunningService.Json))!.ShouldHaveSingleItem().Key
            .ShouldBe("pay");
    }
}
