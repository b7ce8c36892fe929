using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteMissingTests(OnSqlite service) : MissingSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresMissingTests(OnPostgres service) : MissingSuite(service), IClassFixture<OnPostgres>;

/// <summary>Computers that are stolen, lost and found, files that are missed, and persons who come another day or for another.</summary>
public abstract class MissingSuite(RunningService service) : Morning(service)
{
    private static readonly DetourTold Stolen = new(DetourKind.Stolen, "from the car") { Where = "the ferry of 9:40" };

    private Task<DetourTaken> TakeAsync(string swap, DetourTold told) => OkAsync<DetourTaken>(PostAsync($"swaps/{swap}/detours", told));

    private Task<string> NoAsync(string swap, DetourTold told, int status = 409) =>
        RefusedAsync(PostAsync($"swaps/{swap}/detours", told), status);

    private async Task<OldComputerSeen> OldAsync(string refresh, string tag) =>
        (await Kit.GetFromJsonAsync<OldComputerHistory>($"api/refreshes/{refresh}/old-computers/{tag}", RunningService.Json))!.Computer;

    private Task<HttpResponseMessage> MoveAsync(string refresh, string tag, CustodyAct act, string where) =>
        PostAsync($"refreshes/{refresh}/old-computers/{tag}/moves", new CustodyWanted(Guid.NewGuid().ToString(), act, where));

    /// <summary>Ida's files were carried and verified, but for one that could not be read.</summary>
    private async Task<(string Refresh, string Ida, HttpClient Hand)> CarriedAsync()
    {
        var refresh = await MorningAsync();
        var (ida, hand) = ($"{refresh}-0001", await Service.HandAsync(refresh, "KB-1"));
        await BookAsync(ida, "noor", 90);
        await Service.DoAsync(
            ida, "first-trip", hand,
            RunningService.Result(11, 10, new Snag("Documents/a.odt", SnagKind.Unreadable, 500, "Input/output error")));
        await Service.DoAsync(ida, "verify", hand, HandReport.Fine);
        (await Service.ClaimAsync(ida, "told", new("ticked"))).EnsureSuccessStatusCode();
        return (refresh, ida, hand);
    }

