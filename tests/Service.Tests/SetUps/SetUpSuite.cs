using System.Net.Http.Json;
using System.Text.Json.Nodes;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteSetUpTests(OnSqlite service) : SetUpSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSetUpTests(OnPostgres service) : SetUpSuite(service), IClassFixture<OnPostgres>;

/// <summary>From nothing to a plan: what is missing is said, and a refresh that was made wrong is set right. On every database.</summary>
public abstract class SetUpSuite(RunningService service) : Morning(service)
{
    private async Task<SetUpSeen> SetUpAsync(string refresh) =>
        (await Kit.GetFromJsonAsync<SetUpSeen>($"api/refreshes/{refresh}/set-up", RunningService.Json))!;

    private async Task<string> StateAsync(string refresh, string part) =>
        (await SetUpAsync(refresh)).Parts.Single(p => p.Key == part).State;

    private Task<HttpResponseMessage> ChangeAsync(string refresh, RefreshWanted wanted) =>
        Kit.PutAsJsonAsync($"api/refreshes/{refresh}", wanted);

    [Fact]
    public async Task Each_part_is_there_once_it_was_done_and_a_first_plan_can_be_made_when_it_says_so()
    {
        var refresh = $"s{Guid.NewGuid():N}"[..12];
        await OkAsync<RefreshSeen>(Kit.PostAsJsonAsync("api/refreshes", new NewRefresh(refresh, "New", "UTC", DrivenClock.Today, 5)));
        (await StateAsync(refresh, "people")).ShouldBe("wants");
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        (await StateAsync(refresh, "people")).ShouldBe("there");
        (await SetUpAsync(refresh)).Unplannable.ShouldBe("as soon as one technician is there");
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/noor", new TechnicianWanted("Noor", ["North"], ["daily 00:15-23:45"])))
            .EnsureSuccessStatusCode();
        // Nobody comes to South yet.
        (await SetUpAsync(refresh)).Parts.Single(p => p.Key == "technicians").Words.ShouldContain("South");
        (await SetUpAsync(refresh)).Unplannable.ShouldBeNull();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/own", new DepotWanted("Own room", "built-in")))
            .EnsureSuccessStatusCode();
        (await StateAsync(refresh, "depot")).ShouldBe("there");
        await Service.HandAsync(refresh, "KB-1");
        (await SetUpAsync(refresh)).Parts.Single(p => p.Key == "hands").Words.ShouldBe("1 of 4 old computers have one");
        await Service.PublishAsync(refresh, new(Steps: 0));
        (await StateAsync(refresh, "plan")).ShouldBe("there");
    }

