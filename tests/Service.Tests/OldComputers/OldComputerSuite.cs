using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

public sealed class SqliteOldComputerTests(OnSqlite service) : OldComputerSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresOldComputerTests(OnPostgres service) : OldComputerSuite(service), IClassFixture<OnPostgres>;

/// <summary>Old computers go from hand to hand, and none is wiped or sent off before its time. On every database.</summary>
public abstract class OldComputerSuite(RunningService service) : Morning(service)
{
    private Task<HttpResponseMessage> MoveAsync(
        string refresh, string tag, CustodyAct act, string? where, string? id = null, DateTimeOffset? at = null) =>
        PostAsync(
            $"refreshes/{refresh}/old-computers/{Uri.EscapeDataString(tag)}/moves",
            new CustodyWanted(id ?? Guid.NewGuid().ToString(), act, where, at));

    private Task<HttpResponseMessage> WipeAsync(string refresh, string tag, string result = "done", bool alone = false) =>
        PostAsync(
            $"refreshes/{refresh}/old-computers/{Uri.EscapeDataString(tag)}/wipe",
            new WipeWanted("three passes", result, "=W-0117", alone));

    private Task<HttpResponseMessage> DepartAsync(string refresh) =>
        PostAsync($"refreshes/{refresh}/pallets/P-07/departure", new PalletDeparture(CustodyAct.Returned, "the leasing company"));

    private async Task<IReadOnlyList<OldComputerSeen>> ListAsync(string refresh, string asked) =>
        (await Kit.GetFromJsonAsync<Page<OldComputerSeen>>(
            $"api/refreshes/{refresh}/old-computers?{asked}", RunningService.Json))!.Items;

    private Task<HttpResponseMessage> HoldAsync(string refresh, int days) =>
        Kit.PutAsJsonAsync($"api/refreshes/{refresh}/old-hold", new OldHoldWanted(days));

    /// <summary>Ida's swap is signed off by the technician; her old computer is KB-1.</summary>
    private async Task<string> SignedOffAsync()
    {
        var refresh = await MorningAsync();
        await FinishAsync(refresh, $"{refresh}-0001", "KB-1", "KB-2");
        (await PostAsync($"swaps/{refresh}-0001/sign-offs", new SignOffWanted(SignOffPart.Technician))).EnsureSuccessStatusCode();
        return refresh;
    }

    /// <summary>And nothing stands in the way of its wipe.</summary>
    private async Task<string> FreeToWipeAsync()
    {
        var refresh = await SignedOffAsync();
        (await HoldAsync(refresh, 0)).EnsureSuccessStatusCode();
        await Service.WorkAsync($"{refresh}-0001", s => s.Phase == "hand-in");
        return refresh;
    }

    /// <summary>KB-1, wiped, and KB-7, whose swap has not begun, on one pallet.</summary>
    private async Task<string> LoadedAsync()
    {
        var refresh = await FreeToWipeAsync();
        (await WipeAsync(refresh, "KB-1")).EnsureSuccessStatusCode();
        foreach (var tag in new[] { "KB-1", "KB-7" }) (await MoveAsync(refresh, tag, CustodyAct.Loaded, "P-07")).EnsureSuccessStatusCode();
        return refresh;
    }

    [Fact]
    public async Task What_only_its_own_hand_has_verified_is_wiped_only_where_somebody_says_so_and_the_paper_with_them()
    {
        var refresh = await FreeToWipeAsync();
        var swap = $"{refresh}-0001";
        (await ListAsync(refresh, "q=KB-1")).Single().Alone.ShouldBeFalse("the new computer's hand restored it whole");
        await Service.WithRecordsAsync(db => db.Orders.Where(o => o.Swap == swap && o.Tag == "KB-2")
            .ExecuteUpdateAsync(u => u.SetProperty(o => o.Tag, "KB-1")));
        (await ListAsync(refresh, "q=KB-1")).Single().Alone.ShouldBeTrue();
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldContain("by the service or at another computer");
        var wiped = await OkAsync<OldComputerSeen>(PostAsync(
            $"refreshes/{refresh}/old-computers/KB-1/wipe", new WipeWanted("three passes", "done", "W-0117", Alone: true)));
        wiped.Wipe!.Evidence.ShouldBe("W-0117; nobody but its own hand had verified what was carried from it");
        using var folder = new TempFolder();
        await File.WriteAllBytesAsync(folder["swap.pdf"], await Kit.GetByteArrayAsync($"api/swaps/{swap}/paper.pdf"));
        Run.Must("pdftotext", "-layout", folder["swap.pdf"], "-").ShouldContain("nobody but its own hand");
    }

