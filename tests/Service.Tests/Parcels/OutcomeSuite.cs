using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteOutcomeTests(OnSqlite service) : OutcomeSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresOutcomeTests(OnPostgres service) : OutcomeSuite(service), IClassFixture<OnPostgres>;

/// <summary>
/// Parcels that go another way than from old to new: a lost computer's, a leaver's, one filled by hand, one that nobody restores.
/// </summary>
public abstract class OutcomeSuite(RunningService service)
{
    private const string Roster =
        "person,name,site,kind,old_tag,new_tag,receiver\nk1,Ida Moreau,North,renew,KB-1,KB-2,\nk2,Sol Okafor,South,leave,KB-3,,k3\nk3,Per "
            + "Lunde,North,issue,,KB-6,\nk4,Ida Moreau,North,rescue,,KB-8,\n";

    private HttpClient Kit => service.Kit;

    private async Task<string> RefreshAsync()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        (await service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        return refresh;
    }

    private async Task StageAsync(string swap, HttpClient hand, params Snag[] snags)
    {
        await service.DoAsync(
            swap,
            "first-trip",
            hand,
            RunningService.Result(10, 10 - snags.Length, snags) with { ParcelId = "the-id", ParcelKey = "AGE-SECRET-KEY-1X" });
        await service.DoAsync(swap, "verify", hand, HandReport.Fine);
    }

    /// <summary>A computer that was lost after a first trip that left one file behind, and in another refresh a rescue.</summary>
    private async Task<(string Lost, string Rescue, string RescuesRefresh)> LostAsync(bool verified = true)
    {
        var (before, now) = (await RefreshAsync(), await RefreshAsync());
        var (lost, old) = ($"{before}-0001", await service.HandAsync(before, "KB-1"));
        await service.DoAsync(
            lost,
            "first-trip",
            old,
            RunningService.Result(10, 9, new Snag("Documents/open.xls", SnagKind.ChangedWhileRead, 10, "It changed.")) with
            {
                ParcelId = "the-id",
                ParcelKey = "AGE-SECRET-KEY-1X"
            });
        if (verified) await service.DoAsync(lost, "verify", old, HandReport.Fine);
        return (lost, $"{now}-0004", now);
    }

    private async Task<LostComputer?> FindAsync(string lost, string what) =>
        (await Kit.GetFromJsonAsync<List<LostComputer>>($"api/lost-computers?q={what}", RunningService.Json))!.Find(l => l.Swap == lost);

    private Task<HttpResponseMessage> RescueAsync(string rescue, string lost, string tag) =>
        Kit.PutAsJsonAsync($"api/swaps/{rescue}/rescue", new RescueWanted(lost, tag));

    [Fact]
    public async Task A_rescue_restores_nothing_before_it_is_said_whose_computer_was_lost()
    {
        var refresh = await RefreshAsync();
        (await RunningService.ProblemAsync(await service.OrderAsync($"{refresh}-0004", new("restore")), 409)).ToJsonString()
            .ShouldContain("name the swap of the lost computer");
    }

    [Fact]
    public async Task A_lost_computer_is_found_by_name_and_tag_with_what_there_is_of_it()
    {
        var (lost, _, _) = await LostAsync();
        foreach (var what in new[] { "moreau", "kb-1" })
        {
            var found = (await FindAsync(lost, what)).ShouldNotBeNull();
            (found.Tag, found.Staged.Files, found.OpenSnags, found.Refusal).ShouldBe(("KB-1", 9, 1, null));
            found.LastSeen.ShouldNotBeNull();
        }
        (await FindAsync(lost, "%25%25")).ShouldBeNull("a search has no patterns");
    }

    [Fact]
    public async Task What_was_never_verified_serves_no_rescue()
    {
        var (lost, rescue, _) = await LostAsync(verified: false);
        (await FindAsync(lost, "kb-1"))!.Refusal.ShouldNotBeNull().ShouldContain("verified");
        await RunningService.ProblemAsync(await RescueAsync(rescue, lost, "KB-1"), 409);
    }

    [Fact]
    public async Task A_rescue_is_set_once_by_the_tag_of_the_lost_computer_and_only_for_a_rescue()
    {
        var (lost, rescue, now) = await LostAsync();
        (await RunningService.ProblemAsync(await RescueAsync(rescue, lost, "KB-9"), 422)).ToJsonString().ShouldContain("not KB-9");
        await RunningService.ProblemAsync(await RescueAsync($"{now}-0001", lost, "KB-1"), 409);
        for (var again = 0; again < 2; again++) (await RescueAsync(rescue, lost, "kb-1")).EnsureSuccessStatusCode();
        (await service.SwapAsync(rescue)).History.Count(h => h.Kind == "rescue.set").ShouldBe(1);
    }

