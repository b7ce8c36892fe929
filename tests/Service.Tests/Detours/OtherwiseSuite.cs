using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Detours;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteOtherwiseTests(OnSqlite service) : OtherwiseSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresOtherwiseTests(OnPostgres service) : OtherwiseSuite(service), IClassFixture<OnPostgres>;

/// <summary>
/// What goes otherwise than planned on the day: each has a way that keeps the facts right, and nobody else's promise is broken for it.
/// </summary>
public abstract class OtherwiseSuite(RunningService service) : Morning(service)
{
    private Task<DetourTaken> TakeAsync(string swap, DetourTold told) => OkAsync<DetourTaken>(PostAsync($"swaps/{swap}/detours", told));

    private Task<string> NoAsync(string swap, DetourTold told, int status = 409) =>
        RefusedAsync(PostAsync($"swaps/{swap}/detours", told), status);

    private async Task<List<SpareSeen>> SparesAsync(string refresh) =>
        (await Kit.GetFromJsonAsync<List<SpareSeen>>($"api/refreshes/{refresh}/spares", RunningService.Json))!;

    private async Task SpareAsync(string refresh, string tag, string model, string site = "North") =>
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/spares/{tag}", new SpareWanted(site, model))).EnsureSuccessStatusCode();

    private Task ModelAsync(string swap, string model) =>
        Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == swap).ExecuteUpdateAsync(u => u.SetProperty(s => s.NewModel, model)));

    /// <summary>Ida's visit is under way, Sol's is the next that Noor has.</summary>
    private async Task<(string Refresh, string Ida)> DueAsync()
    {
        var refresh = await MorningAsync();
        await BookAsync($"{refresh}-0001", "noor", -15);
        await BookAsync($"{refresh}-0002", "noor", 90);
        return (refresh, $"{refresh}-0001");
    }

    private async Task<List<(string Swap, string? Technician, DateTimeOffset? Start)>> OthersAsync(string refresh, string but) =>
        [.. (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Items
            .Where(s => s.Id != but)
            .OrderBy(s => s.Id, StringComparer.Ordinal)
            .Select(s => (s.Id, s.Appointment?.Technician, s.Appointment?.Start))];

    [Fact]
    public async Task Nobody_is_missing_before_their_visit_has_begun()
    {
        var refresh = await MorningAsync();
        await BookAsync($"{refresh}-0001", "noor", 60);
        (await NoAsync($"{refresh}-0001", new(DetourKind.NoShow))).ShouldContain("has not begun");
    }

    [Fact]
    public async Task A_look_at_what_goes_otherwise_changes_nothing()
    {
        var (_, ida) = await DueAsync();
        var was = (await Service.SwapAsync(ida)).Swap.Appointment!.Start;
        var looked = await TakeAsync(ida, new(DetourKind.Late, Minutes: 40, DryRun: true));
        (looked.Done, (await Service.SwapAsync(ida)).Swap.Appointment!.Start).ShouldBe((false, was));
    }

    [Fact]
    public async Task Who_is_late_comes_later_the_same_day_with_the_same_technician_and_nobody_else_is_moved()
    {
        var (refresh, ida) = await DueAsync();
        var (others, was) = (await OthersAsync(refresh, ida), (await Service.SwapAsync(ida)).Swap.Appointment!.Start);
        var late = await TakeAsync(ida, new(DetourKind.Late, "the ferry was late", Minutes: 40));
        late.Lines.ShouldContain(l => l.Contains("Nobody else is moved"));
        var moved = (await Service.SwapAsync(ida)).Swap.Appointment!;
        (moved.Technician, moved.Start >= was.AddMinutes(40), moved.Start.Date).ShouldBe(("noor", true, was.Date));
        (await OthersAsync(refresh, ida)).ShouldBe(others);
    }

    [Fact]
    public async Task Who_was_not_there_has_no_time_and_somebody_is_to_find_another()
    {
        var (refresh, ida) = await DueAsync();
        var others = await OthersAsync(refresh, ida);
        (await TakeAsync(ida, new(DetourKind.NoShow))).Words.ShouldStartWith("Ida Moreau was not there on");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Appointment, seen.Swap.Sign.Sign).ShouldBe((null, "wants"));
        seen.Swap.Sign.Words.ShouldContain("was not there");
        seen.FollowUps!.Single().Words.ShouldContain("Find another time with Ida Moreau");
        (await OthersAsync(refresh, ida)).ShouldBe(others);
    }

    [Fact]
    public async Task Who_was_not_there_again_is_counted_and_gets_the_soonest_time_that_is_not_today()
    {
        var (_, ida) = await DueAsync();
        await TakeAsync(ida, new(DetourKind.NoShow));
        await BookAsync(ida, "noor", -15);
        (await TakeAsync(ida, new(DetourKind.NoShow, Soonest: true))).Words.ShouldContain("for the second time");
        var seen = await Service.SwapAsync(ida);
        seen.Swap.Appointment!.Start.ShouldBeGreaterThan(Service.Now.AddHours(4));
        seen.Detours!.Select(d => d.Kind).ShouldBe([DetourKind.NoShow, DetourKind.NoShow]);
    }

    [Fact]
    public async Task A_technician_of_another_site_tells_nothing_of_it()
    {
        var (_, ida) = await DueAsync();
        (await RefusedAsync(
            (await Service.AsAsync("theo")).PostAsJsonAsync(
                $"api/swaps/{ida}/detours", new DetourTold(DetourKind.NoShow), RunningService.Json),
            403))
            .ShouldContain("not one of your sites");
    }

    [Fact]
    public async Task A_computer_that_is_somebody_elses_or_the_planned_one_is_not_taken_for_another()
    {
        var ida = $"{await MorningAsync()}-0001";
        (await NoAsync(ida, new(DetourKind.WrongComputer, Tag: "KB-8"))).ShouldContain("meant for Una Berg");
        (await NoAsync(ida, new(DetourKind.WrongComputer, Tag: "kb-3"), 422)).ShouldContain("old computer, of Sol Okafor");
        (await NoAsync(ida, new(DetourKind.WrongComputer, Tag: "KB-2"), 422)).ShouldContain("is the computer that was planned");
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/detours", new DetourTold(DetourKind.WrongComputer)), 422);
    }

    [Fact]
    public async Task Two_new_computers_are_exchanged_and_what_was_done_to_the_first_is_done_again()
    {
        var refresh = await MorningAsync();
        var (ida, una) = ($"{refresh}-0001", $"{refresh}-0004");
        (await Service.ClaimAsync(ida, "new-tag", new("scanned", "KB-2"))).EnsureSuccessStatusCode();
        await Service.WorkAsync(ida, s => s.Key == "updates");
        (await Service.ClaimAsync(ida, "told", new("ticked"))).EnsureSuccessStatusCode();
        var taken = await TakeAsync(ida, new(DetourKind.WrongComputer, Tag: "kb-8", Exchange: true));
        taken.Lines[0].ShouldBe("Ida Moreau gets KB-8, Una Berg gets KB-2.");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.NewTag, (await Service.SwapAsync(una)).Swap.NewTag).ShouldBe(("KB-8", "KB-2"));
        string StateOf(string key) => seen.Checklist.Steps.Single(s => s.Key == key).State;
        (StateOf("told"), StateOf("new-tag"), StateOf("updates")).ShouldBe(
            ("done", "open", "open"), "what was done to the other computer says nothing about this one");
        (await Service.ClaimAsync(ida, "new-tag", new("scanned", "KB-2"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task One_that_nobody_had_listed_is_taken_and_the_one_that_did_not_come_is_looked_for()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await TakeAsync(ida, new(DetourKind.WrongComputer, Tag: "KB-99"));
        (await Service.SwapAsync(ida)).Swap.NewTag.ShouldBe("KB-99");
        (await SparesAsync(refresh)).Single().ShouldSatisfyAllConditions(
            s => s.Key.ShouldBe("KB-2"), s => s.Trouble!.ShouldContain("look for it"));
    }

    [Fact]
    public async Task A_roster_that_is_taken_again_does_not_undo_what_happened()
    {
        var refresh = await MorningAsync();
        await TakeAsync($"{refresh}-0001", new(DetourKind.WrongComputer, Tag: "KB-99"));
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        (await Service.SwapAsync($"{refresh}-0001")).Swap.NewTag.ShouldBe("KB-99");
    }

    [Fact]
    public async Task A_dead_computer_is_replaced_by_a_spare_of_its_kind_and_the_files_come_to_that_one()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await ModelAsync(ida, "Gannet 14");
        (await NoAsync(ida, new(DetourKind.DeadOnArrival, "no picture"))).ShouldContain("There is no spare computer");
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/detours", new DetourTold(DetourKind.DeadOnArrival)), 422);
        await SpareAsync(refresh, "KB-90", "Petrel 13");
        await SpareAsync(refresh, "KB-91", "Gannet 14", "South");
        (await RefusedAsync(Kit.PutAsJsonAsync($"api/refreshes/{refresh}/spares/KB-3", new SpareWanted("North")), 409))
            .ShouldContain("Sol Okafor");
        await FinishAsync(refresh, ida, "KB-1", "KB-2");
        (await Service.SwapAsync(ida)).Swap.Line.Single(l => l.Station == Station.Restored).At.ShouldNotBeNull();

        var taken = await TakeAsync(ida, new(DetourKind.DeadOnArrival, "no picture"));
        taken.Lines[0].ShouldBe(
            "KB-91 (Gannet 14) takes its place; it lies at South, another site.", "the same model counts before the same site");
        var seen = await Service.SwapAsync(ida);
        (
            seen.Swap.NewTag,
            seen.Swap.Line.Single(l => l.Station == Station.Restored).At,
            seen.Swap.Line.Single(l => l.Station == Station.Swapped).At).ShouldBe(("KB-91", null, null));
        seen.FollowUps!.ShouldContain(f => f.Words.StartsWith("Send KB-2 back to its maker", StringComparison.Ordinal));
        (await SparesAsync(refresh)).Select(s => (s.Key, s.Trouble is null)).ShouldBe([("KB-90", true), ("KB-2", false)]);
        await Service.DoAsync(ida, "restore", await Service.HandAsync(refresh, "KB-91"), RunningService.Result(10, 10));
        (await Service.SwapAsync(ida)).Swap.Line.Single(l => l.Station == Station.Restored).At.ShouldNotBeNull();
    }

    /// <summary>Ida's disk died while a third trip was ordered: the second left two files behind.</summary>
    private async Task<(string Refresh, string Ida, DetourTaken Taken)> DiskDiedAsync()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        var hand = await Service.HandAsync(refresh, "KB-1");
        await Service.DoAsync(ida, "first-trip", hand, RunningService.Result(10, 10));
        await Service.DoAsync(ida, "verify", hand, HandReport.Fine);
        await Service.DoAsync(
            ida,
            "closing-trip",
            hand,
            RunningService.Result(
                12,
                10,
                new("Documents/a.odt", SnagKind.Unreadable, 500, "Input/output error"),
                new("Documents/b.odt", SnagKind.Unreadable, 700, "Input/output error")));
        await Service.DoAsync(ida, "verify", hand, HandReport.Fine);
        (await PostAsync($"swaps/{ida}/orders", new OrderWanted("closing-trip"))).EnsureSuccessStatusCode();
        return (refresh, ida, await TakeAsync(ida, new(DetourKind.OldDiskDied, "it clicks")));
    }

    [Fact]
    public async Task A_disk_that_dies_before_any_trip_ended_leaves_nothing_to_go_on_from()
    {
        var ida = $"{await MorningAsync()}-0001";
        (await NoAsync(ida, new(DetourKind.OldDiskDied))).ShouldContain("no trip of KB-1 is known to have begun");
    }

    [Fact]
    public async Task When_the_old_disk_dies_it_is_said_what_there_is_and_what_is_lost()
    {
        var (_, _, taken) = await DiskDiedAsync();
        taken.Words.ShouldBe("The disk of KB-1 died: it clicks");
        taken.Lines.ShouldContain("Closing trip at KB-1 is withdrawn.");
        taken.Lines.ShouldContain(l => l.StartsWith("What there is, is trip 2 of", StringComparison.Ordinal) && l.Contains("10 files"));
        taken.Lines.ShouldContain("Documents/b.odt: Input/output error");
    }

    [Fact]
    public async Task The_swap_of_a_dead_disk_is_a_rescue_that_names_what_is_missing()
    {
        var (_, ida, _) = await DiskDiedAsync();
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Kind, seen.Rescue!.From, seen.Swap.OpenSnags).ShouldBe((SwapKind.Rescue, ida, 0));
        seen.Snags.ShouldAllBe(n => n.End == "waived" && n.EndReason!.Contains("old disk died"));
        seen.Checklist.Steps.ShouldContain(s => s.Key == "missing-named");
        seen.FollowUps!.Single().Holds.ShouldBe(Core.FollowUps.FollowUpHold.SignOff);
    }

    [Fact]
    public async Task Nothing_more_is_carried_from_a_dead_disk_and_the_restore_goes_on_from_the_last_good_trip()
    {
        var (refresh, ida, _) = await DiskDiedAsync();
        (await RefusedAsync(PostAsync($"swaps/{ida}/orders", new OrderWanted("top-up-trip")), 409)).ShouldContain("disk of KB-1 died");
        (await NoAsync(ida, new(DetourKind.OldDiskDied))).ShouldContain("noted already");
        await Service.DoAsync(ida, "restore", await Service.HandAsync(refresh, "KB-2"), RunningService.Result(10, 10));
        (await Service.SwapAsync(ida)).Swap.Line.Single(l => l.Station == Station.Restored).At.ShouldNotBeNull();
    }

    [Fact]
    public async Task A_restore_takes_what_a_trip_that_broke_off_had_left_only_where_the_old_computer_is_gone()
    {
        var (refresh, ida, _) = await DiskDiedAsync();
        var sol = $"{refresh}-0002";
        var old = await Service.HandAsync(refresh, "KB-3");
        await Service.DoAsync(sol, "first-trip", old, RunningService.Result(10, 10));
        await Service.DoAsync(sol, "verify", old, HandReport.Fine);
        foreach (var (swap, tag, unfinished) in new[] { (ida, "KB-2", true), (sol, "KB-4", false) })
        {
            (await Service.OrderAsync(swap, new("restore"))).EnsureSuccessStatusCode();
            var work = (await RunningService.TakeAsync(await Service.HandAsync(refresh, tag))).Work;
            work.ShouldBeOfType<RestoreWork>().Unfinished.ShouldBe(unfinished, swap);
        }
    }

    [Fact]
    public async Task A_rescue_from_a_trip_that_broke_off_adds_up_and_is_restored_once_somebody_has_looked()
    {
        var (refresh, ida, _) = await DiskDiedAsync();
        var left = new Snag("./", SnagKind.Unfinished, 0, "Trip 3 broke off: nobody can say what is missing.", CountsAsFile: false);
        var found = RunningService.Result(14, 14, left) with { Unfinished = true };
        await Service.DoAsync(ida, "restore", await Service.HandAsync(refresh, "KB-2"), found);
        var seen = await Service.SwapAsync(ida);
        IsRestored(seen).ShouldBeFalse("nobody has looked yet");
        var account = seen.Account.Single(f => f.Folder == "Documents");
        (account.InDepot.Files, account.OnNew?.Files, account.Unexplained).ShouldBe((14, 14, 0));
        var snag = seen.Snags.Single(n => n.Kind == SnagKind.Unfinished);
        (await Kit.PostAsJsonAsync($"api/snags/{snag.Id}/waiver", new WaiverWanted("looked at with Ida"))).EnsureSuccessStatusCode();
        IsRestored(await Service.SwapAsync(ida)).ShouldBeTrue();

        static bool IsRestored(SwapSeen swap) => swap.Swap.Line.Single(l => l.Station == Station.Restored).At is not null;
    }

    private async Task<(string Refresh, string Ida, DetourTaken Taken)> CalledOffAsync()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await ModelAsync(ida, "Gannet 14");
        await Service.DoAsync(ida, "first-trip", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 10));
        return (refresh, ida, await TakeAsync(ida, new(DetourKind.CalledOff, "the department moves")));
    }

    [Fact]
    public async Task Only_a_coordinator_calls_a_swap_off()
    {
        var ida = $"{await MorningAsync()}-0001";
        (await RefusedAsync(
            (await Service.AsAsync("noor")).PostAsJsonAsync(
                $"api/swaps/{ida}/detours", new DetourTold(DetourKind.CalledOff, "no"), RunningService.Json),
            403))
            .ShouldContain("coordinator");
    }

    [Fact]
    public async Task A_swap_that_is_called_off_waits_for_nothing_and_gives_its_computer_back()
    {
        var (refresh, ida, taken) = await CalledOffAsync();
        taken.Lines.ShouldContain("KB-2 is a spare from now on.");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Sign.Sign, seen.Swap.Sign.Words, seen.Swap.Appointment, seen.Swap.NewTag, seen.Swap.IsBusy)
            .ShouldBe(("off", "Called off: the department moves", null, null, false));
        seen.MayDetour.ShouldBe([DetourKind.Resumed, DetourKind.Stolen, DetourKind.Lost, DetourKind.FilesMissed]);
        (await Kit.GetFromJsonAsync<YardSeen>($"api/refreshes/{refresh}/yard", RunningService.Json))!.Swaps.ShouldBe(3);
        (await Service.PublishAsync(refresh, new(Steps: 0))).Appointments.ShouldNotContain(a => a.Swap == ida);
    }

    [Fact]
    public async Task Nothing_is_ordered_or_ticked_for_what_is_called_off()
    {
        var (_, ida, _) = await CalledOffAsync();
        (await RefusedAsync(PostAsync($"swaps/{ida}/orders", new OrderWanted("top-up-trip")), 409)).ShouldContain("called off");
        (await RefusedAsync(Service.ClaimAsync(ida, "told", new("ticked")), 409)).ShouldContain("Resume it first");
    }

    [Fact]
    public async Task What_was_carried_is_held_from_the_day_on_which_it_was_called_off()
    {
        var (_, ida, _) = await CalledOffAsync();
        (await Service.SwapAsync(ida)).Parcel!.Hold.Until.ShouldNotBeNull();
    }

    [Fact]
    public async Task A_swap_that_is_resumed_has_its_computer_again_and_is_planned()
    {
        var (refresh, ida, _) = await CalledOffAsync();
        await TakeAsync(ida, new(DetourKind.Resumed));
        (await Service.SwapAsync(ida)).Swap.NewTag.ShouldBe("KB-2", "its own computer was still a spare");
        (await Service.PublishAsync(refresh, new(Steps: 0))).Appointments.ShouldContain(a => a.Swap == ida);
    }

    [Fact]
    public async Task When_a_person_is_gone_the_files_go_to_who_is_named_as_a_leave()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        (await NoAsync(ida, new(DetourKind.PersonGone, "left", Receiver: "k1"), 422)).ShouldContain("is the one who is gone");
        var taken = await TakeAsync(ida, new(DetourKind.PersonGone, "left on short notice", Receiver: "k2"));
        taken.Lines.ShouldContain(l => l.StartsWith("It goes on as a leave: Sol Okafor", StringComparison.Ordinal));
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Kind, seen.HandingOver!.Person, seen.Swap.NewTag).ShouldBe((SwapKind.Leave, "k2", null));
        seen.Checklist.Template.ShouldNotBe("Change of computer");
        (await SparesAsync(refresh)).Single().Key.ShouldBe("KB-2");
        (await TakeAsync($"{refresh}-0004", new(DetourKind.PersonGone, "left"))).Lines[0].ShouldContain("called off");
        (await Service.SwapAsync($"{refresh}-0004")).Swap.Sign.Sign.ShouldBe("off");
    }
}