    [Fact]
    public async Task A_stolen_computer_is_shut_out_and_its_swap_goes_on_as_a_rescue_that_names_what_is_lost()
    {
        var (refresh, ida, hand) = await CarriedAsync();
        var looked = await TakeAsync(ida, Stolen with { DryRun = true });
        (await hand.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await OldAsync(refresh, "KB-1")).State.ShouldBe("in-use", "it was only looked");

        var taken = await TakeAsync(ida, Stolen);

        taken.Words.ShouldBe("KB-1 of Ida Moreau is stolen, last at the ferry of 9:40: from the car");
        taken.Lines.ShouldBe(looked.Lines, "a look says what follows");
        taken.Lines.ShouldContain("Documents/a.odt: Input/output error");
        taken.Lines.ShouldContain("KB-2, which was planned, takes its place.");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Kind, seen.Rescue!.From, seen.Swap.OpenSnags).ShouldBe((SwapKind.Rescue, ida, 0));
        seen.Swap.Appointment.ShouldNotBeNull("the time stands");
        seen.Checklist.Steps.Single(s => s.Key == "told").State.ShouldBe("open", "they were not told yet what is missing");
        var tellings = seen.FollowUps!.Where(f => f.Words.Contains("72 hours") || f.Words.Contains("police")).ToList();
        tellings.Count.ShouldBe(2);
        tellings.ShouldAllBe(f => f.Due <= Service.Now.AddHours(24));
        (await Service.OrderAsync(ida, new("top-up-trip"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        // Nothing but the finding of it is told of it, and nobody wipes it.
        var old = await OldAsync(refresh, "KB-1");
        (old.State, old.Words).ShouldBe(("missing", "Stolen; last at the ferry of 9:40"));
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Placed, "store"), 409)).ShouldContain("said to be stolen");
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Found, "store"), 422)).ShouldContain("yardline detour found");
        (await RefusedAsync(
            PostAsync($"refreshes/{refresh}/old-computers/KB-1/wipe", new WipeWanted("overwritten", "done", "seen", true)), 409))
            .ShouldContain("nobody has it to wipe it");
        (await NoAsync(ida, Stolen)).ShouldContain("noted already");
        // The files go on from the last trip.
        await Service.DoAsync(ida, "restore", await Service.HandAsync(refresh, "KB-2"), RunningService.Result(10, 10));
        (await Service.SwapAsync(ida)).Swap.Line.Single(l => l.Station == Station.Restored).At.ShouldNotBeNull();
    }

    [Fact]
    public async Task The_hand_the_codes_and_the_links_of_a_stolen_computer_count_no_more()
    {
        var (refresh, ida, hand) = await CarriedAsync();
        (await PostAsync($"refreshes/{refresh}/codes", new CodeWanted("KB-1"))).EnsureSuccessStatusCode();
        var link = await OkAsync<PersonLinkMade>(PostAsync($"swaps/{ida}/person-links", new PersonLinkWanted()));
        var browser = Service.Browser();
        var opened = new PersonLinkOpened(link.Address!.Split('#')[1]);
        (await browser.PostAsJsonAsync("api/person/session", opened, RunningService.Json)).EnsureSuccessStatusCode();
        (await browser.GetAsync("api/person")).EnsureSuccessStatusCode();
        // What is refused, and what is only looked at, ends nothing, also for a process that starts afterwards.
        (await NoAsync(ida, Stolen with { Tag = "KB-77" })).ShouldContain("no spare computer");
        await TakeAsync(ida, Stolen with { DryRun = true });
        await using (var other = Service.StartAnother())
            (await RunningService.At(other, hand).PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode
                .ShouldBe(HttpStatusCode.NoContent);

        var taken = await TakeAsync(ida, Stolen);

        taken.Lines.ShouldContain(l => l.StartsWith("The hand at KB-1 counts no more", StringComparison.Ordinal));
        (await hand.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await browser.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await Service.WithRecordsAsync(db => db.Codes.CountAsync(c => c.Tag == "KB-1" && c.Refresh == refresh && c.UsedAt == null)))
            .ShouldBe(0);
        (await RefusedAsync(PostAsync($"refreshes/{refresh}/codes", new CodeWanted("KB-1")), 409)).ShouldContain("said to be stolen");
    }

    [Fact]
    public async Task What_was_lost_before_any_trip_is_said_to_be_missing_whole()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        var taken = await TakeAsync(ida, new(DetourKind.Lost) { Disk = DiskSecrecy.Encrypted });
        taken.Words.ShouldBe("KB-1 of Ida Moreau is lost, last at North");
        taken.Lines.ShouldContain(l => l.Contains("Nothing was carried from KB-1: all of its files are missing"));
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Kind, seen.Rescue?.From).ShouldBe((SwapKind.Rescue, null));
        seen.FollowUps!.ShouldContain(f => f.Words.Contains("its disk is encrypted"));
        (await PostAsync($"swaps/{ida}/sign-offs", new SignOffWanted(Core.SignOffs.SignOffPart.Technician)))
            .StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task What_is_found_before_anything_was_restored_goes_on_as_planned_and_is_not_wiped_before_somebody_looked()
    {
        var (refresh, ida, _) = await CarriedAsync();
        await TakeAsync(ida, Stolen);
        (await NoAsync(ida, new(DetourKind.Found), 422)).ShouldContain("Say where it is");
        var found = await TakeAsync(ida, new(DetourKind.Found) { Where = "the lost property office" });
        found.Lines.ShouldContain("Snags that are open again: 1.");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Kind, seen.Rescue, seen.Swap.OpenSnags).ShouldBe((SwapKind.Renew, null, 1));
        (await OldAsync(refresh, "KB-1")).Words.ShouldBe("the lost property office");
        seen.FollowUps!.ShouldContain(f => f.Holds == FollowUpHold.Wipe && f.Words.Contains("who had KB-1"));
        await Service.DoAsync(ida, "top-up-trip", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(11, 11));
        (await NoAsync(ida, new(DetourKind.Found) { Where = "here" })).ShouldContain("nobody has said");
        (await TakeAsync(ida, Stolen)).Done.ShouldBeTrue("it can be stolen again");
    }

    [Fact]
    public async Task What_is_found_after_the_restore_stays_a_rescue()
    {
        var (refresh, ida, _) = await CarriedAsync();
        await TakeAsync(ida, Stolen);
        await Service.DoAsync(ida, "restore", await Service.HandAsync(refresh, "KB-2"), RunningService.Result(10, 10));
        var found = await TakeAsync(ida, new(DetourKind.Found) { Where = "store" });
        found.Lines.ShouldContain(l => l.StartsWith("It goes on as a rescue", StringComparison.Ordinal));
        (await Service.SwapAsync(ida)).Swap.Kind.ShouldBe(SwapKind.Rescue);
        (await OldAsync(refresh, "KB-1")).Missing.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task A_computer_that_was_to_be_set_up_afresh_is_replaced_by_a_spare_and_given_back_where_it_is_found()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        (await Service.RosterAsync(refresh, "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North,reimage,KB-1,\n"))
            .EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/spares/KB-90", new SpareWanted("North", "Gannet 14")))
            .EnsureSuccessStatusCode();
        var ida = $"{refresh}-0001";
        (await NoAsync(ida, Stolen with { Tag = "KB-77" })).ShouldContain("There are KB-90");
        await TakeAsync(ida, Stolen);
        var seen = (await Service.SwapAsync(ida)).Swap;
        (seen.Kind, seen.NewTag).ShouldBe((SwapKind.Rescue, "KB-90"));
        await TakeAsync(ida, new(DetourKind.Found) { Where = "store" });
        seen = (await Service.SwapAsync(ida)).Swap;
        (seen.Kind, seen.NewTag).ShouldBe((SwapKind.Reimage, "KB-1"));
        (await Kit.GetFromJsonAsync<List<SpareSeen>>($"api/refreshes/{refresh}/spares", RunningService.Json))!
            .ShouldContain(s => s.Key == "KB-90" && s.Trouble == null);
    }

    [Fact]
    public async Task After_the_restore_only_the_handing_in_falls_away_and_comes_back_with_the_computer()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await FinishAsync(refresh, ida, "KB-1", "KB-2");
        var taken = await TakeAsync(ida, Stolen);
        taken.Lines.ShouldContain(l => l.StartsWith("Does not apply any more: ", StringComparison.Ordinal));
        taken.Lines.ShouldNotContain(l => l.Contains("rescue"));
        var steps = (await Service.SwapAsync(ida)).Checklist.Steps.Where(s => s.Phase == "hand-in").ToList();
        steps.ShouldAllBe(s => s.State == "not-applicable");
        await TakeAsync(ida, new(DetourKind.Found) { Where = "store" });
        (await Service.SwapAsync(ida)).Checklist.Steps.Where(s => s.Phase == "hand-in").ShouldAllBe(s => s.State == "open");
    }

    [Fact]
    public async Task Who_wants_it_later_has_no_time_before_the_day_they_named()
    {
        var (refresh, ida, _) = await CarriedAsync();
        (await NoAsync(ida, new(DetourKind.Later), 422)).ShouldContain("From which day");
        (await NoAsync(ida, new(DetourKind.Later) { From = DrivenClock.Today }, 422)).ShouldContain("not after today");
        (await NoAsync(ida, new(DetourKind.Later) { From = DrivenClock.Today.AddDays(400) }, 422)).ShouldContain("The refresh ends");
        var from = DrivenClock.Today.AddDays(2);
        await TakeAsync(ida, new(DetourKind.Later, "is on a course") { From = from });
        var seen = await Service.SwapAsync(ida);
        DateOnly.FromDateTime(seen.Swap.Appointment!.Start.UtcDateTime).ShouldBeGreaterThanOrEqualTo(from);
        // Neither a roster that is taken again nor a plan that is made anew takes it back.
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        DateOnly.FromDateTime((await Service.SwapAsync(ida)).Swap.Appointment!.Start.UtcDateTime).ShouldBeGreaterThanOrEqualTo(from);
    }

    [Fact]
    public async Task Who_came_for_another_is_named_and_has_their_time_where_that_can_be()
    {
        var (refresh, ida, _) = await CarriedAsync();
        var una = $"{refresh}-0004";
        await BookAsync(ida, "noor", -15);
        await BookAsync(una, "noor", 180);
        foreach (var number in new[] { 2, 3 }) await BookAsync($"{refresh}-000{number}", "vera", (24 * 60) + (number * 120));
        var theirs = (await Service.SwapAsync(una)).Swap.Appointment!.Start;
        (await NoAsync(ida, new(DetourKind.WrongPerson) { Other = ida }, 422)).ShouldContain("That is the swap of Ida Moreau");
        (await NoAsync(ida, new(DetourKind.WrongPerson) { Other = $"{refresh}-0009" }, 404)).ShouldContain("0009");
        var told = await TakeAsync(ida, new(DetourKind.WrongPerson) { Other = una });
        told.Words.ShouldBe("Una Berg came to the desk instead of Ida Moreau");
        told.Lines.ShouldContain(l => l.StartsWith("Ticked today for Ida Moreau", StringComparison.Ordinal));
        (await Service.SwapAsync(una)).Swap.Appointment!.Start.ShouldBe(theirs);
        await TakeAsync(ida, new(DetourKind.WrongPerson, Exchange: true) { Other = una });
        (await Service.SwapAsync(ida)).Swap.Appointment!.Start.ShouldBe(theirs);
        (await Service.SwapAsync(una)).Swap.Appointment!.Start.ShouldBeLessThan(Service.Now.AddHours(1));
    }

    [Fact]
    public async Task A_technician_of_one_site_names_nobody_of_another()
    {
        var (refresh, _, _) = await CarriedAsync();
        await BookAsync($"{refresh}-0002", "theo", 60);
        var theo = await Service.AsAsync("theo");
        (await RefusedAsync(
            theo.PostAsJsonAsync(
                $"api/swaps/{refresh}-0002/detours", new DetourTold(DetourKind.WrongPerson) { Other = $"{refresh}-0001" },
                RunningService.Json),
            404)).ShouldNotContain("Ida");
    }

    [Fact]
    public async Task While_files_are_missed_their_parcel_is_not_purged_and_the_old_computer_not_wiped()
    {
        var (refresh, ida, _) = await CarriedAsync();
        (await NoAsync(ida, new(DetourKind.FilesMissed, "the tide tables"))).ShouldContain("has not come so far");
        await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == ida)
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.SwappedAt, Service.Now)));
        (await NoAsync(ida, new(DetourKind.FilesMissed), 422)).ShouldContain("Which files are missed");
        var taken = await TakeAsync(ida, new(DetourKind.FilesMissed, "the tide tables"));
        taken.Lines.ShouldContain(l => l.Contains("is not purged while this is open"));
        taken.Lines.ShouldContain(l => l.StartsWith("KB-1 is not wiped", StringComparison.Ordinal));
        (await OldAsync(refresh, "KB-1")).Missing.ShouldContain(m => m.Contains("the tide tables"));
        var parcel = (await Service.SwapAsync(ida)).Parcel!.Name;
        (await RefusedAsync(PostAsync($"swaps/{ida}/orders", new OrderWanted("purge", Confirm: parcel)), 409))
            .ShouldContain("misses files");
    }
}
