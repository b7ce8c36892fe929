using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Service.Tests;

public sealed class SqliteWorldTests(OnSqlite service) : WorldSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresWorldTests(OnPostgres service) : WorldSuite(service), IClassFixture<OnPostgres>;

/// <summary>What a plan has to go by; on every database.</summary>
public abstract class WorldSuite(RunningService service) : Planned(service)
{
    /// <summary>A refresh with a closed day, a late delivery, a wave, a way, a skill that few have, and preparation at a bench.</summary>
    private async Task<string> FullWorldAsync()
    {
        var refresh = await Service.RefreshAsync();
        var path = $"api/refreshes/{refresh}";
        await PutAsync<SiteSeen>(
            $"{path}/sites/North", new SiteWanted("North Quay", 0, [new("Hall", 1), new("Loft", 1)], "daily 08:00-18:00"));
        await PutAsync<WaySeen>($"{path}/ways", new WaySeen("South", "North", 25));
        await PutAsync<ClosureSeen>($"{path}/closures/flood", new ClosureWanted("Flood drill", null, $"{Day(0):yyyy-MM-dd}"));
        await PutAsync<DeliverySeen>(
            $"{path}/deliveries/second", new DeliveryWanted("Second batch", $"{Day(2):yyyy-MM-dd} 10:00", ["KB-2"]));
        await PutAsync<WaveSeen>($"{path}/waves/late", new WaveWanted("Late ones", Day(4), Day(5)));
        await PutAsync<EstimateRuleSeen>(
            $"{path}/estimates/kind/issue", new EstimateWanted(45, null, null, new Preparation("South", 30, 60, 120)));
        await PutAsync<TechnicianSeen>(
                $"{path}/technicians/vera",
                new TechnicianWanted("Vera", ["South"], ["mon,tue,wed,thu,fri,sat,sun 09:00-16:00"], ["tablets"]));
        (await ChangedAsync(refresh, new([$"{refresh}-0002"], Wave: "late", Skills: ["tablets"], Preferred: [
            $"{Day(4):yyyy-MM-dd} 10:00-12:00"
        ]))).ShouldBe(1);
        return refresh;
    }