    [Fact]
    public async Task The_last_good_trip_of_a_lost_computer_serves_the_rescue_with_all_that_is_open()
    {
        var (lost, rescue, now) = await LostAsync();
        (await RescueAsync(rescue, lost, "KB-1")).EnsureSuccessStatusCode();
        var (seen, parcel) = (await service.SwapAsync(rescue), (await service.SwapAsync(lost)).Parcel!.Name);
        (seen.Rescue!.From, seen.Parcel!.Name, seen.Account.Single().InDepot.Files, seen.Snags.Single().End)
            .ShouldBe((lost, parcel, 9, "open"));
        (await service.OrderAsync(rescue, new("restore"))).EnsureSuccessStatusCode();
        var fresh = await service.HandAsync(now, "KB-8");
        var order = await RunningService.TakeAsync(fresh);
        (order.ParcelId, order.ParcelKey, order.Parcel).ShouldBe(("the-id", "AGE-SECRET-KEY-1X", parcel));
        (await service.EndAsync(fresh, order, RunningService.Result(9, 9))).EnsureSuccessStatusCode();
        (await service.SwapAsync(rescue)).SignOffs
            .Single(s => s.Part == SignOffPart.Technician).Missing
            .ShouldContain(m => m.Contains("1 snag is open", StringComparison.Ordinal));
    }

    [Fact]
    public async Task The_parcel_of_a_lost_computer_is_held_for_its_rescue()
    {
        var (lost, rescue, _) = await LostAsync();
        (await RescueAsync(rescue, lost, "KB-1")).EnsureSuccessStatusCode();
        (await service.SwapAsync(lost)).Parcel!.Hold.Missing[0].ShouldContain(rescue);
    }

