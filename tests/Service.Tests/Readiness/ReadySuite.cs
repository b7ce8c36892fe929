using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using Microsoft.AspNetCore.Hosting;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteReadyTests(OnSqlite service) : ReadySuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresReadyTests(OnPostgres service) : ReadySuite(service), IClassFixture<OnPostgres>;

/// <summary>Who is not ready for a day that comes, and why. On every database.</summary>
public abstract class ReadySuite(RunningService service) : Morning(service)
{
    private const int Tomorrow = 24 * 60;

    private static string Of(string refresh, int number) => $"{refresh}-{number:0000}";

    private async Task<ReadyPage> ReadyAsync(string refresh, string asked = "") =>
        (await Kit.GetFromJsonAsync<ReadyPage>($"api/refreshes/{refresh}/ready{asked}", RunningService.Json))!;

    private async Task<VisitReady> VisitAsync(string refresh, int number) =>
        (await ReadyAsync(refresh)).Visits.Single(v => v.Swap == Of(refresh, number));

    private static IEnumerable<string> Kinds(VisitReady visit) => visit.Lacks.Select(l => l.Kind);

    /// <summary>Four swaps that are booked tomorrow.</summary>
    private async Task<string> BookedTomorrowAsync()
    {
        var refresh = await MorningAsync();
        foreach (var number in new[] { 1, 2, 3, 4 }) await BookAsync(Of(refresh, number), "noor", Tomorrow + (number * 105));
        return refresh;
    }

    [Fact]
    public async Task What_a_visit_lacks_is_gone_once_its_cure_was_taken()
    {
        var refresh = await BookedTomorrowAsync();
        var id = Of(refresh, 1);
        Kinds(await VisitAsync(refresh, 1)).ShouldBe(["not-told", "no-hand", "steps-open"], ignoreOrder: true);
        var lack = (await VisitAsync(refresh, 1)).Lacks.Single(l => l.Kind == "not-told");
        lack.Cures[0].ShouldBe(new("told", "I told them", $"yardline step set {id} told", "told"));
        (await Service.ClaimAsync(id, lack.Cures[0].Of!, new("ticked"))).EnsureSuccessStatusCode();
        // Now that they know of it, what they were asked is asked for.
        Kinds(await VisitAsync(refresh, 1)).ShouldBe(["no-answer", "no-hand", "steps-open"], ignoreOrder: true);
        var hand = await Service.HandAsync(refresh, "KB-1");
        Kinds(await VisitAsync(refresh, 1)).ShouldContain("not-staged");
        await Service.DoAsync(id, "first-trip", hand, RunningService.Result(10, 10));
        await Service.WorkAsync(id, s => s is { Phase: "before", Kind: not "automatic" });
        var ready = await VisitAsync(refresh, 1);
        (ready.State, ready.Lacks.Count).ShouldBe(("ready", 0));
    }