    private async Task<int> ChangedAsync(string refresh, SwapEdit edit) =>
        (await ReadAsync<SwapsEdited>(await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/swaps/edits", edit))).Changed;

    [Fact]
    public async Task The_world_of_a_plan_is_kept()
    {
        var world = (await Kit.GetFromJsonAsync<WorldSeen>($"api/refreshes/{await FullWorldAsync()}/world", RunningService.Json))!;
        (
            world.Sites.Single(s => s.Key == "North").Benches,
            world.Ways.Single().Minutes,
            world.Waves.Single().Swaps,
            world.Deliveries.Single().Tags.Single()).ShouldBe((2, 25, 1, "KB-2"));
    }

    [Fact]
    public async Task A_plan_goes_by_all_that_there_is_of_the_world()
    {
        var refresh = await FullWorldAsync();
        var plan = await DraftAsync(refresh, 2000);
        plan.LeftOut.ShouldBeEmpty();
        AppointmentSeen Visit(int number, bool bench = false) =>
            plan.Appointments.Single(a => a.Swap == $"{refresh}-000{number}" && a.IsBench == bench);
        plan.Appointments.ShouldAllBe(a => a.Start >= At(1, "00:00"), "nothing takes place on the closed day");
        Visit(1).Start.ShouldBeGreaterThanOrEqualTo(At(2, "10:00"), "not before its computer");
        (Visit(2).TechnicianName, Visit(2).Start.Date).ShouldBe(("Vera", At(4, "00:00").Date), "in its wave, with who knows tablets");
        (Visit(2).Start >= At(4, "10:00") && Visit(2).End <= At(4, "12:00")).ShouldBeTrue("when it was asked for");
        Visit(3, bench: true).Site.ShouldBe("South");
        (Visit(3).Start - Visit(3, bench: true).End).ShouldBeGreaterThanOrEqualTo(TimeSpan.FromHours(2));
        (Visit(3).HandsOnUntil - Visit(3).Start).ShouldBe(TimeSpan.FromMinutes(45));
    }

    [Fact]
    public async Task A_pin_holds()
    {
        var refresh = await FullWorldAsync();
        (await ChangedAsync(refresh, new([$"{refresh}-0001"], PinnedStart: At(3, "14:00"), PinnedTechnician: "noor"))).ShouldBe(1);
        var pinned = (await DraftAsync(refresh)).Appointments.Single(a => a.Swap == $"{refresh}-0001");
        (pinned.Start, pinned.IsPinned).ShouldBe((At(3, "14:00"), true));
    }

    [Fact]
    public async Task A_pin_that_cannot_be_kept_is_refused_in_words_that_can_be_acted_on()
    {
        var refresh = await FullWorldAsync();
        await ChangedAsync(refresh, new([$"{refresh}-0001"], PinnedStart: At(1, "14:00"), PinnedTechnician: "noor"));
        (await RefusedAsync(await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(10)), 422, "plan.world"))
            .ShouldContain($"pinned to {Day(1):ddd d MMM} 14:00, before its release");
    }

    [Fact]
    public async Task What_no_plan_could_be_made_from_is_refused_where_it_is_entered()
    {
        var refresh = await Service.RefreshAsync();
        var path = $"api/refreshes/{refresh}";
        async Task<string> BadAsync(string at, object body, string code, int status = 422) =>
            await RefusedAsync(await Kit.PutAsJsonAsync($"{path}/{at}", body, RunningService.Json), status, code);
        (await BadAsync(
            "technicians/noor", new TechnicianWanted("Noor", ["North"], ["08:00-12:00", "daily 11:00-14:00"]), "technician.shift"))
            .ShouldContain("'08:00-12:00' and 'daily 11:00-14:00' of Noor overlap on a Monday");
        (await BadAsync(
            "technicians/noor", new TechnicianWanted("Noor", ["North"], ["daily 20:00-06:00", "mon 05:00-09:00"]), "technician.shift"))
            .ShouldContain("overlap");
        await BadAsync("technicians/noor", new TechnicianWanted("Noor", ["Nort"], ["08:00-12:00"]), "technician.site");
        await BadAsync(
            "technicians/noor",
            new TechnicianWanted("Noor", ["North"], ["08:00-12:00"], null, ["2026-11-27..2026-11-25"]),
            "technician.absence");
        await BadAsync("sites/North", new SiteWanted("North", 1, [new("Hall", 1), new("Hall", 2)]), "site.room");
        (await BadAsync("ways", new WaySeen("North", "Atlantis", 10), "way.sites")).ShouldContain("'Atlantis' is not in refresh");
        await BadAsync("deliveries/d", new DeliveryWanted("Empty", "2026-11-30", []), "delivery.empty");
        (await BadAsync("deliveries/d", new DeliveryWanted("Strange", "2026-11-30", ["KB-99"]), "delivery.tag")).ShouldContain("KB-99");
        await BadAsync("waves/w", new WaveWanted("Backwards", Day(3), Day(1)), "wave.dates");
        await BadAsync("waves/w", new WaveWanted("Elsewhere", Day(300), Day(301)), "wave.dates");
        await BadAsync("estimates/kind/shoes", new EstimateWanted(5, null, null, null), "estimate.kind");
        await BadAsync("estimates/kind/renew", new EstimateWanted(null, null, null, null), "estimate.empty");
        await RefusedAsync(
            await Kit.PostAsJsonAsync($"{path}/swaps/edits", new SwapEdit([$"{refresh}-0001"], Weight: 10)), 422, "edit.weight");
        await RefusedAsync(
            await Kit.PostAsJsonAsync($"{path}/swaps/edits", new SwapEdit([$"{refresh}-0001", "nobody"], Weight: 9)),
            404,
            "swap.not-found");
        (await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Refresh == refresh).Select(s => s.Weight).Distinct().ToListAsync()))
            .ShouldBe([5], "all of them or none");
        await PutAsync<SiteSeen>($"{path}/sites/North", new SiteWanted("North", 0));
        (await RefusedAsync(await Kit.PostAsJsonAsync($"{path}/plan", new PlanWanted(10)), 422, "plan.no-bench"))
            .ShouldContain("North has swaps but no bench");
        await RefusedAsync(await Kit.DeleteAsync($"{path}/sites/North"), 409, "site.in-use");
    }
}
