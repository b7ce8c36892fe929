using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Ledger;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

/// <summary>
/// Two processes of the service on one PostgreSQL, as behind a load balancer: what is done at one is heard, and held, at the other.
/// </summary>
public sealed class TwoProcessesTests(OnPostgres service) : IClassFixture<OnPostgres>, IAsyncLifetime
{
    private WebApplicationFactory<Program> _other = null!;
    private HttpClient _kitThere = null!;

    private HttpClient Kit => service.Kit;

    public ValueTask InitializeAsync()
    {
        _other = service.StartAnother();
        _kitThere = RunningService.At(_other, Kit);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task A_hand_that_waits_at_one_process_gets_the_order_given_at_the_other_at_once()
    {
        var refresh = await service.RefreshAsync();
        var hand = RunningService.At(_other, await service.HandAsync(refresh, "KB-1"));
        (await _kitThere.GetAsync($"api/refreshes/{refresh}")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var waiting = hand.PostAsync("api/hand/orders/next?waitSeconds=25", null);
        await Task.Delay(300, TestContext.Current.CancellationToken);
        waiting.IsCompleted.ShouldBeFalse();
        (await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).EnsureSuccessStatusCode();
        var woken = await waiting.WaitAsync(TimeSpan.FromSeconds(8), TestContext.Current.CancellationToken);
        (await woken.Content.ReadFromJsonAsync<OrderTaken>(RunningService.Json))!.Kind.ShouldBe("survey");
    }

    [Fact]
    public async Task A_live_stream_at_one_process_tells_of_a_step_set_at_the_other_and_of_a_trips_progress()
    {
        var refresh = await service.RefreshAsync();
        using var response = await _kitThere.GetAsync($"api/refreshes/{refresh}/events", HttpCompletionOption.ResponseHeadersRead);
        using var lines = new StreamReader(await response.Content.ReadAsStreamAsync());
        var request = new HttpRequestMessage(
            HttpMethod.Put, $"api/swaps/{refresh}-0001/checklist/steps/told")
        { Content = JsonContent.Create(new StepChange("ticked")) };
        request.Headers.TryAddWithoutValidation("If-Match", $"\"{(await service.SwapAsync($"{refresh}-0001")).Checklist.Version}\"");
        (await Kit.SendAsync(request)).EnsureSuccessStatusCode();
        await NextAsync(l => l.Contains("step.", StringComparison.Ordinal));
        var hand = await service.HandAsync(refresh, "KB-1");
        (await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        await hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1",
            new OrderReport(order.Attempt, service.Now, new(41, 9, 5, 6, 7), null),
            RunningService.Json);
        await NextAsync(l => l.Contains("\"files\":41", StringComparison.Ordinal));

        async Task NextAsync(Func<string, bool> fits)
        {
            using var limit = new CancellationTokenSource(Run.Patience);
            while (await lines.ReadLineAsync(limit.Token) is { } line)
                if (fits(line)) return;
            throw new InvalidOperationException("The stream ended.");
        }
    }

    private static async Task<MoveSeen> MoveAsync(
        HttpClient at, string refresh, string swap, DateTimeOffset start, int version, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var answer = await at.SendAsync(new(HttpMethod.Post, $"api/refreshes/{refresh}/plan/draft/moves")
        {
            Headers = { { "If-Match", $"\"{version}\"" } },
            Content = JsonContent.Create(new MoveWanted(swap, "noor", start))
        });
        answer.StatusCode.ShouldBe(expected, await answer.Content.ReadAsStringAsync());
        return expected == HttpStatusCode.OK ? (await answer.Content.ReadFromJsonAsync<MoveSeen>(RunningService.Json))! : null!;
    }

    [Fact]
    public async Task A_draft_moved_at_one_process_is_laid_out_anew_at_the_other_and_the_world_too()
    {
        var refresh = await service.RefreshAsync();
        (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(100))).EnsureSuccessStatusCode();
        async Task<PlanSeen> PlanAsync(HttpClient at) =>
            (await at.GetFromJsonAsync<PlanSeen>($"api/refreshes/{refresh}/plan", RunningService.Json))!;
        var (here, there) = (await PlanAsync(Kit), await PlanAsync(_kitThere));
        there.Appointments.ShouldBe(here.Appointments);
        var swap = here.Appointments[0].Swap;
        var day = here.Appointments[0].Start.Date.AddDays(2);
        // Turn by turn at both: each sees what the other did, and neither loses it.
        var version = here.Version;
        for (var turn = 0; turn < 6; turn++)
        {
            var start = new DateTimeOffset(day.AddHours(9).AddMinutes(15 * turn), TimeSpan.Zero);
            version = (await MoveAsync(turn % 2 == 0 ? Kit : _kitThere, refresh, swap, start, version)).Version;
            foreach (var at in new[] { Kit, _kitThere })
                (await PlanAsync(at)).Appointments.Single(a => a.Swap == swap).Start.ShouldBe(start);
        }
        await MoveAsync(_kitThere, refresh, swap, here.Appointments[0].Start, here.Version, HttpStatusCode.PreconditionFailed);
        // The morning of a sick day, said at the one: the other's board feels it at once.
        (await _kitThere.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/noor",
            new TechnicianWanted(
                "Noor", ["North", "South"], ["daily 08:00-12:00"], null, [$"{day:yyyy-MM-dd}"]))).EnsureSuccessStatusCode();
        (await PlanAsync(Kit)).Lost.ShouldHaveSingleItem().Swap.ShouldBe(swap);
        var refused = await MoveAsync(Kit, refresh, swap, new DateTimeOffset(day.AddHours(10), TimeSpan.Zero), version);
        refused.Breaks.ShouldContain(b => b.Contains("Noor has no shift"));
    }