    [Fact]
    public async Task Who_is_away_or_whose_computer_comes_later_is_found_with_what_helps()
    {
        var refresh = await BookedTomorrowAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/noor",
            new TechnicianWanted(
                "Noor", ["North", "South"], ["daily 00:15-23:45"],
                Absences: [$"{DrivenClock.Today:yyyy-MM-dd}..{DrivenClock.Today.AddDays(2):yyyy-MM-dd}"])))
            .EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/deliveries/late",
            new DeliveryWanted("batch 2", $"{DrivenClock.Today.AddDays(5):yyyy-MM-dd} 12:00", ["KB-2"]))).EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/spares/KB-98", new SpareWanted("North", null, null))).EnsureSuccessStatusCode();
        var page = await ReadyAsync(refresh);
        page.Visits[0].Swap.ShouldBe(Of(refresh, 1), "what cannot be comes first");
        page.Visits[0].State.ShouldBe("cannot");
        page.Visits[0].Lacks[0].Cures.Select(c => c.Action).ShouldBe(["give", "another-time"]);
        page.Visits.ShouldAllBe(v => Kinds(v).Contains("technician-away"));
        // Another one gives the spare, and takes the visit.
        (await OkAsync<DetourTaken>(
            Kit.PostAsJsonAsync($"api/swaps/{Of(refresh, 1)}/detours", new { kind = "wrongComputer", tag = "KB-98" }))).Done.ShouldBeTrue();
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{Of(refresh, 1)}/handovers", new HandoverWanted("vera", "Noor is away")));
        var visit = await VisitAsync(refresh, 1);
        Kinds(visit).ShouldNotContain("not-delivered");
        Kinds(visit).ShouldNotContain("technician-away");
        visit.TechnicianName.ShouldBe("Vera");
    }

    [Fact]
    public async Task Without_a_day_it_is_the_next_one_with_visits_and_days_waves_and_sites_can_be_chosen()
    {
        var refresh = await BookedTomorrowAsync();
        foreach (var number in new[] { 1, 2, 3, 4 }) await BookAsync(Of(refresh, number), "noor", (3 * Tomorrow) + (number * 105));
        await BookAsync(Of(refresh, 4), "noor", 60);
        var page = await ReadyAsync(refresh);
        page.Day.ShouldBe(DrivenClock.Today.AddDays(3));
        page.Days.Select(d => d.Visits).ShouldBe([1, 3]);
        page.Visits.Select(v => v.Swap).ShouldBe([Of(refresh, 1), Of(refresh, 2), Of(refresh, 3)], ignoreOrder: true);
        (await ReadyAsync(refresh, $"?day={DrivenClock.Today:yyyy-MM-dd}")).Visits.ShouldHaveSingleItem().Swap.ShouldBe(Of(refresh, 4));
        (await ReadyAsync(refresh, "?site=South")).Visits.ShouldHaveSingleItem().Swap.ShouldBe(Of(refresh, 2));
        (await ReadyAsync(refresh, "?day=2026-01-04")).Total.ShouldBe(0);
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/waves/first", new WaveWanted("First", DrivenClock.Today, DrivenClock.Today.AddDays(5))))
            .EnsureSuccessStatusCode();
        await OkAsync<SwapsEdited>(
            Kit.PostAsJsonAsync($"api/refreshes/{refresh}/swaps/edits", new SwapEdit([Of(refresh, 1), Of(refresh, 4)], Wave: "first")));
        await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == Of(refresh, 4)).ExecuteUpdateAsync(
            u => u.SetProperty(s => s.Start, (DateTimeOffset?)null).SetProperty(s => s.LeftOutBecause, "Nobody has the skill.")));
        var wave = await ReadyAsync(refresh, "?wave=first");
        wave.Visits.Select(v => (v.Swap, v.State)).ShouldBe([(Of(refresh, 4), "cannot"), (Of(refresh, 1), "can-still")]);
        wave.Visits.Single(v => v.Swap == Of(refresh, 4)).Lacks[0].Words.ShouldContain("Nobody has the skill.");
        foreach (var unknown in new[] { "?wave=none", "?site=none" })
            (await Kit.GetAsync($"api/refreshes/{refresh}/ready{unknown}", TestContext.Current.CancellationToken)).StatusCode
                .ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_has_begun_or_is_over_or_called_off_lacks_nothing()
    {
        var refresh = await BookedTomorrowAsync();
        await Service.WithRecordsAsync(async db =>
        {
            foreach (var swap in await db.Swaps.Where(s => s.Refresh == refresh).ToListAsync())
                _ = swap.Id[^1] switch
                {
                    '1' => swap.SwappedAt = Service.Now,
                    '2' => swap.AcceptedAt = Service.Now,
                    '3' => swap.CalledOffAt = Service.Now,
                    _ => null,
                };
            return await db.SaveChangesAsync();
        });
        (await ReadyAsync(refresh)).Visits.Select(v => (v.Swap, v.State))
            .ShouldBe([(Of(refresh, 4), "can-still"), (Of(refresh, 1), "begun")]);
    }

    [Fact]
    public async Task A_mail_of_the_morning_is_not_said_to_be_lost_while_it_goes_and_goes_at_once_to_an_address_that_was_mended()
    {
        var refresh = await BookedTomorrowAsync();
        using var server = new TcpListener(IPAddress.Loopback, 0);
        server.Start();
        await using var other = Service.StartAnother()
            .WithWebHostBuilder(b => b.UseSetting("mail", $"smtp+plain://{server.LocalEndpoint}")
                .UseSetting("mail-from", "refresh@kestrelbay.example"));
        var kit = RunningService.At(other, Kit);
        var path = $"api/refreshes/{refresh}/ready/mail";
        async Task<MorningMailSeen> SetAsync(string to) =>
            await OkAsync<MorningMailSeen>(kit.PutAsJsonAsync(path, new MorningMailWanted([to], "09:00")));
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(TestContext.Current.CancellationToken);
        patience.CancelAfter(TimeSpan.FromMinutes(2));
        await SetAsync("gone@kestrelbay.example");
        // The server takes the call and says nothing yet.
        var call = await server.AcceptTcpClientAsync(patience.Token);
        var seen = (await kit.GetFromJsonAsync<MorningMailSeen>(path, RunningService.Json))!;
        (seen.IsUnderWay, seen.Trouble).ShouldBe((true, null));
        (await SetAsync("lead@kestrelbay.example")).IsUnderWay.ShouldBeTrue();
        call.Dispose();
        using var again = await server.AcceptTcpClientAsync(patience.Token);
        // What broke under nobody's hands waits a while, and is said.
        again.Close();
        do seen = (await kit.GetFromJsonAsync<MorningMailSeen>(path, patience.Token))!;
        while (seen.IsUnderWay);
        seen.Trouble.ShouldNotBeNull().ShouldContain("did not take it");
    }
}
