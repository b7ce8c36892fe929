using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Service.Tests;

public sealed class SqliteCapacityTests(OnSqlite service) : CapacitySuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresCapacityTests(OnPostgres service) : CapacitySuite(service), IClassFixture<OnPostgres>;

/// <summary>What a plan is made from, kept by the service, on every database.</summary>
public abstract class CapacitySuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private static DateOnly Day(int day) => DrivenClock.Today.AddDays(1 + day);

    private async Task<WorldSeen> WorldAsync(string refresh) =>
        (await Kit.GetFromJsonAsync<WorldSeen>($"api/refreshes/{refresh}/world", RunningService.Json))!;

    private Task<int> EntriesAsync(string refresh) => service.WithRecordsAsync(db => db.Ledger.CountAsync(l => l.Refresh == refresh));

    /// <summary>Each kind of thing: where it is put, what is put, and what of the world then shows it.</summary>
    private static IEnumerable<(string Path, object Body, Func<WorldSeen, int> Count)> Things(string refresh) =>
    [
        ("sites/East", new SiteWanted("East", 1, [new("Hall", 2)], "mon,tue 06:00-22:00"), w => w.Sites.Count),
        (
            "technicians/vera",
            new TechnicianWanted("Vera", ["South"], ["22:00-06:00"], ["mac", "mac "], [$"{Day(1):yyyy-MM-dd}"]),
            w => w.Technicians.Count),
        (
            "closures/feast",
            new ClosureWanted("Feast", "South", $"{Day(2):yyyy-MM-dd} 12:00..{Day(3):yyyy-MM-dd} 08:00"),
            w => w.Closures.Count),
        ("deliveries/first", new DeliveryWanted("First", $"{Day(1):yyyy-MM-dd}", ["kb-2", "KB-4"]), w => w.Deliveries.Count),
        ("waves/one", new WaveWanted("One", Day(0), Day(2)), w => w.Waves.Count),
        ("estimates/model/Gannet%2014", new EstimateWanted(20, null, 0, new Preparation(null, 15, 0, 0)), w => w.Estimates.Count),
        ("groups/pay", new GroupWanted("Pay office", [$"{refresh}-0001", $"{refresh}-0002"], 1), w => w.Groups.Count),
    ];

    [Fact]
    public async Task Each_kind_of_thing_is_made_once_changed_and_taken_out_and_every_request_can_be_repeated()
    {
        var refresh = await service.RefreshAsync();
        foreach (var (path, body, count) in Things(refresh))
        {
            var address = $"api/refreshes/{refresh}/{path}";
            var before = count(await WorldAsync(refresh));
            async Task<string> PutAsync()
            {
                var answer = await Kit.PutAsJsonAsync(address, body, RunningService.Json);
                var text = await answer.Content.ReadAsStringAsync();
                answer.StatusCode.ShouldBe(HttpStatusCode.OK, $"{path}: {text}");
                return text;
            }
            var first = await PutAsync();
            var entries = await EntriesAsync(refresh);
            (await PutAsync()).ShouldBe(first);
            (await EntriesAsync(refresh)).ShouldBe(entries, $"{path}: the same again is no change");
            count(await WorldAsync(refresh)).ShouldBe(before + 1, path);
            for (var twice = 0; twice < 2; twice++) (await Kit.DeleteAsync(address)).StatusCode.ShouldBe(HttpStatusCode.NoContent, path);
            count(await WorldAsync(refresh)).ShouldBe(before, path);
            (await EntriesAsync(refresh)).ShouldBe(entries + 1, path);
        }
    }

    [Fact]
    public async Task What_a_plan_could_feel_changes_the_worlds_version_and_nothing_else_does()
    {
        var refresh = await service.RefreshAsync();
        Task<long> VersionAsync() =>
            service.WithRecordsAsync(db => db.Refreshes.Where(r => r.Key == refresh).Select(r => r.WorldVersion).SingleAsync());
        var version = await VersionAsync();
        foreach (var (path, body, _) in Things(refresh))
        {
            (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/{path}", body, RunningService.Json)).EnsureSuccessStatusCode();
            (await VersionAsync()).ShouldBe(++version, path);
        }
        (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(10))).EnsureSuccessStatusCode();
        (await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).EnsureSuccessStatusCode();
        (await VersionAsync()).ShouldBe(version, "a draft and an order are felt by no plan");
        var hand = await service.HandAsync(refresh, "KB-1");
        var order = await RunningService.TakeAsync(hand);
        (await service.EndAsync(hand, order, RunningService.Result(3, 0))).EnsureSuccessStatusCode();
        (await VersionAsync()).ShouldBe(++version, "what the survey found is");
    }

    [Fact]
    public async Task An_estimate_rests_on_the_survey_once_there_is_one_and_says_so()
    {
        var refresh = await service.RefreshAsync();
        async Task<EstimateSeen> EstimateAsync() =>
            (await Kit.GetFromJsonAsync<EstimateSeen>($"api/swaps/{refresh}-0001/estimate", RunningService.Json))!;
        var typical = await EstimateAsync();
        (typical.Estimate.Basis, typical.Estimate.Cargo, typical.Ways.Count).ShouldBe(("typical size", Cargo.Typical, 4));
        var hand = await service.HandAsync(refresh, "KB-1");
        (await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (await service.EndAsync(hand, order, RunningService.Result(3, 0))).EnsureSuccessStatusCode();
        var found = await EstimateAsync();
        (found.Estimate.Basis, found.Estimate.Cargo.Files).ShouldBe(("inventory", 3));
        found.Estimate.UnattendedMinutes.ShouldBeLessThanOrEqualTo(typical.Estimate.UnattendedMinutes);
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/estimates/swap/{refresh}-0001", new EstimateWanted(null, 120, null, null))).EnsureSuccessStatusCode();
        (await EstimateAsync()).Estimate.UnattendedMinutes.ShouldBe(120);
        var ways = (await Kit.GetFromJsonAsync<WaysSeen>($"api/refreshes/{refresh}/ways-to-carry", RunningService.Json))!;
        (ways.Swaps, ways.Ways.Count).ShouldBe((3, 4));
        (await Kit.GetAsync($"api/refreshes/{refresh}/ways-to-carry?wave=none")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_list_of_technicians_is_taken_whole_or_not_at_all_and_again_changes_nothing()
    {
        var refresh = await service.RefreshAsync();
        async Task<HttpResponseMessage> PostAsync(string csv, bool dryRun = false) =>
            await Kit.PostAsync($"api/refreshes/{refresh}/technicians/table?dryRun={(dryRun ? "true" : "false")}", new StringContent(csv));
        async Task<TechniciansTaken> TakeAsync(string csv, bool dryRun = false) =>
            (await (await PostAsync(csv, dryRun)).EnsureSuccessStatusCode().Content
                .ReadFromJsonAsync<TechniciansTaken>(RunningService.Json))!;
        const string list = "key,name,sites,skills\nnoor,Noor Haddad,North,tablets;mac\nvera,Vera Lindqvist,,\n";
        var (world, entries) = (await WorldAsync(refresh), await EntriesAsync(refresh));
        var looked = await TakeAsync(list, dryRun: true);
        (looked.DryRun, looked.Added, looked.Changed).ShouldBe((true, 1, 1));
        (await EntriesAsync(refresh)).ShouldBe(entries, "it only looked");
        (await RunningService.ProblemAsync(await PostAsync(list + "theo,Theo,Nort,\n"), 422)).ToJsonString()
            .ShouldContain("It has North, South.");
        (await WorldAsync(refresh)).Technicians.Count.ShouldBe(world.Technicians.Count, "one wrong row stops all");
        (await TakeAsync(list + "theo,Theo,Nort,\n", dryRun: true)).Rejected.Single().Line.ShouldBe(4);
        (await TakeAsync(list)).Added.ShouldBe(1);
        var technicians = (await WorldAsync(refresh)).Technicians.ToDictionary(t => t.Key);
        (
            string.Join(',', technicians["noor"].Skills),
            string.Join(',', technicians["vera"].Sites)).ShouldBe(("tablets,mac", "North,South"));
        entries = await EntriesAsync(refresh);
        (await TakeAsync(list)).Same.ShouldBe(2);
        (await EntriesAsync(refresh)).ShouldBe(entries);
    }

    [Fact]
    public async Task A_depot_without_room_leaves_swaps_out_and_says_how_much_more_lets_them_in()
    {
        var refresh = await service.RefreshAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/cloud",
            new DepotWanted(
                "Cloud", "http://127.0.0.1:1/", CapacityBytes: 25_000_000_000, DailyBytes: null, HoldDays: 30))).EnsureSuccessStatusCode();
        var plan = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(300))).Content
            .ReadFromJsonAsync<PlanSeen>(RunningService.Json))!;
        var left = plan.LeftOut.ShouldHaveSingleItem();
        left.Because.ShouldContain("cloud is full. 20 GB more room around");
        plan.Load.Depots.Single().Lies.Max().ShouldBe(20_000_000_000);
        var what = (await (await Kit.PostAsJsonAsync(
            $"api/refreshes/{refresh}/plan/what-if", new WhatIfWanted(["depot cloud 2"], 0.2))).Content
            .ReadFromJsonAsync<WhatIfSeen>(RunningService.Json))!;
        what.LetIn.ShouldHaveSingleItem().Swap.ShouldBe(left.Swap);
        what.Words.ShouldContain("1 fewer swap left out");
        (await WorldAsync(refresh)).Depots.Single().CapacityBytes.ShouldBe(25_000_000_000, "it was only asked");
    }

    [Fact]
    public async Task A_feed_gives_only_what_its_address_was_made_for_and_a_changed_address_gives_nothing()
    {
        var refresh = await service.RefreshAsync();
        await service.PublishAsync(refresh, new(200));
        var auditor = await service.AccountAsync("feeds", "auditor");
        var made = (await (await auditor.PostAsJsonAsync($"api/refreshes/{refresh}/feeds", new FeedWanted(Site: "South"))).Content
            .ReadFromJsonAsync<FeedMade>(RunningService.Json))!;
        var path = new Uri(made.Address).PathAndQuery;
        var text = await service.Nobody().GetStringAsync(path);
        (text.Contains("Sol Okafor"), text.Contains("Ida Moreau"), text.Contains("BEGIN:VTIMEZONE")).ShouldBe((true, false, true));
        (await service.Nobody().GetAsync(path[..^3] + "AAA")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        foreach (var wanted in new[] { new FeedWanted(Site: "West"), new FeedWanted(Technician: "nobody") })
            (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/feeds", wanted)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await RunningService.ProblemAsync(
            await Kit.GetAsync($"api/refreshes/{refresh}/plan/export?form=pdf"), 422))["code"]!.GetValue<string>()
            .ShouldBe("plan.form");
    }
}
