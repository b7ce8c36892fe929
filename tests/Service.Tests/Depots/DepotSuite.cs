using System.Net.Http.Json;
using System.Text;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteDepotTests(OnSqlite service) : DepotSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresDepotTests(OnPostgres service) : DepotSuite(service), IClassFixture<OnPostgres>;

/// <summary>Depots: what opens them, what hands find there, who reaches what, and how fast. On every database.</summary>
public abstract class DepotSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task What_opens_a_depot_is_kept_encrypted_shown_to_nobody_and_handed_out_with_an_order_only()
    {
        var refresh = await service.RefreshAsync();
        async Task<DepotSeen> PutAsync(DepotAccessWanted? access) =>
            (await (await Kit.PutAsJsonAsync(
                $"api/refreshes/{refresh}/depots/cloud",
                new DepotWanted("Cloud", "sftp://127.0.0.1:1/store", Access: access))).EnsureSuccessStatusCode().Content
                .ReadFromJsonAsync<DepotSeen>(RunningService.Json))!;
        (await PutAsync(new("ferry", "lighthouse-7", HostKey: "SHA256:abc"))).OpenedBy.ShouldBe("ferry, a password, SHA256:abc");
        (await PutAsync(null)).OpenedBy.ShouldNotBeNull("left out, it stays as it was");
        (await service.WithRecordsAsync(db =>
            db.Depots.SingleAsync(d => d.Refresh == refresh && d.Key == "cloud"))).Access.ShouldNotBeNull()
            .ShouldNotContain("lighthouse");
        (await service.WithRecordsAsync(db => db.Ledger.Where(l => l.Refresh == refresh).Select(l => l.Json + l.Words).ToListAsync()))
            .ShouldAllBe(t => !t.Contains("lighthouse"));
        (await Kit.GetStringAsync($"api/refreshes/{refresh}/world")).ShouldNotContain("lighthouse");
        (await service.OrderAsync($"{refresh}-0001", new("first-trip"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-1"))).Access
            .ShouldBe(new DepotAccessWanted("ferry", "lighthouse-7", null, "SHA256:abc"));
        (await PutAsync(new())).OpenedBy.ShouldBeNull("given empty, it is forgotten");
        (await service.OrderAsync($"{refresh}-0002", new("first-trip"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-3"))).Access.ShouldBeNull();
    }

    [Fact]
    public async Task What_opens_a_depot_is_given_to_that_place_only_and_by_no_way_that_shows_it()
    {
        var refresh = await service.RefreshAsync();
        Task<HttpResponseMessage> PutAsync(string address, DepotAccessWanted? access = null) => Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/store", new DepotWanted("Store", address, Access: access));
        async Task<string?> OpenedByAsync(string address) =>
            (await (await PutAsync(address)).Content.ReadFromJsonAsync<DepotSeen>(RunningService.Json))!.OpenedBy;
        var access = new DepotAccessWanted("ferry", "lighthouse-7");
        foreach (var address in new[] { "http://store.example/a", "https://localhost/a", "https://169.254.169.254/a" })
            (await RunningService.ProblemAsync(await PutAsync(address, access), 422))["detail"]!.GetValue<string>()
                .ShouldContain("depot-secrets-to", Case.Sensitive, address);
        (await PutAsync("https://store.example/a", access)).EnsureSuccessStatusCode();
        (await OpenedByAsync("https://store.example/a/b")).ShouldBe("ferry, a password");
        (await OpenedByAsync("https://store.example/a")).ShouldBeNull("it was given for what lies deeper");
        (await PutAsync("https://store.example/a", access)).EnsureSuccessStatusCode();
        (await OpenedByAsync("https://elsewhere.example/a")).ShouldBeNull();
        (await OpenedByAsync("https://store.example/a")).ShouldBeNull("it does not come back");

        // What an earlier version kept for such an address is not given out, and that is said.
        (await PutAsync("sftp://store.example/a", access)).EnsureSuccessStatusCode();
        await service.WithRecordsAsync(db => db.Depots.Where(d => d.Refresh == refresh && d.Key == "store")
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.Address, "http://store.example/a")));
        (await Kit.GetStringAsync($"api/refreshes/{refresh}/depots")).ShouldContain("a password; not given out");
    }

    [Fact]
    public async Task A_depot_shows_what_hands_last_found_there()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        async Task<DepotSeen> SeenAsync() =>
            (await Kit.GetFromJsonAsync<List<DepotSeen>>($"api/refreshes/{refresh}/depots", RunningService.Json))!.Single();
        (await SeenAsync()).Trouble.ShouldNotBeNull("it was tried when it was set").ShouldContain("does not answer");
        await service.DoAsync($"{refresh}-0001", "first-trip", hand, RunningService.Result(10, 10), new(5_000_000));
        var good = await SeenAsync();
        (good.FreeBytes, good.Trouble, good.HeardAt is not null).ShouldBe((5_000_000, null, true));
        await service.DoAsync($"{refresh}-0001", "verify", hand, HandReport.Failed("gone"), new(null, "it does not answer"));
        (await SeenAsync()).Trouble.ShouldBe("it does not answer");
        // A hand that failed for another reason says nothing of the depot.
        await service.DoAsync($"{refresh}-0001", "top-up-trip", hand, HandReport.Failed("no such folder"));
        (await SeenAsync()).Trouble.ShouldBe("it does not answer");
        await service.DoAsync($"{refresh}-0001", "top-up-trip", hand, RunningService.Result(10, 10));
        (await SeenAsync()).Trouble.ShouldBeNull();
    }

    [Fact]
    public async Task A_depot_is_tried_when_it_is_set_where_the_service_may_and_a_path_is_a_folder()
    {
        var refresh = await service.RefreshAsync();
        async Task<DepotSeen> PutAsync(string address) =>
            (await (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/store", new DepotWanted("Store", address)))
                .EnsureSuccessStatusCode().Content.ReadFromJsonAsync<DepotSeen>(RunningService.Json))!;
        Directory.CreateDirectory(service.SharesFolder);
        var good = await PutAsync(service.SharesFolder + "?modes=group");
        (good.Address, good.Trouble, good.Tried![..6]).ShouldBe(($"file://{service.SharesFolder}?modes=group", null, "Tried:"));
        good.FreeBytes.ShouldNotBeNull().ShouldBeGreaterThan(0);
        Directory.GetFileSystemEntries(service.SharesFolder).ShouldBeEmpty("a trial leaves nothing");
        var away = await PutAsync(service.SharesFolder + "/not/there");
        (away.Trouble is not null, away.Tried![..24]).ShouldBe((true, "Tried, and it cannot be "), away.Tried);
        // Where the service does not go it does not knock either.
        foreach (var near in new[] { "http://localhost:1/", "sftp://localhost/store", "/etc" })
            (await PutAsync(near)).Tried.ShouldNotBeNull().ShouldStartWith("Not tried yet");
        await RunningService.ProblemAsync(
            await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/store", new DepotWanted("Store", @"\\server\share")), 422);
    }

    [Fact]
    public async Task What_lies_there_what_is_promised_and_what_is_free_is_one_figure_and_a_full_depot_is_a_need()
    {
        var refresh = await service.RefreshAsync();
        async Task SetAsync(long room) => (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Cloud", "built-in", CapacityBytes: room))).EnsureSuccessStatusCode();
        await SetAsync(1_000_000);
        await service.DoAsync(
            $"{refresh}-0001", "first-trip", await service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 10));
        async Task<DepotSeen> SeenAsync() =>
            (await Kit.GetFromJsonAsync<List<DepotSeen>>($"api/refreshes/{refresh}/depots", RunningService.Json))!.Single();
        var seen = await SeenAsync();
        (seen.FreeBytes, seen.Fill).ShouldBe((1_000_000 - seen.Bytes, Core.Carrying.DepotFillState.Roomy));
        seen.Bytes.ShouldBeGreaterThan(0);
        async Task<List<NeedSeen>> NeedsAsync() =>
            (await Kit.GetFromJsonAsync<List<NeedSeen>>($"api/refreshes/{refresh}/needs", RunningService.Json))!
            .FindAll(n => n.Action == "depot");
        (await NeedsAsync()).ShouldBeEmpty();
        await SetAsync(seen.Bytes);
        (await SeenAsync()).Fill.ShouldBe(Core.Carrying.DepotFillState.Full);
        var need = (await NeedsAsync()).ShouldHaveSingleItem();
        (need.Name, need.Words).ShouldBe(("Cloud", need.Words));
        need.Words.ShouldStartWith("Full: 0 B free");
        // What was purged lies there no more.
        await service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == $"{refresh}-0001")
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.PurgedAt, service.Now)));
        (await SeenAsync()).Bytes.ShouldBe(0);
    }

    [Fact]
    public async Task In_the_services_own_depot_a_hand_reaches_its_own_parcel_while_its_order_lasts_and_nothing_else()
    {
        var refresh = await service.RefreshAsync();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Own", "built-in"))).EnsureSuccessStatusCode();
        var (one, other) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-3"));
        foreach (var number in new[] { 1, 2 })
            (await service.OrderAsync($"{refresh}-000{number}", new("first-trip"))).EnsureSuccessStatusCode();
        var (mine, theirs) = (await RunningService.TakeAsync(one), await RunningService.TakeAsync(other));
        async Task<int> AskAsync(OrderTaken order, string method, string path, string? to = null, string depth = "0")
        {
            var request = new HttpRequestMessage(new(method), "depot" + path);
            request.Headers.Authorization = new(
                "Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes($"{order.Access!.User}:{order.Access!.Password}")));
            if (method == "PUT") request.Content = new StringContent("a letter");
            if (method == "PROPFIND") request.Headers.Add("Depth", depth);
            if (to is not null) request.Headers.Add("Destination", "http://localhost/depot" + to);
            return (int)(await service.Nobody().SendAsync(request)).StatusCode;
        }

        var (own, foreign) = (
            "/" + Uri.EscapeDataString(refresh) + "/" + Uri.EscapeDataString(mine.Parcel!.Split('/')[1]),
            "/" + Uri.EscapeDataString(refresh) + "/" + Uri.EscapeDataString(theirs.Parcel!.Split('/')[1]));
        (mine.Depot, mine.Access!.User).ShouldBe(("/depot", "order"));
        (await AskAsync(mine, "MKCOL", $"/{refresh}/")).ShouldBe(201);
        foreach (var (order, at) in new[] { (mine, own), (theirs, foreign) })
        {
            (await AskAsync(order, "MKCOL", at + "/")).ShouldBe(201);
            (await AskAsync(order, "PUT", at + "/letter")).ShouldBe(201);
        }
        (await AskAsync(mine, "GET", own + "/letter")).ShouldBe(200);
        foreach (var (method, path, to) in new (string, string, string?)[]
        {
            ("GET", foreign + "/letter", null),
            ("PUT", foreign + "/letter", null),
            ("DELETE", foreign, null),
            ("DELETE", $"/{refresh}", null),
            ("MOVE", own + "/letter", foreign + "/stolen"),
            ("COPY", foreign + "/letter", own + "/stolen"),
            ("GET", own + "/../" + foreign[(foreign.LastIndexOf('/') + 1)..] + "/letter", null),
            ("PUT", "/elsewhere", null),
            ("GET", "/", null)
        })
            (await AskAsync(mine, method, path, to)).ShouldBeOneOf([400, 403], $"{method} {path}");
        (await AskAsync(mine, "PROPFIND", "/")).ShouldBe(207);
        (await AskAsync(mine, "PROPFIND", "/", depth: "1")).ShouldBe(403);
        (await AskAsync(mine, "PROPFIND", $"/{refresh}/", depth: "1")).ShouldBe(403);
        (await service.EndAsync(one, mine, RunningService.Result(1, 1))).EnsureSuccessStatusCode();
        for (var tries = 0; await AskAsync(mine, "GET", own + "/letter") != 401; tries++)
        {
            tries.ShouldBeLessThan(600, "the ticket ends with its order");
            await Task.Delay(200);
        }
        (await AskAsync(theirs, "GET", foreign + "/letter")).ShouldBe(200);
    }

    [Fact]
    public async Task Hands_share_what_a_depot_and_a_site_allow_and_each_report_tells_them_anew()
    {
        var refresh = await service.RefreshAsync();
        Task<HttpResponseMessage> SetAsync(params string[] limits) =>
            Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Cloud", "http://127.0.0.1:1/", Limits: limits));
        (await RunningService.ProblemAsync(await SetAsync("40 Mbit"), 422)).ToJsonString().ShouldContain("08:00-18:00 40");
        (await SetAsync("80")).EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/sites/South", new SiteWanted("South", 2, Limits: ["8"]))).EnsureSuccessStatusCode();
        var (one, other) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-3"));
        foreach (var number in new[] { 1, 2 })
            (await service.OrderAsync($"{refresh}-000{number}", new("first-trip"))).EnsureSuccessStatusCode();
        var (first, second) = (await RunningService.TakeAsync(one), await RunningService.TakeAsync(other));
        (first.BytesPerSecond, second.BytesPerSecond).ShouldBe(
            (10_000_000, 1_000_000), "the first was alone; the second's site allows less");
        async Task<long?> ReportAsync(HttpClient hand, OrderTaken order, int number) =>
            (await (await hand.PostAsJsonAsync(
                $"api/hand/orders/{order.Id}/reports/{number}",
                new OrderReport(order.Attempt, service.Now, new(1, 2, 3, 4, 5), null),
                RunningService.Json)).Content
                .ReadFromJsonAsync<ReportTaken>(RunningService.Json))!.BytesPerSecond;
        (await ReportAsync(one, first, 1)).ShouldBe(5_000_000, "two hands share the depot");
        (await SetAsync("00:00-24:00 none")).EnsureSuccessStatusCode();
        (await ReportAsync(one, first, 2)).ShouldBe(0);
        (await SetAsync()).EnsureSuccessStatusCode();
        ((await ReportAsync(one, first, 3)), await ReportAsync(other, second, 1)).ShouldBe((null, 1_000_000));
    }
}