    [Fact]
    public async Task A_leavers_parcel_goes_to_nobody_who_has_not_accepted_it()
    {
        var refresh = await RefreshAsync();
        var swap = $"{refresh}-0002";
        (await service.SwapAsync(swap)).HandingOver.ShouldBe(new ReceiverSeen("k3", "Per Lunde", null, null, null));
        await RunningService.ProblemAsync(await Kit.PostAsync($"api/swaps/{swap}/receiver/acceptance", null), 409);
        await StageAsync(swap, await service.HandAsync(refresh, "KB-3"));
        (await RunningService.ProblemAsync(await service.OrderAsync(swap, new("restore")), 409))
            .ToJsonString().ShouldContain("not accepted");
        (await service.SwapAsync(swap)).SignOffs[0].Missing.ShouldContain(m => m.Contains("accepted", StringComparison.Ordinal));
        (await service.SwapAsync(swap)).Parcel!.Hold.Missing[0].ShouldContain("has not accepted");
        var stranger = await service.AccountAsync($"stranger{refresh}", "person", refresh);
        await RunningService.ProblemAsync(await stranger.PostAsync($"api/swaps/{swap}/receiver/acceptance", null), 403);
        foreach (var (wanted, status) in new[] { (new ReceiverWanted("nobody"), 422), (new ReceiverWanted("k2"), 422) })
            await RunningService.ProblemAsync(await Kit.PutAsJsonAsync($"api/swaps/{swap}/receiver", wanted), status);
        await RunningService.ProblemAsync(await Kit.PutAsJsonAsync($"api/swaps/{refresh}-0001/receiver", new ReceiverWanted("k3")), 409);

        (await Kit.PostAsync($"api/swaps/{swap}/receiver/acceptance", null)).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(await service.OrderAsync(swap, new("restore")), 409))
            .ToJsonString().ShouldContain("no computer");
        (await Kit.PutAsJsonAsync($"api/swaps/{swap}/receiver", new ReceiverWanted("k3", "KB-44"))).EnsureSuccessStatusCode();
        var hand = await service.HandAsync(refresh, "KB-44");
        await service.DoAsync(swap, "restore", hand, RunningService.Result(10, 10));
        (await service.SwapAsync(swap)).Account.Single().OnNew!.Value.Files.ShouldBe(10);
        // Another person has accepted nothing yet.
        (await Kit.PutAsJsonAsync($"api/swaps/{swap}/receiver", new ReceiverWanted("k1", "KB-45"))).EnsureSuccessStatusCode();
        (await service.SwapAsync(swap)).HandingOver!.AcceptedAt.ShouldBeNull();
    }

    [Fact]
    public async Task That_nothing_is_restored_is_decided_with_a_reason_after_a_look_and_can_be_taken_back()
    {
        var refresh = await RefreshAsync();
        var swap = $"{refresh}-0001";
        await StageAsync(swap, await service.HandAsync(refresh, "KB-1"));
        Task<HttpResponseMessage> SkipAsync(string reason) =>
            Kit.PutAsJsonAsync($"api/swaps/{swap}/restore-skip", new RestoreSkipWanted(reason));
        (await RunningService.ProblemAsync(await SkipAsync("one home on the server"), 409)).ToJsonString().ShouldContain("look first");
        await service.DoAsync(
            swap,
            "look",
            await service.HandAsync(refresh, "KB-2"),
            new(
                [],
                [],
                Foreseen: new(
                    service.Now, [new("Documents", "Documents", new(2, 20), new(8, 80), default, default, default)], 80, 1000, [])));
        await RunningService.ProblemAsync(await SkipAsync(" "), 422);
        for (var again = 0; again < 2; again++) (await SkipAsync("one home on the server")).EnsureSuccessStatusCode();
        var seen = await service.SwapAsync(swap);
        (
            seen.RestoreSkip!.Reason,
            seen.Swap.Line.Single(s => s.Station == Station.Restored).At is not null).ShouldBe(("one home on the server", true));
        seen.History.Single(h => h.Kind == "restore.skipped").Words
            .ShouldContain("2 files of the parcel are not on the new computer, 8 stand there already");
        (await Kit.DeleteAsync($"api/swaps/{swap}/restore-skip")).EnsureSuccessStatusCode();
        (await service.SwapAsync(swap)).Swap.Line.Single(s => s.Station == Station.Restored).At.ShouldBeNull();
    }

    [Fact]
    public async Task A_folder_filled_by_hand_becomes_the_parcel_and_the_account_tells_what_it_lacks()
    {
        var refresh = await RefreshAsync();
        var swap = $"{refresh}-0001";
        var hand = await service.HandAsync(refresh, "KB-1");
        foreach (var bad in new[] { null, "", "../x", "a//b" })
            await RunningService.ProblemAsync(await service.OrderAsync(swap, new("adopt", Folder: bad)), 422);
        (await service.OrderAsync(swap, new("adopt", Folder: "Old shares/Ida/"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        (order.Work.Name, ((AdoptWork)order.Work).Folder).ShouldBe(("adopt", "Old shares/Ida"));
        (await service.EndAsync(
            hand,
            order,
            RunningService.Result(10, 7) with { IsAsThere = false, Words = "7 as at the old computer, 3 are missing." }))
            .EnsureSuccessStatusCode();
        await service.DoAsync(swap, "verify", hand, HandReport.Fine);
        var seen = await service.SwapAsync(swap);
        (
            seen.Account.Single().Unexplained,
            seen.Swap.Line.Single(s => s.Station == Station.Staged).At,
            seen.Orders.Single(o => o.Kind == "adopt").Words).ShouldBe((3, null, "7 as at the old computer, 3 are missing."));
        await RunningService.ProblemAsync(await service.OrderAsync(swap, new("adopt", Folder: "another")), 409);
        await service.DoAsync(swap, "top-up-trip", hand, RunningService.Result(10, 10));
        await service.DoAsync(swap, "verify", hand, HandReport.Fine);
        (await service.SwapAsync(swap)).Swap.Line.Single(s => s.Station == Station.Staged).At.ShouldNotBeNull();
    }

    [Fact]
    public async Task Swaps_are_staged_in_the_depot_that_was_chosen_for_them_until_something_lies_there()
    {
        var refresh = await RefreshAsync();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/disk", new DepotWanted("Disk", "file:///mnt/disk"))).EnsureSuccessStatusCode();
        async Task<HttpResponseMessage> EditAsync(string depot, params string[] swaps) =>
            await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/swaps/edits", new SwapEdit(swaps, Depot: depot));
        await RunningService.ProblemAsync(await EditAsync("barge", $"{refresh}-0001"), 404);
        (await EditAsync("disk", $"{refresh}-0001")).EnsureSuccessStatusCode();
        var hand = await service.HandAsync(refresh, "KB-1");
        (await service.OrderAsync($"{refresh}-0001", new("first-trip"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        order.Depot.ShouldBe("file:///mnt/disk");
        (await service.EndAsync(hand, order, RunningService.Result(1, 1))).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(await EditAsync("cloud", $"{refresh}-0002", $"{refresh}-0001"), 409)).ToJsonString()
            .ShouldContain("Ida Moreau");
    }
}