    [Fact]
    public async Task Two_coordinators_who_publish_at_two_processes_at_once_publish_one_plan()
    {
        var refresh = await service.RefreshAsync();
        var draft = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(100))).Content
            .ReadFromJsonAsync<PlanSeen>(RunningService.Json))!;
        var both = await Task.WhenAll(new[] { Kit, _kitThere }.Select(at => at.SendAsync(new(
            HttpMethod.Post, $"api/refreshes/{refresh}/plan/publication")
        { Headers = { { "If-Match", $"\"{draft.Version}\"" } } })));
        both.Select(b => b.StatusCode).ShouldBe([HttpStatusCode.OK, HttpStatusCode.Conflict], ignoreOrder: true);
        (await service.WithRecordsAsync(db => db.Plans.CountAsync(p => p.Refresh == refresh))).ShouldBe(1);
        (await service.WithRecordsAsync(db => db.Swaps.Where(s => s.Refresh == refresh).Select(s => s.Sequence).ToListAsync()))
            .ShouldAllBe(n => n == 1);
    }

    [Fact]
    public async Task Of_many_that_ask_with_one_hands_token_at_both_processes_only_the_last_attempt_may_report()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        var there = RunningService.At(_other, hand);
        for (var round = 0; round < 3; round++)
        {
            (await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).EnsureSuccessStatusCode();
            var taken = await Task.WhenAll(Enumerable.Range(0, 8).Select(async i =>
                (await (await (i % 2 == 0 ? hand : there).PostAsync("api/hand/orders/next?waitSeconds=0", null)).Content
                    .ReadFromJsonAsync<OrderTaken>(RunningService.Json))!));
            taken.Select(t => t.Id).Distinct().Count().ShouldBe(1);
            taken.Select(t => t.Attempt).Order().ShouldBe(Enumerable.Range(1, 8));
            var answers = await Task.WhenAll(taken.Select(async t =>
                (
                    t.Attempt,
                    (await (t.Attempt % 2 == 0 ? hand : there).PostAsJsonAsync(
                        $"api/hand/orders/{t.Id}/reports/1",
                        new OrderReport(t.Attempt, service.Now, null, RunningService.Result(3, 0).Of(t.Work)),
                        RunningService.Json)).StatusCode)));
            answers.Where(a => a.StatusCode == HttpStatusCode.OK).Select(a => a.Attempt).ShouldBe([8]);
        }
    }

    [Fact]
    public async Task A_request_sent_to_both_with_one_key_is_done_once_and_the_ledger_stays_one_chain()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var key = Guid.NewGuid().ToString();
        async Task<HttpResponseMessage> MakeAsync(HttpClient at)
        {
            var request = new HttpRequestMessage(HttpMethod.Post, "api/refreshes")
            {
                Content = JsonContent.Create(new NewRefresh($"{refresh}-twin", "Twin", "UTC", new DateOnly(2026, 12, 1), 3))
            };
            request.Headers.Add("Idempotency-Key", key);
            return await at.SendAsync(request);
        }

        var both = await Task.WhenAll(MakeAsync(Kit), MakeAsync(_kitThere), MakeAsync(Kit), MakeAsync(_kitThere));
        both.ShouldAllBe(b => b.IsSuccessStatusCode);
        await Task.WhenAll(Enumerable.Range(0, 30).Select(async i => (await (i % 2 == 0 ? Kit : _kitThere)
            .PutAsJsonAsync($"api/refreshes/{refresh}/sites/S{i}", new SiteWanted($"Site {i}", 1))).EnsureSuccessStatusCode()));
        var ledger = (await _kitThere.GetFromJsonAsync<Page<LedgerEntrySeen>>(
            $"api/refreshes/{refresh}/ledger?limit=1000", RunningService.Json))!.Items;
        LedgerChain.Check([.. ledger.Select(e => new LedgerEntry(e.Number, e.Json, e.Sha256))], null).ShouldBeEmpty();
        ledger.Count(e => e.Json.Contains("site.set", StringComparison.Ordinal)).ShouldBe(32);
        (await Kit.GetFromJsonAsync<Page<LedgerEntrySeen>>($"api/refreshes/{refresh}-twin/ledger?limit=1000", RunningService.Json))!.Items
            .Count(e => e.Json.Contains("refresh.made", StringComparison.Ordinal))
            .ShouldBe(1);
    }

    [Fact]
    public async Task Two_that_set_one_step_at_two_processes_do_not_overwrite_each_other()
    {
        var refresh = await service.RefreshAsync();
        var id = $"{refresh}-0001";
        var version = (await service.SwapAsync(id)).Checklist.Version;
        var answers = await Task.WhenAll(new[]
        {
            (Kit, "told"), (_kitThere, "ready"), (Kit, "programs-closed"), (_kitThere, "told")
        }.Select(async p =>
        {
            var request = new HttpRequestMessage(
                HttpMethod.Put, $"api/swaps/{id}/checklist/steps/{p.Item2}")
            { Content = JsonContent.Create(new StepChange("ticked")) };
            request.Headers.TryAddWithoutValidation("If-Match", $"\"{version}\"");
            return (await p.Item1.SendAsync(request)).StatusCode;
        }));
        answers.Order().ShouldBe([
            HttpStatusCode.OK, HttpStatusCode.PreconditionFailed, HttpStatusCode.PreconditionFailed, HttpStatusCode.PreconditionFailed
        ]);
        (await service.SwapAsync(id)).Checklist.Steps.Count(s => s.State == "done").ShouldBe(1);
    }

    [Fact]
    public async Task Tables_and_model_agree()
    {
        (await service.WithRecordsAsync(db => Task.FromResult(db.Database.HasPendingModelChanges())))
            .ShouldBeFalse("a migration is missing");
        (await service.WithRecordsAsync(async db => (await db.Database.GetPendingMigrationsAsync()).Count())).ShouldBe(0);
    }

    public async ValueTask DisposeAsync() => await _other.DisposeAsync();
}
