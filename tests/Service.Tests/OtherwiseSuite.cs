using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
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

    [Fact]
    public async Task Who_is_not_there_or_late_gets_another_time_and_nobody_else_is_moved()
    {
        var refresh = await MorningAsync();
        var (ida, sol) = ($"{refresh}-0001", $"{refresh}-0002");
        await BookAsync(ida, "noor", 60);
        (await NoAsync(ida, new(DetourKind.NoShow))).ShouldContain("has not begun");
        await BookAsync(ida, "noor", -15);
        await BookAsync(sol, "noor", 90);
        async Task<List<(string Swap, string? Technician, DateTimeOffset? Start)>> OthersAsync() =>
            [.. (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Items
                .Where(s => s.Id != ida)
                .OrderBy(s => s.Id, StringComparer.Ordinal)
                .Select(s => (s.Id, s.Appointment?.Technician, s.Appointment?.Start))];
        var others = await OthersAsync();

        // Late: the same day, with whoever has it, where there is room between what others were told.
        var was = (await Service.SwapAsync(ida)).Swap.Appointment!.Start;
        var looked = await TakeAsync(ida, new(DetourKind.Late, Minutes: 40, DryRun: true));
        (looked.Done, (await Service.SwapAsync(ida)).Swap.Appointment!.Start).ShouldBe((false, was));
        var late = await TakeAsync(ida, new(DetourKind.Late, "the ferry was late", Minutes: 40));
        late.Lines.ShouldContain(l => l.Contains("Nobody else is moved"));
        var moved = (await Service.SwapAsync(ida)).Swap.Appointment!;
        (moved.Technician, moved.Start >= was.AddMinutes(40)).ShouldBe(("noor", true));
        (await OthersAsync()).ShouldBe(others);

        // Not there: the time is free, the count stays, and who is to find another one is named.
        await BookAsync(ida, "noor", -15);
        var gone = await TakeAsync(ida, new(DetourKind.NoShow));
        gone.Words.ShouldStartWith("Ida Moreau was not there on");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Appointment, seen.Swap.Sign.Sign).ShouldBe((null, "wants"));
        seen.Swap.Sign.Words.ShouldContain("was not there");
        seen.FollowUps!.Single().Words.ShouldContain("Find another time with Ida Moreau");
        seen.Detours!.Select(d => d.Kind).ShouldBe([DetourKind.NoShow, DetourKind.Late]);
        await BookAsync(ida, "noor", -15);
        var again = await TakeAsync(ida, new(DetourKind.NoShow, Soonest: true));
        again.Words.ShouldContain("for the second time");
        (await Service.SwapAsync(ida)).Swap.Appointment!.Start.ShouldBeGreaterThan(Service.Now.AddHours(4), "not today any more");
        (await OthersAsync()).ShouldBe(others);
        (await Service.AsAsync("theo")).ShouldNotBeNull();
        (await RefusedAsync(
            (await Service.AsAsync("theo")).PostAsJsonAsync(
                $"api/swaps/{ida}/detours", new DetourTold(DetourKind.NoShow), RunningService.Json),
            403))
            .ShouldContain("not one of your sites");
    }

    [Fact]
    public async Task Another_new_computer_is_exchanged_or_taken_and_what_was_done_to_the_first_is_done_again()
    {
        var refresh = await MorningAsync();
        var (ida, una) = ($"{refresh}-0001", $"{refresh}-0004");
        (await Service.ClaimAsync(ida, "new-tag", new("scanned", "KB-2"))).EnsureSuccessStatusCode();
        await Service.WorkAsync(ida, s => s.Key == "updates");
        (await Service.ClaimAsync(ida, "told", new("ticked"))).EnsureSuccessStatusCode();
        (await NoAsync(ida, new(DetourKind.WrongComputer, Tag: "KB-8"))).ShouldContain("meant for Una Berg");
        (await NoAsync(ida, new(DetourKind.WrongComputer, Tag: "kb-3"), 422)).ShouldContain("old computer, of Sol Okafor");
        (await NoAsync(ida, new(DetourKind.WrongComputer, Tag: "KB-2"), 422)).ShouldContain("is the computer that was planned");
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/detours", new DetourTold(DetourKind.WrongComputer)), 422);

        var taken = await TakeAsync(ida, new(DetourKind.WrongComputer, Tag: "kb-8", Exchange: true));
        taken.Lines[0].ShouldBe("Ida Moreau gets KB-8, Una Berg gets KB-2.");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.NewTag, (await Service.SwapAsync(una)).Swap.NewTag).ShouldBe(("KB-8", "KB-2"));
        string StateOf(string key) => seen.Checklist.Steps.Single(s => s.Key == key).State;
        (StateOf("told"), StateOf("new-tag"), StateOf("updates")).ShouldBe(
            ("done", "open", "open"), "what was done to the other computer says nothing about this one");
        (await Service.ClaimAsync(ida, "new-tag", new("scanned", "KB-2"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        // One that nobody had listed is taken; the one that did not come is looked for.
        await TakeAsync(ida, new(DetourKind.WrongComputer, Tag: "KB-99"));
        (await Service.SwapAsync(ida)).Swap.NewTag.ShouldBe("KB-99");
        (await SparesAsync(refresh)).Single().ShouldSatisfyAllConditions(
            s => s.Key.ShouldBe("KB-8"), s => s.Trouble!.ShouldContain("look for it"));
        // A roster taken again still says what was planned; what happened stays.
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        (await Service.SwapAsync(ida)).Swap.NewTag.ShouldBe("KB-99");
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

    [Fact]
    public async Task When_the_old_disk_dies_the_swap_goes_on_from_the_last_good_trip_and_says_what_is_missing()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        (await NoAsync(ida, new(DetourKind.OldDiskDied))).ShouldContain("no trip of KB-1 ever ended");
        await Service.DoAsync(ida, "first-trip", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 10));
        await Service.DoAsync(ida, "verify", await Service.HandAsync(refresh, "KB-1"), HandReport.Fine);
        await Service.DoAsync(
            ida,
            "closing-trip",
            await Service.HandAsync(refresh, "KB-1"),
            RunningService.Result(
                12,
                10,
                new("Documents/a.odt", SnagKind.Unreadable, 500, "Input/output error"),
                new("Documents/b.odt", SnagKind.Unreadable, 700, "Input/output error")));
        await Service.DoAsync(ida, "verify", await Service.HandAsync(refresh, "KB-1"), HandReport.Fine);
        (await PostAsync($"swaps/{ida}/orders", new OrderWanted("closing-trip"))).EnsureSuccessStatusCode();

        var taken = await TakeAsync(ida, new(DetourKind.OldDiskDied, "it clicks"));
        taken.Words.ShouldBe("The disk of KB-1 died: it clicks");
        taken.Lines.ShouldContain("Closing trip at KB-1 is withdrawn.");
        taken.Lines.ShouldContain(l => l.StartsWith("What there is, is trip 2 of", StringComparison.Ordinal) && l.Contains("10 files"));
        taken.Lines.ShouldContain("Documents/b.odt: Input/output error");
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Kind, seen.Rescue!.From, seen.Swap.OpenSnags).ShouldBe((SwapKind.Rescue, ida, 0));
        seen.Snags.ShouldAllBe(n => n.End == "waived" && n.EndReason!.Contains("old disk died"));
        seen.Checklist.Steps.ShouldContain(s => s.Key == "missing-named", "whoever does a rescue names what is missing");
        seen.FollowUps!.Single().Holds.ShouldBe(Core.FollowUps.FollowUpHold.SignOff);
        (await RefusedAsync(PostAsync($"swaps/{ida}/orders", new OrderWanted("top-up-trip")), 409)).ShouldContain("disk of KB-1 died");
        await Service.DoAsync(ida, "restore", await Service.HandAsync(refresh, "KB-2"), RunningService.Result(10, 10));
        (await Service.SwapAsync(ida)).Swap.Line.Single(l => l.Station == Station.Restored).At.ShouldNotBeNull();
        (await NoAsync(ida, new(DetourKind.OldDiskDied))).ShouldContain("noted already");
    }

    [Fact]
    public async Task A_swap_called_off_waits_for_nothing_gives_its_computer_back_and_can_be_resumed()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await ModelAsync(ida, "Gannet 14");
        await Service.DoAsync(ida, "first-trip", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 10));
        (await RefusedAsync(
            (await Service.AsAsync("noor")).PostAsJsonAsync(
                $"api/swaps/{ida}/detours", new DetourTold(DetourKind.CalledOff, "no"), RunningService.Json),
            403))
            .ShouldContain("coordinator");
        var taken = await TakeAsync(ida, new(DetourKind.CalledOff, "the department moves"));
        taken.Lines.ShouldContain("KB-2 is a spare from now on.");
        var seen = await Service.SwapAsync(ida);
        (
            seen.Swap.Sign.Sign,
            seen.Swap.Sign.Words,
            seen.Swap.Appointment,
            seen.Swap.NewTag,
            seen.Swap.IsBusy).ShouldBe(("off", "Called off: the department moves", null, null, false));
        seen.MayDetour.ShouldBe([DetourKind.Resumed]);
        (await Kit.GetFromJsonAsync<YardSeen>($"api/refreshes/{refresh}/yard", RunningService.Json))!.Swaps.ShouldBe(3);
        (await RefusedAsync(PostAsync($"swaps/{ida}/orders", new OrderWanted("top-up-trip")), 409)).ShouldContain("called off");
        (await RunningService.ProblemAsync(await Service.ClaimAsync(ida, "told", new("ticked")), 409))["detail"]!.GetValue<string>()
            .ShouldContain("Resume it first");
        (await Service.PublishAsync(refresh, new(Steps: 0))).Appointments.ShouldNotContain(a => a.Swap == ida);
        seen.Parcel!.Hold.Until.ShouldNotBeNull("what was carried is held from the day on which it was called off");

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

    [Fact]
    public async Task Somebody_comes_back_at_the_first_time_that_fits_and_later_plans_keep_it()
    {
        var refresh = await MorningAsync();
        var (ida, sol) = ($"{refresh}-0001", $"{refresh}-0002");
        await BookAsync(ida, "noor", -90);
        (await Service.ClaimAsync(ida, "swapped", new("ticked"))).EnsureSuccessStatusCode();
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/follow-ups", new FollowUpWanted("printer", VisitMinutes: 2)), 422);
        await BookAsync(sol, "noor", 30);
        var opened = await OkAsync<FollowUpSeen>((await Service.AsAsync("noor")).PostAsJsonAsync(
                $"api/swaps/{ida}/follow-ups", new FollowUpWanted("The second screen stays dark", VisitMinutes: 25)));
        var visit = opened.Visit.ShouldNotBeNull();
        (visit.Technician, visit.End - visit.Start).ShouldBe(("Noor", TimeSpan.FromMinutes(30)));
        (await RefusedAsync(PostAsync($"swaps/{ida}/follow-ups", new FollowUpWanted("another", VisitMinutes: 25)), 409))
            .ShouldContain("second screen");
        var turn = (await RoundAsync(refresh, "noor")).Turns.Single(t => t.Part == "return");
        (turn.Swap, turn.Promised, turn.Words).ShouldBe((ida, visit.Start, "The second screen stays dark"));

        var plan = await Service.PublishAsync(refresh, new(Steps: 2000));
        plan.Appointments.Single(a => a.Swap == $"{ida}/return")
            .ShouldSatisfyAllConditions(a => a.Start.ShouldBe(visit.Start!.Value), a => a.Technician.ShouldBe("noor"));
        plan.Appointments.ShouldNotContain(
            a => a.Technician == "noor" && a.Swap != $"{ida}/return" && a.Start < visit.End && a.HandsOnUntil > visit.Start,
            "hands are at one desk at a time");
        (await (await Kit.GetAsync($"api/refreshes/{refresh}/plan/export?form=ics")).Content.ReadAsStringAsync())
            .ShouldContain("return visit");
        await OkAsync<FollowUpSeen>(PostAsync($"follow-ups/{opened.Id}/end", new FollowUpEnd("another cable")));
        (await Service.PublishAsync(refresh, new(Steps: 0))).Appointments.ShouldNotContain(a => a.Swap == $"{ida}/return");
        (await RoundAsync(refresh, "noor")).Turns.ShouldNotContain(t => t.Part == "return");
    }

    private const string Facts = """
        name: Facts and photos
        kinds: [renew]
        steps:
          - { key: desk, phase: swap, title: The desk as it was, kind: photo }
          - { key: programs, phase: after, title: Programs are there, kind: automatic, fact: programs-found, programs: ["Tide*", Mail] }
          - { key: room, phase: after, title: Room enough, kind: automatic, fact: free-disk, least: 20 }
          - { key: account, phase: after, title: The account is closed, kind: automatic, fact: account-closed }
          - { key: swapped, phase: swap, title: Swapped, kind: tick, marks: swapped, on: new }
          - { key: out, phase: hand-in, title: Signed out, kind: automatic, fact: signed-out }
          - { key: mac, phase: after, title: Only at a Mac, kind: tick, when: { new-platform: mac } }
          - { key: deck, phase: after, title: Only for deck hands, kind: tick, when: { role: "Deck*" } }
        """;

    private async Task<string> WithFactsAsync()
    {
        var refresh = await MorningAsync();
        (await PostAsync($"refreshes/{refresh}/templates", new { yaml = Facts })).EnsureSuccessStatusCode();
        await OkAsync<ChecklistMoved>(PostAsync($"swaps/{refresh}-0001/checklist/version", new ChecklistMove("Facts and photos")));
        return refresh;
    }

    [Fact]
    public async Task Automatic_steps_see_programs_room_the_account_and_that_the_cloud_is_left()
    {
        var refresh = await WithFactsAsync();
        var ida = $"{refresh}-0001";
        async Task<string> StateAsync(string key) => (await Service.SwapAsync(ida)).Checklist.Steps.Single(s => s.Key == key).State;
        HandReport Survey(string program, long free, bool cloud) =>
            new(
                [],
                [],
                Survey: new(
                    new(
                        [.. cloud
                            ? new[]
                            {
                                new Core.Carrying.Inventories.PlaceFound(
                                    "ida", "", Core.Carrying.Inventories.PlaceKind.Cloud, "c", "Cloud", "Cloud", new(1, 1), default, null)
                            }
                            : []],
                        [new("Mail", "3", "dpkg"), new(program, "1", "dpkg")],
                        [],
                        Core.Carrying.Inventories.HomePlatform.Linux),
                    0,
                    100_000_000_000,
                    free));
        var (oldHand, newHand) = (await Service.HandAsync(refresh, "KB-1"), await Service.HandAsync(refresh, "KB-2"));
        await Service.DoAsync(ida, "survey-new", newHand, Survey("Ledger", 5_000_000_000, false));
        (await StateAsync("programs"), await StateAsync("room")).ShouldBe(("open", "open"));
        await Service.DoAsync(ida, "survey-new", newHand, Survey("Tide tables", 25_000_000_000, false));
        (
            await StateAsync("programs"),
            await StateAsync("room"),
            await StateAsync("account"),
            await StateAsync("out")).ShouldBe(("done", "done", "open", "open"));
        await Service.DoAsync(
            ida,
            "survey",
            oldHand,
            Survey("Mail", 1, false) with { Folders = [new("Documents", new(10, 20_000_000_000), default, default)] });
        async Task<CarryReview> ReviewAsync() =>
            (await Kit.GetFromJsonAsync<CarryListSeen>($"api/swaps/{ida}/carry-list", RunningService.Json))!.Review;
        (await ReviewAsync()).ShouldSatisfyAllConditions(r => r.Fits.ShouldBeTrue(), r =>
            r.Words.ShouldEndWith("The new computer KB-2 has 25 GB free."));
        await Service.WithRecordsAsync(db =>
            db.Folders.Where(f => f.Swap == ida).ExecuteUpdateAsync(u => u.SetProperty(f => f.OldBytes, 30_000_000_000L)));
        (await ReviewAsync()).ShouldSatisfyAllConditions(r => r.Fits.ShouldBeFalse(), r =>
            r.Words.ShouldContain("has only 25 GB free. Leave something out"));
        (await Service.SwapAsync(ida)).Checklist.Steps.Single(s => s.Key == "programs").Expects.ShouldBe("Tide*, Mail");

        await Service.DoAsync(ida, "first-trip", oldHand, RunningService.Result(10, 10));
        await Service.DoAsync(ida, "verify", oldHand, HandReport.Fine);
        await Service.DoAsync(ida, "restore", newHand, RunningService.Result(10, 10));
        (await StateAsync("account")).ShouldBe("done");
        await Service.DoAsync(ida, "survey", oldHand, Survey("Mail", 1, false));
        (await StateAsync("out")).ShouldBe("open", "before the change it says nothing");
        (await Service.ClaimAsync(ida, "swapped", new("ticked"))).EnsureSuccessStatusCode();
        await Service.DoAsync(ida, "survey", oldHand, Survey("Mail", 1, cloud: true));
        (await StateAsync("out")).ShouldBe("open");
        await Service.DoAsync(ida, "survey", oldHand, Survey("Mail", 1, cloud: false));
        (await StateAsync("out")).ShouldBe("done");
        (await Service.SwapAsync(ida)).Checklist.Steps.ShouldNotContain(s => s.Key == "mac" || s.Key == "deck");
        (await Service.RosterAsync(
            refresh,
            "person,name,site,kind,old_tag,new_tag,role,New OS\n"
                + "k1,Ida Moreau,North,renew,KB-1,KB-2,Deck officer,macOS 26\n")).EnsureSuccessStatusCode();
        (await Service.SwapAsync(ida)).Checklist.Steps.Count(s => s.Key is "mac" or "deck").ShouldBe(2);
    }

    private async Task<HttpResponseMessage> PhotoAsync(string swap, byte[] content, HttpClient? who = null)
    {
        var version = (await Service.SwapAsync(swap)).Checklist.Version;
        using var request = new HttpRequestMessage(
            HttpMethod.Put, $"api/swaps/{swap}/checklist/steps/desk/photo")
        { Content = new ByteArrayContent(content) };
        request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{version}\""));
        return await (who ?? Kit).SendAsync(request);
    }

    [Fact]
    public async Task A_photo_is_kept_by_its_digest_and_a_bad_one_is_refused_in_words()
    {
        var refresh = await WithFactsAsync();
        var ida = $"{refresh}-0001";
        async Task<string> BadAsync(byte[] content) =>
            (await RunningService.ProblemAsync(await PhotoAsync(ida, content), 422))["detail"]!.GetValue<string>();
        (await BadAsync([])).ShouldContain("0 bytes");
        (await BadAsync("<svg onload=alert(1)>"u8.ToArray())).ShouldContain("JPEG, PNG or WebP");
        (await BadAsync(new byte[40_000_000])).ShouldContain("40 MB; at most 12 MB");
        (await BadAsync([0xFF, 0xD8, 0xFF, 0xE0, 0x00])).ShouldContain("whole");
        (await Service.SwapAsync(ida)).Checklist.Steps.Single(s => s.Key == "desk").State.ShouldBe("open");

        var picture = Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");
        (await PhotoAsync(ida, picture)).EnsureSuccessStatusCode();
        var step = (await Service.SwapAsync(ida)).Checklist.Steps.Single(s => s.Key == "desk");
        (step.State, step.Value).ShouldBe(("done", Convert.ToHexStringLower(SHA256.HashData(picture))));
        var version = (await Service.SwapAsync(ida)).Checklist.Version;
        (await PhotoAsync(ida, picture)).EnsureSuccessStatusCode();
        (await Service.SwapAsync(ida)).Checklist.Version.ShouldBe(version + 1, "claimed once more by somebody, at another time");
        var back = await Kit.GetAsync($"api/swaps/{ida}/photos/{step.Value}");
        (
            back.Content.Headers.ContentType!.MediaType,
            back.Headers.GetValues("X-Content-Type-Options").Single()).ShouldBe(("image/png", "nosniff"));
        (await back.Content.ReadAsByteArrayAsync()).ShouldBe(picture);
        (await Service.ClaimAsync(ida, "desk", new("ticked"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Kit.GetAsync($"api/swaps/{refresh}-0002/photos/{step.Value}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await (await Service.AsAsync("theo")).GetAsync($"api/swaps/{ida}/photos/{step.Value}")).StatusCode
            .ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task What_is_needed_first_is_said_to_be_there_while_the_rest_still_comes()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await Service.DoAsync(ida, "first-trip", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 10));
        await Service.DoAsync(ida, "verify", await Service.HandAsync(refresh, "KB-1"), HandReport.Fine);
        (await Kit.PutAsJsonAsync(
            $"api/swaps/{ida}/landing",
            new LandingWanted([], [], ["Documents"], "beside", []),
            RunningService.Json)).EnsureSuccessStatusCode();
        (await PostAsync($"swaps/{ida}/orders", new OrderWanted("restore"))).EnsureSuccessStatusCode();
        var hand = await Service.HandAsync(refresh, "KB-2");
        var order = await RunningService.TakeAsync(hand);
        async Task<string> WordsAsync(int number, bool? first)
        {
            (await hand.PostAsJsonAsync(
                $"api/hand/orders/{order.Id}/reports/{number}",
                new OrderReport(order.Attempt, Service.Now, new(number, 10, number, 10, 1, first), null),
                RunningService.Json)).EnsureSuccessStatusCode();
            return (await Service.SwapAsync(ida)).Swap.Sign.Words;
        }
        (await WordsAsync(1, null), await WordsAsync(2, true), await WordsAsync(3, true)).ShouldBe((
            "Restore", "Restore: what is needed first is there", "Restore: what is needed first is there"));
        (await Service.SwapAsync(ida)).History.Count(h => h.Kind == "swap.first-ready").ShouldBe(1);
    }

    [Fact]
    public async Task Real_lengths_come_from_the_times_of_steps_and_stand_beside_what_is_set()
    {
        var refresh = await MorningAsync();
        var at = Service.Now.AddHours(-5);
        var lengths = new[] { (12, 70, 20), (18, 90, 25), (30, 60, 40) };
        await Service.WithRecordsAsync(async db =>
        {
            foreach (var ((before, alone, after), n) in lengths.Select((l, i) => (l, i)))
            {
                var id = $"{refresh}-000{new[] { 1, 2, 4 }[n]}";
                var swap = await db.Swaps.FirstAsync(s => s.Id == id);
                (swap.NewModel, swap.SwappedAt, swap.RestoredAt) = ("Gannet 14", at.AddMinutes(before), at.AddMinutes(before + alone));
                swap.AcceptedAt = at.AddMinutes(before + alone + 7 + after);
                db.Steps.Add(new() { Swap = id, Key = "updates", State = "done", By = "noor", At = at.AddHours(-20) });
                db.Steps.Add(new() { Swap = id, Key = "old-tag", State = "done", By = "noor", At = at });
                db.Steps.Add(new()
                {
                    Swap = id,
                    Key = "restarted",
                    State = "done",
                    By = "noor",
                    StartedAt = at.AddMinutes(before + alone + 7),
                    At = at.AddMinutes(before + alone + 12)
                });
            }
            return await db.SaveChangesAsync();
        });
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/estimates/kind/renew", new EstimateWanted(10, 60, 15, null))).EnsureSuccessStatusCode();
        var real = (await Kit.GetFromJsonAsync<List<RealLength>>($"api/refreshes/{refresh}/lengths", RunningService.Json))!;
        real.Select(l => (l.Of, l.Swaps, l.BeforeMinutes, l.UnattendedMinutes, l.AfterMinutes))
            .ShouldBe([("Gannet 14", 3, 18, 70, 25), ("renew", 3, 18, 70, 25)]);
        (real[0].Rule, real[1].Rule!.BeforeMinutes).ShouldBe((null, 10));
    }
}