    [Fact]
    public async Task A_zone_that_was_wrong_is_set_right_and_all_answers_go_by_the_new_one()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        var was = (await Kit.GetFromJsonAsync<RefreshSeen>($"api/refreshes/{refresh}", RunningService.Json))!;
        await OkAsync<RefreshSeen>(ChangeAsync(refresh, new("Winter", "Asia/Kolkata", was.Starts.AddDays(1), was.Days + 7)));
        var now = (await Kit.GetFromJsonAsync<RefreshSeen>($"api/refreshes/{refresh}", RunningService.Json))!;
        (now.Name, now.Zone, now.Starts, now.Days).ShouldBe(("Winter", "Asia/Kolkata", was.Starts.AddDays(1), was.Days + 7));
        var today = JsonNode.Parse(await Kit.GetStringAsync($"api/refreshes/{refresh}/today", TestContext.Current.CancellationToken))!;
        ((string)today["now"]!).ShouldEndWith("+05:30");
        (await Service.LedgerAsync(refresh))[^1].Json.ShouldContain("refresh.changed");
        // The same again changes nothing.
        await OkAsync<RefreshSeen>(ChangeAsync(refresh, new("Winter", "Asia/Kolkata", now.Starts, now.Days)));
        (await Service.LedgerAsync(refresh)).Count(e => e.Json.Contains("refresh.changed", StringComparison.Ordinal)).ShouldBe(1);
    }

    [Theory]
    // Names of another system, that no browser knows, and twins of case.
    [InlineData("W. Europe Standard Time", "2026-12-07", "Winter", "refresh.zone")]
    [InlineData("europe/london", "2026-12-07", "Winter", "refresh.zone")]
    [InlineData("", "2026-12-07", "Winter", "refresh.zone")]
    [InlineData("UTC", "9999-12-31", "Winter", "refresh.starts")]
    [InlineData("UTC", "0001-01-01", "Winter", "refresh.starts")]
    [InlineData("UTC", "2026-12-07", "Win\u202Eter", "refresh.name")]
    public async Task What_no_page_could_show_is_no_refresh(string zone, string starts, string name, string code)
    {
        var day = DateOnly.ParseExact(starts, "yyyy-MM-dd");
        var refused = await Kit.PostAsJsonAsync("api/refreshes", new NewRefresh("never", name, zone, day, 5));
        ((string)(await RunningService.ProblemAsync(refused, 422))["code"]!).ShouldBe(code);
        var refresh = await Service.RefreshAsync(withRoster: false);
        ((string)(await RunningService.ProblemAsync(await ChangeAsync(refresh, new(name, zone, day, 5)), 422))["code"]!).ShouldBe(code);
    }

    [Theory]
    [InlineData("ready?day=9999-12-31")]
    [InlineData("ready?day=0001-01-01")]
    [InlineData("ledger?since=9999-12-31")]
    [InlineData("ledger?until=9999-12-31")]
    [InlineData("ledger?until=0001-01-01&newest=true")]
    public async Task A_day_beyond_all_calendars_is_refused_in_words(string asked)
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        var answer = await Kit.GetAsync($"api/refreshes/{refresh}/{asked}", TestContext.Current.CancellationToken);
        ((string)(await RunningService.ProblemAsync(answer, 400))["code"]!).ShouldBe("day.far");
    }

    [Fact]
    public async Task Once_a_plan_was_made_its_first_day_and_zone_stay_and_no_appointment_falls_out()
    {
        var refresh = await MorningAsync();
        await BookAsync($"{refresh}-0001", "noor", 5 * 24 * 60);
        var was = (await Kit.GetFromJsonAsync<RefreshSeen>($"api/refreshes/{refresh}", RunningService.Json))!;
        async Task<string> CodeAsync(RefreshWanted wanted, int status) =>
            (string)(await RunningService.ProblemAsync(await ChangeAsync(refresh, wanted), status))["code"]!;
        (await CodeAsync(new(was.Name, "Asia/Kolkata", was.Starts, was.Days), 409)).ShouldBe("refresh.fixed");
        (await CodeAsync(new(was.Name, was.Zone, was.Starts.AddDays(-1), was.Days), 409)).ShouldBe("refresh.fixed");
        (await CodeAsync(new(was.Name, was.Zone, was.Starts, 2), 409)).ShouldBe("refresh.too-short");
        (await CodeAsync(new(" ", "Nowhere/Land", was.Starts, 0), 422)).ShouldBe("refresh.zone");
        await OkAsync<RefreshSeen>(ChangeAsync(refresh, new("Renamed", was.Zone, was.Starts, was.Days + 1)));
        var now = (await Kit.GetFromJsonAsync<RefreshSeen>($"api/refreshes/{refresh}", RunningService.Json))!;
        (now.Name, now.Zone, now.Starts, now.Days).ShouldBe(("Renamed", was.Zone, was.Starts, was.Days + 1));
    }

    [Fact]
    public async Task The_history_is_read_by_day_by_swap_and_by_whom_the_newest_first()
    {
        var refresh = await MorningAsync();
        (await Service.ClaimAsync($"{refresh}-0002", "told", new("ticked"))).EnsureSuccessStatusCode();
        async Task<Page<LedgerEntrySeen>> ReadAsync(string asked) =>
            (await Kit.GetFromJsonAsync<Page<LedgerEntrySeen>>($"api/refreshes/{refresh}/ledger?{asked}", RunningService.Json))!;
        var all = await ReadAsync("newest=true");
        all.Items.Select(e => e.Number).ShouldBe(all.Items.Select(e => e.Number).OrderDescending());
        all.Items[0].Number.ShouldBe(all.Total);
        var first = await ReadAsync("newest=true&limit=3");
        var second = await ReadAsync($"newest=true&limit=3&cursor={first.Next}");
        first.Items.Concat(second.Items).Select(e => e.Number).ShouldBe(all.Items.Take(6).Select(e => e.Number));
        var ofSwap = await ReadAsync($"swap={refresh}-0002");
        ofSwap.Items.ShouldAllBe(e => e.Swap == $"{refresh}-0002" && e.Name == "Sol Okafor");
        ofSwap.Total.ShouldBe(ofSwap.Items.Count);
        ofSwap.Total.ShouldBeLessThan(all.Total);
        (await ReadAsync($"since={DrivenClock.Today:yyyy-MM-dd}&until={DrivenClock.Today:yyyy-MM-dd}")).Total.ShouldBe(all.Total);
        (await ReadAsync($"until={DrivenClock.Today.AddDays(-1):yyyy-MM-dd}")).Total.ShouldBe(0);
        (await ReadAsync("by=KI")).Total.ShouldBe(all.Items.Count(e => e.By.Contains("ki", StringComparison.OrdinalIgnoreCase)));
        (await ReadAsync("by=%25")).Total.ShouldBe(0);
    }
}
