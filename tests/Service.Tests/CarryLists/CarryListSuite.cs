using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Service.Tests;

public sealed class SqliteCarryListTests(OnSqlite service) : CarryListSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresCarryListTests(OnPostgres service) : CarryListSuite(service), IClassFixture<OnPostgres>;

/// <summary>What was found on an old computer and what of it comes along, on every database.</summary>
public abstract class CarryListSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private static PlaceFound Place(
        PlaceKind kind, string name, string path, long files, long bytes, string rule = "r", string? of = null) =>
        new(
            "", "", kind, rule, name, path, new(files, bytes), default, new(2026, 10, 1, 0, 0, 0, TimeSpan.Zero), null,
            kind == PlaceKind.Cloud ? "person" : null, of, "its path",
            kind == PlaceKind.Cloud ? "Kit saw it" : null);

    private static HandReport Surveyed(long documents = 100) =>
        new([
            new("Documents", new(10, documents), default, default),
            new("Cloud", new(4, 4000), default, default),
            new("Pictures", new(3, 30), default, default)
        ], [],
        Survey: new(new(
        [
            Place(
                PlaceKind.Folder,
                "Documents",
                "Documents",
                9,
                documents - 5,
                ""), Place(PlaceKind.Clutter, "Caches", "Documents/cache2", 1, 5), Place(PlaceKind.Cloud, "Cloud drive", "Cloud", 4, 4000),
            Place(PlaceKind.Library, "Photo library", "Pictures/A", 1, 10, of: "photos"),
            Place(PlaceKind.Library, "Photo library", "Pictures/B", 2, 20, of: "photos"),
        ], [new("Berth Planner", "6.2", "shipped list")], [new("Berth Planner", 2)]), 4000, 1_000_000, 500_000));

    private async Task<CarryListSeen> ListAsync(string swap) =>
        (await Kit.GetFromJsonAsync<CarryListSeen>($"api/swaps/{swap}/carry-list", RunningService.Json))!;

    private async Task<CarryListSeen> ChangeAsync(string swap, CarryChange change)
    {
        var answer = await Kit.PutAsJsonAsync($"api/swaps/{swap}/carry-list", change);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<CarryListSeen>(RunningService.Json))!;
    }

    private async Task<(string Swap, HttpClient Hand)> SurveyAsync()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        await service.DoAsync($"{refresh}-0001", "survey", hand, Surveyed());
        return ($"{refresh}-0001", hand);
    }

    [Fact]
    public async Task Folders_to_pick_from_pass_through_memory_and_into_no_record()
    {
        var refresh = await service.RefreshAsync();
        var (swap, hand) = ($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        (await service.Kit.GetAsync($"api/swaps/{swap}/folders")).StatusCode.ShouldBe(System.Net.HttpStatusCode.NoContent);
        await service.DoAsync(
            swap,
            "folders",
            hand,
            new(
                [],
                [],
                Tree: [new("Letters to the harbour master", new(4, 40), DateTimeOffset.UnixEpoch, 0)],
                Deeper: 3));
        var seen = (await service.Kit.GetFromJsonAsync<FoldersSeen>($"api/swaps/{swap}/folders", RunningService.Json))!;
        (seen.Folders.Single().Path, seen.Deeper).ShouldBe(("Letters to the harbour master", 3));
        await RunningService.ProblemAsync(
            await (await service.AccountAsync($"eyes{refresh}", "auditor")).GetAsync($"api/swaps/{swap}/folders"), 403);
        await RunningService.ProblemAsync(
            await (await service.AccountAsync($"south{refresh}", "technician", "South")).GetAsync($"api/swaps/{swap}/folders"), 403);
        (await service.WithRecordsAsync(async db =>
            string.Concat(await db.Ledger.Where(l => l.Refresh == refresh).Select(l => l.Json + l.Words).ToListAsync())
                + string.Concat(await db.Orders.Where(o => o.Refresh == refresh).Select(o => o.Words).ToListAsync())))
            .ShouldNotContain("harbour");
        (await service.SwapAsync(swap)).Orders.Single().Words.ShouldBe("1 folders to pick from");
    }

    [Fact]
    public async Task Rules_of_its_own_for_places_are_checked_kept_and_go_to_surveys()
    {
        var refresh = await service.RefreshAsync();
        var at = $"api/refreshes/{refresh}/place-rules";
        (await RunningService.ProblemAsync(
            await service.Kit.PutAsJsonAsync(
                at, new PlaceRulesWanted("version: 1\nplaces:\n  - key: x\n    kind: barge\n  - kind: mail\n")),
            422)).ToJsonString()
            .ShouldContain("barge");
        const string Own = "version: 1\nplaces:\n  - key: berth\n    kind: settings\n    name: Berth plans\n    linux: [.berth]\n";
        (await service.Kit.PutAsJsonAsync(at, new PlaceRulesWanted(Own))).EnsureSuccessStatusCode();
        var seen = (await service.Kit.GetFromJsonAsync<PlaceRulesSeen>(at, RunningService.Json))!;
        (seen.Yaml, seen.Rules, seen.Standard.StartsWith('#') || seen.Standard.Contains("version: 1")).ShouldBe((Own, 1, true));
        (await service.Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(await service.HandAsync(refresh, "KB-1"))).PlaceRules.ShouldBe(Own);
        (await service.Kit.PutAsJsonAsync(at, new PlaceRulesWanted(" "))).EnsureSuccessStatusCode();
        (await service.Kit.GetFromJsonAsync<PlaceRulesSeen>(at, RunningService.Json))!.Yaml.ShouldBeNull();
    }

    [Fact]
    public async Task A_survey_is_kept_as_totals_and_a_second_one_tells_what_has_grown()
    {
        var (swap, hand) = await SurveyAsync();
        var first = (await Kit.GetFromJsonAsync<InventorySeen>($"api/swaps/{swap}/inventory", RunningService.Json))!;
        (
            first.Total,
            first.Places.Count,
            first.Programs.Single().Name,
            first.Before).ShouldBe((new Amount(17, 4130), 5, "Berth Planner", null));
        first.Remarks.ShouldContain(r => r.StartsWith("There are 2 libraries of photos"));
        first.Remarks.ShouldContain("Berth Planner has 2 files open. Close it before the closing trip.");
        await service.DoAsync(swap, "survey", hand, Surveyed(documents: 300));
        var second = (await Kit.GetFromJsonAsync<InventorySeen>($"api/swaps/{swap}/inventory", RunningService.Json))!;
        (second.Total.Bytes - second.Before!.Total.Bytes).ShouldBe(200);
        (await RunningService.ProblemAsync(await Kit.GetAsync($"api/swaps/{swap[..^1]}2/inventory"), 404))["code"]!.GetValue<string>()
            .ShouldBe("inventory.none");
    }

    private static readonly CarryChange Decided = new(
        [new("Cloud", "carry"), new("Documents", "leave-out", "all of it is on the team's share")], ["Pictures"]);

    [Fact]
    public async Task Rules_leave_clouds_and_clutter_out_and_the_account_says_so_before_any_trip()
    {
        var (swap, _) = await SurveyAsync();
        var byRule = await ListAsync(swap);
        byRule.Lines.Select(l => (l.Path, l.Choice, l.By)).ShouldBe([
            ("Cloud", "leave-out", null), ("Documents/cache2", "leave-out", null)
        ]);
        (byRule.Review.Carried, byRule.Review.LeftOut).ShouldBe((new Amount(12, 125), new Amount(5, 4005)));
        (await service.SwapAsync(swap)).Account
            .Select(a => (a.Folder, a.LeftOut.Files))
            .ShouldBe([("Cloud", 4), ("Documents", 1), ("Pictures", 0)]);
    }

    [Fact]
    public async Task A_person_decides_otherwise_with_a_name_and_a_reason()
    {
        var (swap, _) = await SurveyAsync();
        var decided = await ChangeAsync(swap, Decided);
        decided.Lines.Select(l => (l.Path, l.Choice, l.By, l.Reason)).ShouldBe([
            ("Cloud", "carry", "kit", ""), ("Documents", "leave-out", "kit", "all of it is on the team's share")
        ]);
        (decided.Review.LeftOut, string.Join(',', decided.First)).ShouldBe((new Amount(10, 100), "Pictures"));
        (await service.SwapAsync(swap)).History
            .Select(h => h.Words)
            .ShouldContain("kit: Documents stays: all of it is on the team's share");
    }

    [Fact]
    public async Task The_same_decision_again_is_no_new_one()
    {
        var (swap, _) = await SurveyAsync();
        var at = (await ChangeAsync(swap, Decided)).Lines[0].At;
        service.Clock.Jump(TimeSpan.FromMinutes(1));
        (await ChangeAsync(swap, new([new("Cloud", "carry")]))).Lines[0].At.ShouldBe(at);
    }

    [Fact]
    public async Task Given_back_to_the_rules_the_list_is_as_it_was()
    {
        var (swap, _) = await SurveyAsync();
        var byRule = await ListAsync(swap);
        await ChangeAsync(swap, Decided);
        (await ChangeAsync(swap, new([new("Documents", "by-rule"), new("Cloud", "by-rule")], []))).Lines.ShouldBe(byRule.Lines);
    }

    [Fact]
    public async Task The_hand_gets_just_what_was_decided()
    {
        var (swap, hand) = await SurveyAsync();
        await ChangeAsync(swap, Decided);
        (await Kit.PostAsJsonAsync($"api/swaps/{swap}/orders", new OrderWanted("first-trip"))).EnsureSuccessStatusCode();
        var list = CarryList.Read((await RunningService.TakeAsync(hand)).CarryList!).Value;
        list.Of("Documents/x", false, out var because).ShouldBe(CarryVerdict.Leave);
        because.ShouldBe("all of it is on the team's share");
        list.Of("Cloud/x", false, out _).ShouldBe(CarryVerdict.Carry);
        list.Whole.ShouldBe(["Pictures/A", "Pictures/B"]);
    }

    [Fact]
    public async Task A_trip_that_leaves_out_what_was_decided_is_whole_and_its_sum_holds()
    {
        var (swap, hand) = await SurveyAsync();
        await service.DoAsync(
            swap,
            "first-trip",
            hand,
            new(
                [
                    new("Documents", new(10, 100), new(9, 95), default, new(1, 5)),
                    new("Cloud", new(4, 4000), default, default, new(4, 4000)),
                    new("Pictures", new(3, 30), new(3, 30), default)
                ],
                [],
                Trip: 1));
        await service.DoAsync(swap, "verify", hand, HandReport.Fine);
        var seen = await service.SwapAsync(swap);
        seen.Account.ShouldAllBe(a => a.CarryAddsUp && a.Unexplained == 0);
        (seen.Total.LeftOut, seen.Total.InDepot).ShouldBe((new Amount(5, 4005), new Amount(12, 125)));
        seen.Swap.Line.Single(s => s.Station == Core.Swaps.Station.Staged).At.ShouldNotBeNull();
    }

    [Fact]
    public async Task A_decision_without_a_reason_about_half_a_library_or_by_somebody_who_may_not_changes_nothing()
    {
        var (swap, _) = await SurveyAsync();
        async Task RefusedAsync(HttpClient who, CarryDecision decision, int status, string code, string words)
        {
            var problem = await RunningService.ProblemAsync(
                await who.PutAsJsonAsync($"api/swaps/{swap}/carry-list", new CarryChange([new("Pictures", "not-applicable"), decision])),
                status);
            problem["code"]!.GetValue<string>().ShouldBe(code);
            problem.ToJsonString().ShouldContain(words);
        }

        await RefusedAsync(Kit, new("Documents", "leave-out", " "), 422, "carry-list.reason", "without a reason");
        await RefusedAsync(Kit, new("Documents", "burn"), 422, "carry-list.choice", "by-rule");
        await RefusedAsync(Kit, new("Pictures/A/originals", "leave-out", "half of it"), 422, "carry-list.rule", "whole or not at all");
        await RefusedAsync(Kit, new("../etc", "carry"), 422, "carry-list.rule", "this is no path");
        (await (await service.AccountAsync("elsewhere", "technician", "South"))
            .PutAsJsonAsync($"api/swaps/{swap}/carry-list", new CarryChange([new("Pictures", "carry")]))).StatusCode
            .ShouldBe(HttpStatusCode.Forbidden);
        (await ListAsync(swap)).Lines.ShouldAllBe(l => l.By == null);
    }
}