    [Fact]
    public async Task What_is_no_old_computer_or_stays_in_use_is_neither_moved_nor_wiped()
    {
        var refresh = await MorningAsync();
        (await RefusedAsync(MoveAsync(refresh, "KB-2", CustodyAct.Taken, null), 404)).ShouldContain("no old computer");
        (await RefusedAsync(WipeAsync(refresh, "KB-5"), 409)).ShouldContain("stays in use");
    }

    [Fact]
    public async Task What_was_taken_in_is_with_its_person_no_more()
    {
        var refresh = await SignedOffAsync();
        async Task<string> WordsAsync() => (await ListAsync(refresh, "q=KB-1")).Single(c => c.Tag == "KB-1").Words;
        (await WordsAsync()).ShouldStartWith("With Ida Moreau");
        await Service.WorkAsync($"{refresh}-0001", s => s.Phase == "hand-in");
        (await WordsAsync()).ShouldBe("Taken in; nobody has said where it stands");
    }

    [Fact]
    public async Task A_move_that_is_reported_twice_happened_once()
    {
        var refresh = await MorningAsync();
        var id = Guid.NewGuid().ToString();
        for (var again = 0; again < 2; again++)
            (await OkAsync<OldComputerSeen>(MoveAsync(refresh, "kb-1", CustodyAct.Placed, "Workshop, shelf 3", id))).Place
                .ShouldBe("Workshop, shelf 3");
        (await HistoryAsync(refresh)).ShouldBe([CustodyAct.Placed]);
    }

    [Fact]
    public async Task A_move_that_is_reported_late_does_not_undo_what_happened_after_it()
    {
        var refresh = await MorningAsync();
        (await MoveAsync(refresh, "KB-1", CustodyAct.Placed, "Workshop, shelf 3")).EnsureSuccessStatusCode();
        (await OkAsync<OldComputerSeen>(MoveAsync(refresh, "KB-1", CustodyAct.Taken, "Vera", at: Service.Now.AddHours(-1)))).Words
            .ShouldBe("Workshop, shelf 3");
        (await HistoryAsync(refresh)).ShouldBe([CustodyAct.Placed, CustodyAct.Taken]);
    }

