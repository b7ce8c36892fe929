using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using YardRelay.Contracts;
using YardRelay.Core.Orders;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteServiceTests(OnSqlite service) : ServiceSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresServiceTests(OnPostgres service) : ServiceSuite(service), IClassFixture<OnPostgres>;

/// <summary>What the service must do, on every database.</summary>
public abstract class ServiceSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task Every_endpoint_is_open_to_just_the_roles_it_names_and_closed_to_everybody_else()
    {
        var refresh = await service.RefreshAsync();
        var callers = new Dictionary<string, HttpClient>
        {
            ["coordinator"] = Kit,
            ["technician"] = await service.AccountAsync("t1", "technician", "North"),
            ["auditor"] = await service.AccountAsync("a1", "auditor"),
            ["person"] = await service.AccountAsync("p1", "person"),
            ["hand"] = await service.HandAsync(refresh, "KB-1"),
            [""] = service.Nobody(),
        };
        var endpoints = service.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.RoutePattern.RawText!.StartsWith("/api/", StringComparison.Ordinal)
                && e.Metadata.GetMetadata<IEndpointNameMetadata>() is not null).ToList();
        endpoints.Count.ShouldBeGreaterThan(28);
        foreach (var endpoint in endpoints)
        {
            var name = endpoint.Metadata.GetMetadata<IEndpointNameMetadata>()!.EndpointName;
            var open = endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null;
            var policy = endpoint.Metadata.GetOrderedMetadata<IAuthorizeData>().Select(a => a.Policy).SingleOrDefault();
            open.ShouldNotBe(policy is not null, $"{name} must name exactly one policy or be open to all");
            var allowed = open ? callers.Keys.ToArray() : Accounts.Roles.Policies[policy!];
            var path = System.Text.RegularExpressions.Regex.Replace(
                endpoint.RoutePattern.RawText!,
                @"\{(\w+)(:\w+)?\}",
                m => m.Groups[1].Value switch { "refresh" => refresh, "number" => "1", _ => "none" });
            foreach (var (role, caller) in callers)
                foreach (var method in endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods)
                {
                    if (name is "GetEvents" or "TakeOrder" && allowed.Contains(role)) continue; // these wait
                    using var request = new HttpRequestMessage(new(method), path);
                    if (method != "GET") request.Content = JsonContent.Create(new { });
                    using var answer = await caller.SendAsync(request);
                    var refused = answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
                    refused.ShouldBe(!allowed.Contains(role) && !open, $"{method} {path} ({name}) as '{role}': {answer.StatusCode}");
                    if (role.Length == 0 && !open) answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
                }
        }
        (await Kit.GetAsync("api/no/such")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_technician_works_the_swaps_of_their_sites_only()
    {
        var refresh = await service.RefreshAsync();
        var technician = await service.AccountAsync("t-north", "technician", "North");
        (await technician.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).StatusCode
            .ShouldBe(HttpStatusCode.OK);
        (await RunningService.ProblemAsync(
            await technician.PostAsJsonAsync($"api/swaps/{refresh}-0002/orders", new OrderWanted("survey")),
            403))["detail"]!.GetValue<string>()
            .ShouldContain("South");
        (await RunningService.ProblemAsync(
            await technician.PostAsJsonAsync(
                $"api/swaps/{refresh}-0001/sign-offs", new SignOffWanted(SignOffPart.Coordinator), RunningService.Json),
            403))["detail"]!.GetValue<string>()
            .ShouldContain("coordinator");
    }

    [Fact]
    public async Task A_roster_is_taken_whole_or_not_at_all_and_twice_is_once()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var dry = (await (await service.RosterAsync(refresh, RunningService.Roster, dryRun: true)).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!;
        (dry.DryRun, dry.Added).ShouldBe((true, 3));
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Total.ShouldBe(0);
        var bad = await RunningService.ProblemAsync(
            await service.RosterAsync(refresh, RunningService.Roster.Replace(",South,", ",Nort,", StringComparison.Ordinal)), 422);
        bad["problems"]!.AsArray().Single()!["message"]!.GetValue<string>()
            .ShouldBe($"Roster line 3, column 'site', value 'Nort': this site is not in refresh '{refresh}'. It has North, South.");
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Total.ShouldBe(0);
        (await (await service.RosterAsync(refresh, RunningService.Roster)).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!.Added
            .ShouldBe(3);
        var ledger = (await service.LedgerAsync(refresh)).Count;
        var again = (await (await service.RosterAsync(refresh, RunningService.Roster)).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!;
        (again.Added, again.Changed, again.Same).ShouldBe((0, 0, 3));
        (await service.LedgerAsync(refresh)).Count.ShouldBe(ledger);
        var moved = (await (await service.RosterAsync(
            refresh, RunningService.Roster.Replace("Sol Okafor,South", "Sol Okafor,North", StringComparison.Ordinal))).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!;
        moved.Changes.Single().What.ShouldContain("South");
    }

    [Fact]
    public async Task A_roster_in_a_spreadsheets_own_alphabet_is_taken_and_one_that_is_too_large_or_all_alike_is_not()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        async Task<HttpResponseMessage> SendAsync(byte[] file) =>
            await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent(file)
            {
                Headers = { ContentType = new("text/csv") }
            });
        var latin = System.Text.CodePagesEncodingProvider.Instance.GetEncoding(1252)!;
        (await SendAsync(latin.GetBytes("Person;Name;Site;Kind;Old tag;New tag\nk1;Zoë Möller;North;renew;KB-1;KB-2\n"))).StatusCode
            .ShouldBe(HttpStatusCode.OK);
        (await service.SwapAsync($"{refresh}-0001")).Swap.Name.ShouldBe("Zoë Möller");
        (await RunningService.ProblemAsync(await SendAsync(new byte[(16 << 20) + 1]), 422))["code"]!.GetValue<string>()
            .ShouldBe("roster.size");
        var alike = "person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 300).Select(i => $"p{i},Person {i},North,renew,SAME,NEW-{i}\n"));
        var refused = await RunningService.ProblemAsync(await SendAsync(System.Text.Encoding.UTF8.GetBytes(alike)), 422);
        refused["problems"]!.AsArray().ShouldHaveSingleItem()!["message"]!.GetValue<string>()
            .ShouldBe(
                "Roster line 2, column 'old_tag', value 'SAME': 300 rows have this tag. Each computer has a tag of its own. Look whether "
                    + "the right column was matched.");
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Total.ShouldBe(1);
        // A large one is taken in one go, and the same again changes nothing.
        var many = System.Text.Encoding.UTF8.GetBytes("person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 3000).Select(i => $"m{i},Person {i},South,renew,O-{i},N-{i}\n")));
        (await (await SendAsync(many)).Content.ReadFromJsonAsync<RosterTaken>(RunningService.Json))!.Added.ShouldBe(3000);
        (await (await SendAsync(many)).Content.ReadFromJsonAsync<RosterTaken>(RunningService.Json))!.Same.ShouldBe(3000);
    }

    [Fact]
    public async Task The_list_finds_filters_sorts_and_pages_without_losing_or_repeating()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var csv = "person,name,site,kind,old_tag,new_tag,room\n"
            + string.Concat(Enumerable.Range(0, 57).Select(i =>
                $"k{i},{(i % 3 == 0 ? "Ada" : i % 3 == 1 ? "Öl_a%" : "Zoe")} {i % 7},{(i % 2 == 0 ? "North" : "South")},renew,O-{i},N-"
                    + $"{i},Room {i}\n"));
        (await service.RosterAsync(refresh, csv)).EnsureSuccessStatusCode();
        await service.PublishAsync(refresh, new(Steps: 0));
        foreach (var sort in new[] { "name", "time", "station" })
        {
            var (seen, cursor) = (new List<SwapListed>(), "");
            do
            {
                var page = (await Kit.GetFromJsonAsync<Page<SwapListed>>(
                    $"api/refreshes/{refresh}/swaps?limit=10&sort={sort}&cursor={cursor}", RunningService.Json))!;
                page.Total.ShouldBe(57);
                seen.AddRange(page.Items);
                cursor = page.Next;
            }
            while (cursor is not null);
            seen.Select(s => s.Id).Distinct().Count().ShouldBe(57, sort);
            if (sort == "time") seen.Select(s => s.Appointment?.Start ?? DateTimeOffset.MaxValue).ShouldBeInOrder();
        }
        async Task<long> Found(string query) =>
            (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?{query}", RunningService.Json))!.Total;
        (await Found("q=ada")).ShouldBe(19);
        (await Found("q=" + Uri.EscapeDataString("l_a%"))).ShouldBe(19);
        (await Found("q=" + Uri.EscapeDataString("_"))).ShouldBe(19);
        (await Found("q=O-56")).ShouldBe(1);
        (await Found("site=South")).ShouldBe(28);
        (await Found("kind=leave")).ShouldBe(0);
        ((int)(await Kit.GetAsync($"api/refreshes/{refresh}/swaps?cursor=bm9uc2Vuc2U")).StatusCode).ShouldBe(400);
        ((int)(await Kit.GetAsync($"api/refreshes/{refresh}/swaps?limit=0")).StatusCode).ShouldBe(400);
    }

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
    public async Task A_hand_that_is_replaced_while_it_waits_is_told_at_once_and_gets_no_order_any_more()
    {
        var refresh = await service.RefreshAsync();
        var first = await service.HandAsync(refresh, "KB-1");
        var waiting = first.PostAsync("api/hand/orders/next?waitSeconds=25", null);
        await Task.Delay(300, TestContext.Current.CancellationToken);
        var second = await service.HandAsync(refresh, "KB-1");
        (await RunningService.ProblemAsync(
            await waiting.WaitAsync(TimeSpan.FromSeconds(10), TestContext.Current.CancellationToken), 401))["code"]!.GetValue<string>()
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
        foreach (var (number, code) in new[] { (null, "hand.older"), ("1", "hand.older"), ("3", "hand.newer") })
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

    [Fact]
    public async Task The_live_stream_resumes_after_the_last_event_and_progress_bears_no_id()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        var request = new HttpRequestMessage(HttpMethod.Get, $"api/refreshes/{refresh}/events");
        request.Headers.Add("Last-Event-ID", "2");
        using var response = await Kit.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        using var lines = new StreamReader(await response.Content.ReadAsStreamAsync());
        (await NextAsync("id: ")).ShouldBe("id: 3");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        await NextAsync("data: {\"number\":", l => l.Contains("order.given"));
        var order = await RunningService.TakeAsync(hand);
        await hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1",
            new OrderReport(order.Attempt, service.Now, new(4, 9, 5, 6, 7), null),
            RunningService.Json);
        (await NextAsync("event: progress")).ShouldBe("event: progress");
        (await lines.ReadLineAsync())!.ShouldContain("\"files\":4");

        async Task<string> NextAsync(string start, Func<string, bool>? fits = null)
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(20));
            while (await lines.ReadLineAsync(limit.Token) is { } line)
                if (line.StartsWith(start, StringComparison.Ordinal) && fits?.Invoke(line) != false) return line;
            throw new InvalidOperationException("The stream ended.");
        }
    }

    [Fact]
    public async Task A_plan_books_what_fits_says_why_not_and_moves_nobody_who_was_told_without_need()
    {
        var refresh = await service.RefreshAsync();
        (await RunningService.ProblemAsync(
            await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(Steps: -1)), 422))["code"]!.GetValue<string>()
            .ShouldBe("plan.steps");
        var plan = await service.PublishAsync(refresh, new(200));
        (plan.Appointments.Count, plan.LeftOut.Count).ShouldBe((3, 0));
        var again = await service.PublishAsync(refresh, new(200, Seed: 9));
        again.Appointments.ShouldBe(plan.Appointments, "what was promised is kept");
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/sites/South", new SiteWanted("South", 1))).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(
            await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/sites/South", new SiteWanted("South", -1)), 422))["code"]!.GetValue<string>()
            .ShouldBe("site.benches");
    }

    [Fact]
    public async Task A_wrong_password_tells_nothing_and_too_many_lock_the_account_for_a_while()
    {
        await service.AccountAsync("lockme", "auditor");
        var nobody = service.Nobody();
        async Task<int> TryAsync(string name, string password) =>
            (int)(await nobody.PostAsJsonAsync("api/sessions", new SignIn(name, password))).StatusCode;
        (await TryAsync("nobody-of-that-name", "x")).ShouldBe(401);
        for (var i = 0; i < 8; i++) (await TryAsync("lockme", "wrong")).ShouldBe(401);
        (await TryAsync("lockme", RunningService.Password)).ShouldBe(429);
    }

    [Fact]
    public async Task Nothing_but_a_digest_of_any_secret_is_kept()
    {
        var hand = await service.HandAsync(await service.RefreshAsync(), "KB-1");
        var token = hand.DefaultRequestHeaders.Authorization!.Parameter!;
        (await service.WithRecordsAsync(db => db.Tokens.CountAsync(t => t.Sha256 == token || t.Label.Contains(token)))).ShouldBe(0);
        (await service.WithRecordsAsync(db => db.Accounts.CountAsync(a => a.Password == RunningService.Password))).ShouldBe(0);
    }
}
