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
/// A staged parcel through the service: where it lands, its report, its keys, its hold and its end, on every database.
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

        (await service.OrderAsync(swap, new("restore"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (
            order.Landing!.Accounts.Single(),
            order.Landing!.Clashes.Single(),
            string.Join(',', order.Landing!.First),
            order.Only).ShouldBe((new("ida", "imoreau"), new("Documents", "newer"), "ida/Desktop", null));
        (await service.EndAsync(hand, order, RunningService.Result(10, 10))).EnsureSuccessStatusCode();
        var before = await service.SwapAsync(swap);
        before.Swap.Line.Single(s => s.Station == Station.Restored).At.ShouldNotBeNull();

        (await RunningService.ProblemAsync(await service.OrderAsync(swap, new("part-restore")), 422))
            .ToJsonString().ShouldContain("Which part");
        (await service.OrderAsync(swap, new("part-restore", ["Documents/letter"]))).EnsureSuccessStatusCode();
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
        (await RunningService.ProblemAsync(await service.OrderAsync(swap, new("purge", Confirm: held.Name)), 409)).ToJsonString()
            .ShouldContain("not signed off");

        await service.DoAsync(swap, "restore", hand, RunningService.Result(10, 10));
        await SignAsync(swap);
        (await RunningService.ProblemAsync(await service.OrderAsync(swap, new("purge", Confirm: "another")), 422)).ToJsonString()
            .ShouldContain(held.Name);
        (await RunningService.ProblemAsync(
            await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/orders", new OrdersWanted("purge", [], IsAll: true)), 422)).ToJsonString()
            .ShouldContain("one swap at a time");
        (await service.OrderAsync(swap, new("purge", Confirm: held.Name))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (await service.EndAsync(hand, order, RunningService.Result(10, 10))).EnsureSuccessStatusCode();
        var purged = await service.SwapAsync(swap);
        purged.Parcel!.Hold.PurgedAt.ShouldNotBeNull();
        purged.History.Select(h => h.Kind).ShouldContain("parcel.purged");
        (await RunningService.ProblemAsync(await service.OrderAsync(swap, new("part-restore", ["Documents"])), 409)).ToJsonString()
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
        (await service.OrderAsync($"{refresh}-0001", new("first-trip"))).EnsureSuccessStatusCode();
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
        (await service.OrderAsync($"{refresh}-0001", new("restore"))).EnsureSuccessStatusCode();
        (await service.OrderAsync($"{refresh}-0002", new("survey"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(@new)).ParcelKey.ShouldBe(key);
        (await RunningService.TakeAsync(other)).ParcelKey.ShouldBeNull();
    }

    [Fact]
    public async Task The_id_of_the_parcel_goes_to_every_later_hand_so_that_another_account_is_noticed()
    {
        var (refresh, _, hand) = await StagedAsync();
        var old = await service.HandAsync(refresh, "KB-1");
        await service.DoAsync($"{refresh}-0001", "top-up-trip", old, RunningService.Result(10, 10) with { ParcelId = "a-b-c" });
        await service.DoAsync($"{refresh}-0001", "verify", old, HandReport.Fine);
        (await service.OrderAsync($"{refresh}-0001", new("restore"))).EnsureSuccessStatusCode();
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