    [Fact]
    public async Task A_move_by_a_clock_that_is_ahead_is_refused()
    {
        var refresh = await MorningAsync();
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Taken, "Vera", at: Service.Now.AddHours(1)), 422)).ShouldContain("clock");
    }

    [Fact]
    public async Task Nothing_is_wiped_while_it_is_held_or_not_handed_in()
    {
        var refresh = await SignedOffAsync();
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldSatisfyAllConditions(
            t => t.ShouldContain("held until"), t => t.ShouldContain("hand-in"));
    }

    [Fact]
    public async Task Nothing_is_wiped_while_a_follow_up_holds_it()
    {
        var refresh = await FreeToWipeAsync();
        var held = await OkAsync<FollowUpSeen>(PostAsync(
                $"swaps/{refresh}-0001/follow-ups", new FollowUpWanted("look for the tide tables", "noor", Holds: FollowUpHold.Wipe)));
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldContain("tide tables");
        (await PostAsync($"follow-ups/{held.Id}/end", new FollowUpEnd("found"))).EnsureSuccessStatusCode();
        for (var again = 0; again < 2; again++) (await OkAsync<OldComputerSeen>(WipeAsync(refresh, "KB-1"))).State.ShouldBe("wiped");
    }

    [Fact]
    public async Task A_computer_that_is_set_up_afresh_is_emptied_after_its_closing_trip_and_what_was_restored_before_does_not_count()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        (await Service.RosterAsync(refresh, "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North,reimage,KB-1,\n"))
            .EnsureSuccessStatusCode();
        var (swap, hand) = ($"{refresh}-0001", await Service.HandAsync(refresh, "KB-1"));
        await StagedTwiceAsync("first-trip");
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldContain("Its closing trip is not made");
        (await RefusedAsync(PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician)), 409))
            .ShouldContain("closing trip is not made");
        await StagedTwiceAsync("closing-trip");
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldContain("Order the last look");
        await Service.DoAsync(swap, "last-look", hand, HandReport.Fine with { Damages = 2, Trip = 2 });
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldContain("Order the last look");
        (await Service.OrderAsync(swap, new("last-look"))).EnsureSuccessStatusCode();
        await Service.DoAsync(swap, "last-look", hand, HandReport.Fine);
        await Service.DoAsync(swap, "restore", hand, RunningService.Result(10, 10));
        (await RestoredAsync()).ShouldNotBeNull();

        (await WipeAsync(refresh, "KB-1", alone: true)).EnsureSuccessStatusCode();

        (await RestoredAsync()).ShouldBeNull("it was emptied since");
        await Service.DoAsync(swap, "restore", hand, RunningService.Result(10, 10));
        (await RestoredAsync()).ShouldNotBeNull();

        async Task StagedTwiceAsync(string trip)
        {
            await Service.DoAsync(swap, trip, hand, RunningService.Result(10, 10));
            await Service.DoAsync(swap, "verify", hand, HandReport.Fine);
            await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == swap)
                .ExecuteUpdateAsync(s => s.SetProperty(x => x.CopiedAt, Service.Now.AddMinutes(1))));
        }

        async Task<DateTimeOffset?> RestoredAsync() =>
            (await Service.SwapAsync(swap)).Swap.Line.Single(s => s.Station == Station.Restored).At;
    }

    [Fact]
    public async Task A_wipe_that_failed_is_somebodys_to_look_after_and_nothing_leaves_the_house_unwiped()
    {
        var refresh = await FreeToWipeAsync();
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Donated, "the school"), 409)).ShouldContain("not wiped");
        (await OkAsync<OldComputerSeen>(WipeAsync(refresh, "KB-1", "failed"))).State.ShouldBe("wipe-failed");
        (await Service.SwapAsync($"{refresh}-0001")).FollowUps!.ShouldContain(f => f.Cause == "wipe" && f.DoneAt == null);
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Donated, "the school"), 409)).ShouldContain("not wiped");
    }

    [Fact]
    public async Task A_pallet_leaves_whole_or_not_at_all_and_a_computer_is_on_one_only()
    {
        var refresh = await LoadedAsync();
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Loaded, "P-08"), 409)).ShouldContain("P-07");
        (await RefusedAsync(DepartAsync(refresh), 409)).ShouldContain("KB-7");
        (await MoveAsync(refresh, "KB-7", CustodyAct.Unloaded, "Workshop, bench")).EnsureSuccessStatusCode();
        (await OkAsync<PalletSeen>(DepartAsync(refresh))).Gone.ShouldBe(1);
        (await Service.SwapAsync($"{refresh}-0004")).OldComputer!.Place.ShouldBe("Workshop, bench");
        LedgerChain.Check(await Service.LedgerAsync(refresh), null).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_pallets_list_names_all_that_is_on_it_and_is_no_program_for_a_spreadsheet()
    {
        var csv = await (await Kit.GetAsync($"api/refreshes/{await LoadedAsync()}/pallets/P-07/list.csv")).Content.ReadAsStringAsync();
        csv.ShouldSatisfyAllConditions(t => t.ShouldContain("KB-1"), t => t.ShouldContain("KB-7"), t => t.ShouldContain("=W-0117"));
        csv.ShouldNotMatch("(^|[,\n])=", "a cell that begins so is reckoned");
    }

    [Fact]
    public async Task What_has_left_is_moved_no_more_and_is_found_among_what_is_gone()
    {
        var refresh = await LoadedAsync();
        (await MoveAsync(refresh, "KB-7", CustodyAct.Unloaded, "Workshop, bench")).EnsureSuccessStatusCode();
        (await DepartAsync(refresh)).EnsureSuccessStatusCode();
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Taken, "Noor"), 409)).ShouldContain("has left");
        (await ListAsync(refresh, "end=gone")).Single().Words.ShouldBe("Returned to the leasing company with pallet P-07");
    }

    [Fact]
    public async Task Old_computers_are_found_by_where_they_stand_and_come_in_pages()
    {
        var refresh = await MorningAsync();
        (await MoveAsync(refresh, "KB-1", CustodyAct.Placed, "Workshop, shelf 3")).EnsureSuccessStatusCode();
        (await ListAsync(refresh, "q=shelf")).Select(c => c.Tag).ShouldBe(["KB-1"]);
        (await ListAsync(refresh, "limit=2")).Count.ShouldBe(2);
    }

    private async Task<IEnumerable<CustodyAct>> HistoryAsync(string refresh) =>
        (await Kit.GetFromJsonAsync<OldComputerHistory>($"api/refreshes/{refresh}/old-computers/KB-1", RunningService.Json))!.Moves
            .Select(m => m.Act);
}
