using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Sealing;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteParcelTests(OnSqlite service) : ParcelSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresParcelTests(OnPostgres service) : ParcelSuite(service), IClassFixture<OnPostgres>;

/// <summary>
/// A staged parcel through the service: snags of all swaps, where it lands, its report, its hold and its end, on every database.
/// </summary>
public abstract class ParcelSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private static Snag Pipe(string path) => new(path, SnagKind.Pipe, 10, "It is a named pipe.");

    private async Task<(string Refresh, HttpClient Old, HttpClient New)> StagedAsync(params Snag[] snags)
    {
        var refresh = await service.RefreshAsync();
        var (old, @new) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-2"));
        await service.DoAsync($"{refresh}-0001", "first-trip", old, RunningService.Result(10, 10 - snags.Length, snags));
        await service.DoAsync($"{refresh}-0001", "verify", old, HandReport.Fine);
        return (refresh, old, @new);
    }

    private async Task<Page<SnagListed>> SnagsAsync(string refresh, string query = "") =>
        (await Kit.GetFromJsonAsync<Page<SnagListed>>($"api/refreshes/{refresh}/snags?{query}", RunningService.Json))!;

    private Task<HttpResponseMessage> OrderAsync(string swap, OrderWanted wanted) =>
        Kit.PostAsJsonAsync($"api/swaps/{swap}/orders", wanted);

    /// <summary>Five pipes at Ida's in the North, at Sol's in the South a pipe and a file that could not be read.</summary>
    private async Task<string> SevenSnagsAsync()
    {
        var (refresh, _, _) = await StagedAsync([.. Enumerable.Range(0, 5).Select(i => Pipe($"Documents/pipe{i}"))]);
        var south = await service.HandAsync(refresh, "KB-3");
        await service.DoAsync(
            $"{refresh}-0002",
            "first-trip",
            south,
            RunningService.Result(
                3, 1, Pipe("Documents/100%_sure"), new("Documents/locked", SnagKind.Unreadable, 10, "No right to read it.")));
        return refresh;
    }

    private async Task<List<string>> IdsAsync(string refresh) => [.. (await SnagsAsync(refresh)).Items.Select(p => p.Snag.Id)];

    private static Task<HttpResponseMessage> WaiveAsync(HttpClient by, string refresh, IReadOnlyList<string> ids, string reason) =>
        by.PostAsJsonAsync($"api/refreshes/{refresh}/waivers", new WaiversWanted(ids, reason));

    [Fact]
    public async Task Snags_of_all_swaps_stand_in_one_list_that_has_pages()
    {
        var refresh = await SevenSnagsAsync();
        var pages = new List<SnagListed>();
        for (string? cursor = ""; cursor is not null;)
        {
            var page = await SnagsAsync(refresh, $"limit=3&cursor={cursor}");
            (page.Total, page.Items.Count).ShouldBe((7, Math.Min(3, 7 - pages.Count)));
            pages.AddRange(page.Items);
            cursor = page.Next;
        }
        pages.Select(p => p.Snag.Id).Distinct().Count().ShouldBe(7);
        await RunningService.ProblemAsync(await Kit.GetAsync($"api/refreshes/{refresh}/snags?cursor=x"), 400);
    }

    [Fact]
    public async Task Each_snag_says_which_ways_lead_out_of_it()
    {
        var all = (await SnagsAsync(await SevenSnagsAsync())).Items;
        all.Single(p => p.Snag.Kind == SnagKind.Unreadable).Ways.ShouldBe(["top-up-trip", "waive"]);
        all.Where(p => p.Snag.Kind == SnagKind.Pipe).ShouldAllBe(p =>
            p.Ways.Count == 1 && p.Counsel.Contains("Waive", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Snags_are_found_by_kind_site_name_and_path_as_they_are_written()
    {
        var refresh = await SevenSnagsAsync();
        (await SnagsAsync(refresh, "kind=pipe&site=South")).Items.Single().Snag.Path.ShouldBe("Documents/100%_sure");
        (await SnagsAsync(refresh, "q=100%25_")).Items.Single().Name.ShouldBe("Sol Okafor");
        (await SnagsAsync(refresh, "q=ida")).Total.ShouldBe(5);
        await RunningService.ProblemAsync(await Kit.GetAsync($"api/refreshes/{refresh}/snags?kind=flood"), 400);
    }

    [Fact]
    public async Task Many_are_waived_with_a_reason_and_all_or_none_where_one_is_not_known()
    {
        var refresh = await SevenSnagsAsync();
        var ids = await IdsAsync(refresh);
        await RunningService.ProblemAsync(await WaiveAsync(Kit, refresh, ids, " "), 422);
        await RunningService.ProblemAsync(await WaiveAsync(Kit, refresh, [.. ids, "none"], "why"), 404);
        (await SnagsAsync(refresh)).Total.ShouldBe(7);
    }

    [Fact]
    public async Task A_technician_waives_together_what_is_at_their_sites_and_is_told_what_is_not()
    {
        var refresh = await SevenSnagsAsync();
        var north = await service.AccountAsync($"north{refresh}", "technician", "North");
        var made = (await (await WaiveAsync(north, refresh, await IdsAsync(refresh), "Pipes hold no content")).Content
            .ReadFromJsonAsync<WaiversMade>(RunningService.Json))!;
        (made.Waived, made.Skipped.Count).ShouldBe((5, 2));
        made.Skipped.ShouldAllBe(s => s.Contains("South is not one of your sites", StringComparison.Ordinal));
        (await service.SwapAsync($"{refresh}-0001")).Swap.Line
            .Single(s => s.Station == Station.Staged).At
            .ShouldNotBeNull("nothing is open there any more");
        (await SnagsAsync(refresh, "end=waived")).Items.ShouldAllBe(s =>
            s.Snag.EndReason == "Pipes hold no content" && s.Snag.EndedBy == $"north{refresh}");
    }

    [Fact]
    public async Task A_landing_plan_is_checked_kept_looked_at_and_handed_to_the_hand_that_restores()
    {
        var (refresh, _, hand) = await StagedAsync();
        var swap = $"{refresh}-0001";
        var bad = await RunningService.ProblemAsync(
            await Kit.PutAsJsonAsync($"api/swaps/{swap}/landing", new LandingWanted([new("ida", "../root")], [], [], "burn", [])), 422);
        bad.ToJsonString().ShouldContain("no clash rule");
        var plan = new LandingWanted(
            [new("ida", "imoreau")], [new("Pictures", "Archive/Pictures")], ["ida/Desktop"], "Stay", [new("Documents", "newer")]);
        (await Kit.PutAsJsonAsync($"api/swaps/{swap}/landing", plan)).EnsureSuccessStatusCode();
        var folder = new ForeseenFolder("Documents", "Documents", new(7, 70), new(2, 20), new(1, 10), default, default);
        await service.DoAsync(swap, "look", hand, HandReport.Fine with { Foreseen = new(service.Now, [folder], 80, 1000, []) });
        var seen = (await Kit.GetFromJsonAsync<LandingSeen>($"api/swaps/{swap}/landing", RunningService.Json))!;
        (seen.By, seen.Plan.Clash, seen.Foreseen!.Folders.Single()).ShouldBe(("kit", "stay", folder));
        (await service.SwapAsync(swap)).Swap.Line.Single(s => s.Station == Station.Restored).At.ShouldBeNull("a look restores nothing");

        (await OrderAsync(swap, new("restore"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (
            order.Landing!.Accounts.Single(),
            order.Landing!.Clashes.Single(),
            string.Join(',', order.Landing!.First),
            order.Only).ShouldBe((new("ida", "imoreau"), new("Documents", "newer"), "ida/Desktop", null));
        (await service.EndAsync(hand, order, RunningService.Result(10, 10))).EnsureSuccessStatusCode();
        var before = await service.SwapAsync(swap);
        before.Swap.Line.Single(s => s.Station == Station.Restored).At.ShouldNotBeNull();

        (await RunningService.ProblemAsync(await OrderAsync(swap, new("part-restore")), 422)).ToJsonString().ShouldContain("Which part");
        (await OrderAsync(swap, new("part-restore", ["Documents/letter"]))).EnsureSuccessStatusCode();
        var part = await RunningService.TakeAsync(hand);
        part.Only.ShouldBe(["Documents/letter"]);
        (await service.EndAsync(hand, part, RunningService.Result(1, 1))).EnsureSuccessStatusCode();
        (await service.SwapAsync(swap)).Account.ShouldBe(before.Account, "a part is no account of the whole");
    }

    [Fact]
    public async Task A_parcel_is_purged_only_after_its_hold_under_its_name_and_by_proof()
    {
        var (refresh, _, hand) = await StagedAsync();
        var swap = $"{refresh}-0001";
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/cloud",
            new DepotWanted("Cloud", "http://127.0.0.1:1/", HoldDays: 0, EndsOn: DrivenClock.Today.AddDays(9)))).EnsureSuccessStatusCode();
        var held = (await service.SwapAsync(swap)).Parcel!;
        held.Hold.Missing.Count.ShouldBe(2);
        held.Hold.Alarm.ShouldNotBeNull().ShouldContain("is not restored");
        var needs = (await Kit.GetFromJsonAsync<DaySeen>($"api/refreshes/{refresh}/today", RunningService.Json))!.Needs;
        (
            needs[0].Action,
            needs[0].Name,
            needs[0].Words.Contains(
                "1 parcel is not restored", StringComparison.Ordinal)).ShouldBe(("depot", "Cloud", true), needs[0].Words);
        (await RunningService.ProblemAsync(await OrderAsync(swap, new("purge", Confirm: held.Name)), 409)).ToJsonString()
            .ShouldContain("not signed off");

        await service.DoAsync(swap, "restore", hand, RunningService.Result(10, 10));
        await SignAsync(swap);
        (await RunningService.ProblemAsync(await OrderAsync(swap, new("purge", Confirm: "another")), 422)).ToJsonString()
            .ShouldContain(held.Name);
        (await RunningService.ProblemAsync(
            await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/orders", new OrdersWanted("purge", [])), 422)).ToJsonString()
            .ShouldContain("one swap at a time");
        (await OrderAsync(swap, new("purge", Confirm: held.Name))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (await service.EndAsync(hand, order, RunningService.Result(10, 10))).EnsureSuccessStatusCode();
        var purged = await service.SwapAsync(swap);
        purged.Parcel!.Hold.PurgedAt.ShouldNotBeNull();
        purged.History.Select(h => h.Kind).ShouldContain("parcel.purged");
        (await RunningService.ProblemAsync(await OrderAsync(swap, new("part-restore", ["Documents"])), 409)).ToJsonString()
            .ShouldContain("purged");
    }

    [Fact]
    public async Task The_report_tells_what_stayed_and_what_to_install_as_page_table_and_paper()
    {
        var (refresh, old, _) = await StagedAsync(Pipe("Documents/=cmd|' /C calc'!A0\u0007"));
        var swap = $"{refresh}-0001";
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/catalogue/berth",
            new CatalogueWanted("berth planner*", "Berth Planner 7", "program shop", true))).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(
            await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/catalogue/all", new CatalogueWanted("*", "x", null, false)),
            422)).ToJsonString()
            .ShouldContain("fits every program");
        var programs = new Core.Carrying.Inventories.ComputerFound(
            [], [new("Berth Planner Pro", "6.2", "list"), new("Rota Desk", "2", "list")], []);
        await service.DoAsync(
            swap,
            "survey",
            old,
            new([new("Documents", new(10, 100), default, default)], [], Survey: new(programs, 10, null, null)));
        await service.DoAsync(
            swap,
            "top-up-trip",
            old,
            RunningService.Result(10, 9, Pipe("Documents/=cmd|' /C calc'!A0\u0007")) with
            {
                Reasons = [new("", new(3, 30), "temporary files", null)]
            });
        await service.DoAsync(swap, "verify", old, HandReport.Fine);
        var report = (await Kit.GetFromJsonAsync<ParcelReport>($"api/swaps/{swap}/report", RunningService.Json))!;
        report.Programs.Select(p => (p.Name, p.Offer, p.IsLicenceBound))
            .ShouldBe([("Berth Planner Pro", "Berth Planner 7", true), ("Rota Desk", null, false)]);
        (
            report.Stayed.Single().Reason,
            report.Open.Single().Path.Length > 0,
            report.Words.EndsWith("1 is still open.", StringComparison.Ordinal)).ShouldBe(("temporary files", true, true), report.Words);

        var csv = await Kit.GetStringAsync($"api/swaps/{swap}/report.csv");
        csv.Split("\r\n").Count(l => l.Length > 0).ShouldBe(1 + 2 + 1 + 1 + 2);
        csv.ShouldNotContain("\n=");
        csv.ShouldContain("install Berth Planner 7; sign out on the old computer first");
        using var answer = await Kit.GetAsync($"api/swaps/{swap}/report.pdf");
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        var pdf = await answer.Content.ReadAsByteArrayAsync();
        using var folder = new YardRelay.Peers.TempFolder();
        await File.WriteAllBytesAsync(folder["report.pdf"], pdf);
        var text = YardRelay.Peers.Run.Must("pdftotext", "-layout", folder["report.pdf"], "-");
        foreach (var part in new[] { "Ida Moreau", "Berth Planner 7. Sign out", "temporary files", "Documents/=cmd", "1 of 1" })
            text.ShouldContain(part);
        await RunningService.ProblemAsync(await Kit.GetAsync("api/swaps/none-0001/report.pdf"), 404);
    }

    [Fact]
    public async Task The_key_of_a_sealed_parcel_is_kept_encrypted_and_goes_to_hands_of_this_swap_only()
    {
        var refresh = await service.RefreshAsync();
        var (old, @new, other) = (
            await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-2"), await service.HandAsync(refresh, "KB-3"));
        (await RunningService.ProblemAsync(
            await Kit.PutAsJsonAsync(
                $"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Cloud", "http://127.0.0.1:1/", SealTo: ["age1mistyped"])),
            422)).ToJsonString()
            .ShouldContain("no recipient");
        var recovery = AgeIdentity.Create().Recipient.Text;
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/cloud",
            new DepotWanted("Cloud", "http://127.0.0.1:1/", SealTo: [recovery]))).EnsureSuccessStatusCode();
        (await OrderAsync($"{refresh}-0001", new("first-trip"))).EnsureSuccessStatusCode();
        var first = await RunningService.TakeAsync(old);
        (first.SealTo!.Single(), first.ParcelKey).ShouldBe((recovery, null));
        var key = AgeIdentity.Create().Secret();
        (await service.EndAsync(old, first, RunningService.Result(10, 10) with { ParcelKey = key })).EnsureSuccessStatusCode();
        (await service.WithRecordsAsync(db => db.Cargo.SingleAsync(c => c.Swap == $"{refresh}-0001"))).ParcelKey.ShouldNotBeNull()
            .ShouldNotContain(key);
        (await service.WithRecordsAsync(db => db.Ledger.Where(l => l.Refresh == refresh).Select(l => l.Json + l.Words).ToListAsync()))
            .ShouldAllBe(t => !t.Contains(key));
        await service.DoAsync($"{refresh}-0001", "verify", old, HandReport.Fine);
        (await service.SwapAsync($"{refresh}-0001")).Parcel!.Sealed.ShouldBeTrue();
        (await OrderAsync($"{refresh}-0001", new("restore"))).EnsureSuccessStatusCode();
        (await OrderAsync($"{refresh}-0002", new("survey"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(@new)).ParcelKey.ShouldBe(key);
        (await RunningService.TakeAsync(other)).ParcelKey.ShouldBeNull();
    }

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
        (await OrderAsync($"{refresh}-0001", new("first-trip"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-1"))).Access
            .ShouldBe(new DepotAccessWanted("ferry", "lighthouse-7", null, "SHA256:abc"));
        (await PutAsync(new())).OpenedBy.ShouldBeNull("given empty, it is forgotten");
        (await OrderAsync($"{refresh}-0002", new("first-trip"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-3"))).Access.ShouldBeNull();
    }

    [Fact]
    public async Task A_depot_shows_what_hands_last_found_there()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        async Task<DepotSeen> SeenAsync() =>
            (await Kit.GetFromJsonAsync<List<DepotSeen>>($"api/refreshes/{refresh}/depots", RunningService.Json))!.Single();
        (await SeenAsync()).HeardAt.ShouldBeNull();
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
    public async Task In_the_services_own_depot_a_hand_reaches_its_own_parcel_while_its_order_lasts_and_nothing_else()
    {
        var refresh = await service.RefreshAsync();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Own", "built-in"))).EnsureSuccessStatusCode();
        var (one, other) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-3"));
        foreach (var number in new[] { 1, 2 }) (await OrderAsync($"{refresh}-000{number}", new("first-trip"))).EnsureSuccessStatusCode();
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
        foreach (var number in new[] { 1, 2 }) (await OrderAsync($"{refresh}-000{number}", new("first-trip"))).EnsureSuccessStatusCode();
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

    [Fact]
    public async Task The_id_of_the_parcel_goes_to_every_later_hand_so_that_another_account_is_noticed()
    {
        var (refresh, _, hand) = await StagedAsync();
        var old = await service.HandAsync(refresh, "KB-1");
        await service.DoAsync($"{refresh}-0001", "top-up-trip", old, RunningService.Result(10, 10) with { ParcelId = "a-b-c" });
        await service.DoAsync($"{refresh}-0001", "verify", old, HandReport.Fine);
        (await OrderAsync($"{refresh}-0001", new("restore"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(hand)).ParcelId.ShouldBe("a-b-c");
    }

    private async Task SignAsync(string swap)
    {
        await service.WorkAsync(swap, s => s.Phase != "hand-in");
        var signed = await Kit.PostAsJsonAsync(
            $"api/swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician), RunningService.Json);
        signed.StatusCode.ShouldBe(HttpStatusCode.OK, await signed.Content.ReadAsStringAsync());
    }
}
