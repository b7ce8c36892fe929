using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteDayTests(OnSqlite service) : DaySuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresDayTests(OnPostgres service) : DaySuite(service), IClassFixture<OnPostgres>;

/// <summary>The day of the swap: rounds, handovers, follow-ups, the person's signature, the old computer's end.</summary>
public abstract class DaySuite(RunningService service) : Morning(service)
{
    [Fact]
    public async Task A_round_follows_the_facts_and_calls_back_when_an_unattended_part_is_over()
    {
        var refresh = await MorningAsync();
        var (ida, sol) = ($"{refresh}-0001", $"{refresh}-0002");
        foreach (var other in new[] { 3, 4 }) await BookAsync($"{refresh}-000{other}", "vera", 100);
        await BookAsync(ida, "noor", 0);
        await BookAsync(sol, "noor", 30);
        var round = await RoundAsync(refresh, "noor");
        round.Turns.Select(t => (t.Swap, t.Part)).ShouldBe([(ida, "first"), (sol, "first"), (ida, "back"), (sol, "back")]);
        (round.Turns[0].StepTitle, round.Alone.Count).ShouldBe((
            (await Service.SwapAsync(ida)).Checklist.Steps.First(s => s.State == "open" && s.Kind != "automatic").Title, 0));

        // Begun, it is in hand; with an order under way hands are free; when that ends, it calls.
        await Service.WorkAsync(ida, s => s.Phase is "before" or "swap" && s.Key is not "swapped");
        (await RoundAsync(refresh, "noor")).Turns[0].ShouldSatisfyAllConditions(t => t.Swap.ShouldBe(ida), t => t.Part.ShouldBe("go-on"));
        var hand = await Service.HandAsync(refresh, "KB-1");
        (await PostAsync($"swaps/{ida}/orders", new OrderWanted("first-trip"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        round = await RoundAsync(refresh, "noor");
        (round.Alone.Single().Swap, round.Turns[0].Swap).ShouldBe((ida, sol));
        (await Service.EndAsync(hand, order, RunningService.Result(10, 10))).EnsureSuccessStatusCode();
        await Service.DoAsync(ida, "verify", hand, HandReport.Fine);
        round = await RoundAsync(refresh, "noor");
        (round.Turns[0].Swap, round.Turns[0].Part, round.Alone.Count).ShouldBe((ida, "back", 0));
        round.Turns[0].Words.ShouldContain("over");
        (await RefusedAsync(Kit.GetAsync($"api/refreshes/{refresh}/round"), 404)).ShouldContain("'kit' is no technician");
    }

    [Fact]
    public async Task A_swap_is_handed_over_with_a_note_to_somebody_who_can_and_clashes_are_told()
    {
        var refresh = await MorningAsync();
        var (ida, sol) = ($"{refresh}-0001", $"{refresh}-0002");
        await BookAsync(ida, "noor", 30);
        await BookAsync(sol, "vera", 30);
        foreach (var other in new[] { 3, 4 }) await BookAsync($"{refresh}-000{other}", "theo", 300);
        (await RefusedAsync(PostAsync($"swaps/{ida}/handovers", new HandoverWanted("theo", "please")), 409)).ShouldContain("North");
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/handovers", new HandoverWanted("vera", " ")), 422);
        await RunningService.ProblemAsync(await PostAsync($"swaps/{ida}/handovers", new HandoverWanted("noor", "again")), 409);
        var noor = await Service.AsAsync("noor");
        var passed = await OkAsync<HandoverSeen>(noor.PostAsJsonAsync(
            $"api/swaps/{ida}/handovers", new HandoverWanted("vera", "the printer cable is in my bag")));
        (passed.From, passed.To, passed.By, passed.Clashes.Single()).ShouldSatisfyAllConditions(
            p => p.Item1.ShouldBe("Noor"), p => p.Item2.ShouldBe("Vera"), p => p.Item3.ShouldBe("noor"),
            p => p.Item4.ShouldContain("Sol Okafor"));
        var seen = await Service.SwapAsync(ida);
        (seen.Swap.Appointment!.Technician, seen.Handover!.Note).ShouldBe(("vera", "the printer cable is in my bag"));
        seen.History[0].Words.ShouldContain("printer cable");
        (await RoundAsync(refresh, "noor")).Turns.ShouldBeEmpty();
        (await RoundAsync(refresh, "vera")).Turns.Count.ShouldBe(4);
    }

    [Fact]
    public async Task A_whole_day_goes_to_colleagues_by_the_engine_and_a_look_changes_nothing()
    {
        var refresh = await MorningAsync();
        for (var n = 1; n <= 4; n++) await BookAsync($"{refresh}-000{n}", "noor", n == 1 ? -15 : 60 + (15 * n));
        (await Service.ClaimAsync($"{refresh}-0001", "swapped", new("ticked"))).EnsureSuccessStatusCode();
        async Task<List<(string, DateTimeOffset?)>> StandsAsync() =>
            [.. (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Items
                .OrderBy(s => s.Id, StringComparer.Ordinal)
                .Select(s => (s.Appointment?.Technician ?? "", s.Appointment?.Start))];
        var before = await StandsAsync();
        var wanted = new DayHandoverWanted(["vera", "theo"], "gone home ill", DryRun: true);
        var looked = await OkAsync<DayHandoverSeen>(PostAsync($"refreshes/{refresh}/technicians/noor/day-handover", wanted));
        (looked.Done, looked.Swaps.Count).ShouldBe((false, 4));
        (await StandsAsync()).ShouldBe(before);
        (await RefusedAsync(
            (await Service.AsAsync("theo")).PostAsJsonAsync($"api/refreshes/{refresh}/technicians/noor/day-handover", wanted), 403))
            .ShouldContain("own day");
        await RunningService.ProblemAsync(
            await PostAsync($"refreshes/{refresh}/technicians/noor/day-handover", wanted with { To = ["noor"] }), 404);

        var done = await OkAsync<DayHandoverSeen>((await Service.AsAsync("noor"))
                .PostAsJsonAsync($"api/refreshes/{refresh}/technicians/noor/day-handover", wanted with { DryRun = false }));
        done.Swaps.Select(s => (s.Swap, s.To, s.Start)).ShouldBe(looked.Swaps.Select(s => (s.Swap, s.To, s.Start)));
        done.Swaps.ShouldAllBe(s => s.To != null);
        done.Swaps[0].Start.ShouldBe(before[0].Item2, "what is under way goes on where it is");
        var after = await StandsAsync();
        after.ShouldAllBe(a => a.Item1 == "vera" || a.Item1 == "theo");
        // Theo serves the South only, and nobody has two pairs of hands.
        foreach (var n in new[] { 0, 2, 3 }) after[n].Item1.ShouldBe("vera");
        var vera = (await Kit.GetFromJsonAsync<Page<SwapListed>>(
            $"api/refreshes/{refresh}/swaps?technician=vera", RunningService.Json))!.Items
            .Select(s => s.Appointment!)
            .Where(a => a.Start > Service.Now).ToList();
        var parts = vera.SelectMany(a => new[] { (a.Start, End: a.HandsOnUntil), (Start: a.Finish, a.End) }).OrderBy(p => p.Start).ToList();
        for (var i = 1; i < parts.Count; i++) parts[i].Start.ShouldBeGreaterThanOrEqualTo(parts[i - 1].End);
        (await RefusedAsync(PostAsync($"refreshes/{refresh}/technicians/noor/day-handover", wanted), 409)).ShouldContain("nothing left");
        // The next plan goes on from there: nobody is moved back.
        await Service.PublishAsync(refresh, new(Steps: 50));
        (await StandsAsync()).Select(s => s.Item1).ShouldBe(after.Select(s => s.Item1));
    }

    [Fact]
    public async Task A_follow_up_has_an_owner_and_a_time_and_holds_what_it_says_until_it_is_ended()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        await FinishAsync(refresh, swap, "KB-1", "KB-2");
        await RunningService.ProblemAsync(await PostAsync($"swaps/{swap}/follow-ups", new FollowUpWanted("call", "nobody")), 422);
        var person = await Service.AccountAsync($"p{refresh}", "person");
        await RunningService.ProblemAsync(await PostAsync($"swaps/{swap}/follow-ups", new FollowUpWanted("call", $"p{refresh}")), 422);
        var open = await OkAsync<FollowUpSeen>(PostAsync(
                $"swaps/{swap}/follow-ups",
                new FollowUpWanted("Printer does not answer", "noor", Service.Now.AddHours(-1), FollowUpHold.SignOff)));
        (await RefusedAsync(PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician)), 409))
            .ShouldContain("Printer does not answer (noor)");
        (await Kit.GetFromJsonAsync<List<FollowUpSeen>>($"api/refreshes/{refresh}/follow-ups?owner=noor", RunningService.Json))!.Single().Id
            .ShouldBe(open.Id);
        (await Kit.GetFromJsonAsync<DaySeen>($"api/refreshes/{refresh}/today", RunningService.Json))!.Needs
            .ShouldContain(n => n.Words.Contains("Printer", StringComparison.Ordinal));
        (await OkAsync<FollowUpSeen>(Kit.PutAsJsonAsync(
            $"api/follow-ups/{open.Id}", new FollowUpChange(Owner: "vera"), RunningService.Json))).Owner
            .ShouldBe("vera");
        for (var again = 0; again < 2; again++)
            (await OkAsync<FollowUpSeen>(PostAsync($"follow-ups/{open.Id}/end", new FollowUpEnd("new cable")))).Outcome
                .ShouldBe("new cable");
        (await RefusedAsync(Kit.PutAsJsonAsync($"api/follow-ups/{open.Id}", new FollowUpChange(Owner: "noor")), 409))
            .ShouldContain("new cable");
        (await PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician))).EnsureSuccessStatusCode();
        (await Service.SwapAsync(swap)).History.Count(h => h.Kind == "follow-up.done").ShouldBe(1);
    }

    [Fact]
    public async Task A_person_signs_on_the_technicians_device_with_name_and_strokes_or_says_what_is_missing()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        (await RefusedAsync(PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Person, Name: "Ida Moreau")), 409))
            .ShouldContain("not staged");
        await FinishAsync(refresh, swap, "KB-1", "KB-2");
        (await Service.ClaimAsync(swap, "looked", new("reopened"))).EnsureSuccessStatusCode();
        var refused = await OkAsync<FollowUpSeen>(PostAsync($"swaps/{swap}/refusal", new RefusalWanted("the tide tables are not there")));
        (refused.Cause, refused.Holds).ShouldBe(("refusal", FollowUpHold.SignOff));
        (await RefusedAsync(PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Person, Name: "Ida Moreau")), 409))
            .ShouldContain("tide tables");
        (await PostAsync($"follow-ups/{refused.Id}/end", new FollowUpEnd("they lay in another folder"))).EnsureSuccessStatusCode();
        (await RefusedAsync(PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Person, Name: "Sol Okafor")), 422))
            .ShouldContain("Ida Moreau");
        foreach (var hostile in new[] { "<script>", "M1 1\"/><script>alert(1)</script>", "M" + new string('1', 20_001), "", "url(x)" })
            (await RefusedAsync(
                PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Person, Name: "Ida Moreau", Drawn: hostile)), 422))
                .ShouldContain("SVG path");
        await RunningService.ProblemAsync(
            await PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician, Name: "Ida Moreau")), 422);

        var signed = await OkAsync<SignOffSeen>(PostAsync(
                $"swaps/{swap}/sign-offs",
                new SignOffWanted(
                    SignOffPart.Person,
                    (await Service.SwapAsync(swap)).SignOffs.Single(s => s.Part == SignOffPart.Person).Facts,
                    " ida moreau",
                    "M10 20 L30.5 40 L-3 4")));
        (signed.By, signed.Witness, signed.Drawn).ShouldBe(("Ida Moreau", "kit", "M10 20 L30.5 40 L-3 4"));
        var seen = await Service.SwapAsync(swap);
        (
            seen.Swap.Line.Single(l => l.Station == Station.Accepted).At is not null,
            seen.Checklist.Steps.Single(s => s.Key == "looked").By).ShouldBe((true, "Ida Moreau"));
        var paper = await (await Kit.GetAsync($"api/swaps/{swap}/sign-offs/person/paper")).Content.ReadAsStringAsync();
        (LedgerChain.Digest(paper), (string?)JsonNode.Parse(paper)!["witness"]).ShouldBe((signed.Sha256, "kit"));
        await RunningService.ProblemAsync(await PostAsync($"swaps/{swap}/refusal", new RefusalWanted("and yet")), 409);
        using (var folder = new YardRelay.Peers.TempFolder())
        {
            await File.WriteAllBytesAsync(folder["swap.pdf"], await Kit.GetByteArrayAsync($"api/swaps/{swap}/paper.pdf"));
            var text = YardRelay.Peers.Run.Must("pdftotext", "-layout", folder["swap.pdf"], "-");
            text.ShouldSatisfyAllConditions(
                t => t.ShouldContain("on the device of kit"),
                t => t.ShouldContain(signed.Sha256![..60]),
                t => t.ShouldContain("tide tables"),
                t => t.ShouldContain("KB-1 → KB-2"));
            YardRelay.Peers.Run.Must("pdfinfo", folder["swap.pdf"]).ShouldMatch(@"Pages:\s+[123]\n");
        }
        (await PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician))).EnsureSuccessStatusCode();
        // What the person signed rests on what the technician signed.
        (await OkAsync<SwapSeen>(PostAsync($"swaps/{swap}/sign-offs/technician/reopening", new ReopeningWanted("wrong printer")))).SignOffs
            .ShouldAllBe(s => s.By == null);
    }

    private Task<HttpResponseMessage> MoveAsync(
        string refresh, string tag, CustodyAct act, string? where, string? id = null, DateTimeOffset? at = null) =>
        PostAsync(
            $"refreshes/{refresh}/old-computers/{Uri.EscapeDataString(tag)}/moves",
            new CustodyWanted(id ?? Guid.NewGuid().ToString(), act, where, at));

    private Task<HttpResponseMessage> WipeAsync(string refresh, string tag, string result = "done") =>
        PostAsync($"refreshes/{refresh}/old-computers/{Uri.EscapeDataString(tag)}/wipe", new WipeWanted("three passes", result, "=W-0117"));

    [Fact]
    public async Task An_old_computer_goes_from_hand_to_hand_and_none_is_wiped_or_sent_off_before_its_time()
    {
        var refresh = await MorningAsync();
        var (ida, una) = ($"{refresh}-0001", $"{refresh}-0004");
        (await RefusedAsync(MoveAsync(refresh, "KB-2", CustodyAct.Taken, null), 404)).ShouldContain("no old computer");
        (await RefusedAsync(WipeAsync(refresh, "KB-5"), 409)).ShouldContain("stays in use");
        await FinishAsync(refresh, ida, "KB-1", "KB-2");
        (await PostAsync($"swaps/{ida}/sign-offs", new SignOffWanted(SignOffPart.Technician))).EnsureSuccessStatusCode();

        // Reports come late, twice, and from a clock that is wrong.
        var (id, now) = (Guid.NewGuid().ToString(), Service.Now);
        for (var again = 0; again < 2; again++)
            (await OkAsync<OldComputerSeen>(MoveAsync(refresh, "kb-1", CustodyAct.Placed, "Workshop, shelf 3", id))).Place
                .ShouldBe("Workshop, shelf 3");
        (await OkAsync<OldComputerSeen>(MoveAsync(refresh, "KB-1", CustodyAct.Taken, "Vera", at: now.AddHours(-1)))).Words
            .ShouldBe("Workshop, shelf 3", "what happened later stands");
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Taken, "Vera", at: now.AddHours(1)), 422)).ShouldContain("clock");
        var history = (await Kit.GetFromJsonAsync<OldComputerHistory>($"api/refreshes/{refresh}/old-computers/KB-1", RunningService.Json))!;
        history.Moves.Select(m => m.Act).ShouldBe([CustodyAct.Placed, CustodyAct.Taken]);

        var shut = await RunningService.ProblemAsync(await WipeAsync(refresh, "KB-1"), 409);
        shut.ToJsonString().ShouldSatisfyAllConditions(t => t.ShouldContain("held until"), t => t.ShouldContain("hand-in"));
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/old-hold", new OldHoldWanted(0))).EnsureSuccessStatusCode();
        await Service.WorkAsync(ida, s => s.Phase == "hand-in");
        var held = await OkAsync<FollowUpSeen>(PostAsync(
                $"swaps/{ida}/follow-ups", new FollowUpWanted("look for the tide tables first", "noor", Holds: FollowUpHold.Wipe)));
        (await RefusedAsync(WipeAsync(refresh, "KB-1"), 409)).ShouldContain("tide tables");
        (await PostAsync($"follow-ups/{held.Id}/end", new FollowUpEnd("found"))).EnsureSuccessStatusCode();
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Donated, "the school"), 409)).ShouldContain("not wiped");
        (await OkAsync<OldComputerSeen>(WipeAsync(refresh, "KB-1", "failed"))).State.ShouldBe("wipe-failed");
        (await Service.SwapAsync(ida)).FollowUps!.ShouldContain(f => f.Cause == "wipe" && f.DoneAt == null);
        for (var again = 0; again < 2; again++) (await OkAsync<OldComputerSeen>(WipeAsync(refresh, "KB-1"))).State.ShouldBe("wiped");

        // A pallet leaves whole or not at all, and its list is no program for a spreadsheet.
        foreach (var tag in new[] { "KB-1", "KB-7" }) (await MoveAsync(refresh, tag, CustodyAct.Loaded, "P-07")).EnsureSuccessStatusCode();
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Loaded, "P-08"), 409)).ShouldContain("P-07");
        (await RefusedAsync(
            PostAsync($"refreshes/{refresh}/pallets/P-07/departure", new PalletDeparture(CustodyAct.Returned, "the leasing company")), 409))
            .ShouldContain("KB-7");
        var csv = await (await Kit.GetAsync($"api/refreshes/{refresh}/pallets/P-07/list.csv")).Content.ReadAsStringAsync();
        csv.ShouldSatisfyAllConditions(t => t.ShouldContain("KB-7"), t => t.ShouldContain("=W-0117"));
        (await MoveAsync(refresh, "KB-7", CustodyAct.Unloaded, "Workshop, bench")).EnsureSuccessStatusCode();
        (await OkAsync<PalletSeen>(PostAsync(
                $"refreshes/{refresh}/pallets/P-07/departure", new PalletDeparture(CustodyAct.Returned, "the leasing company")))).Gone
            .ShouldBe(1);
        (await RefusedAsync(MoveAsync(refresh, "KB-1", CustodyAct.Taken, "Noor"), 409)).ShouldContain("has left");
        (await Kit.GetFromJsonAsync<Page<OldComputerSeen>>(
            $"api/refreshes/{refresh}/old-computers?end=gone", RunningService.Json))!.Items.Single().Words
            .ShouldBe("Returned to the leasing company with pallet P-07");
        (await Kit.GetFromJsonAsync<Page<OldComputerSeen>>(
            $"api/refreshes/{refresh}/old-computers?q=shelf", RunningService.Json))!.Items.ShouldHaveSingleItem();
        (await Kit.GetFromJsonAsync<Page<OldComputerSeen>>(
            $"api/refreshes/{refresh}/old-computers?limit=2", RunningService.Json))!.Items.Count
            .ShouldBe(2);
        (await Service.SwapAsync(una)).OldComputer!.Place.ShouldBe("Workshop, bench");
        var ledger = (await Kit.GetFromJsonAsync<Page<LedgerEntrySeen>>(
            $"api/refreshes/{refresh}/ledger?limit=1000", RunningService.Json))!.Items
            .Select(e => new LedgerEntry(e.Number, e.Json, e.Sha256)).ToList();
        LedgerChain.Check(ledger, null).ShouldBeEmpty();
    }

    [Fact]
    public async Task Today_names_each_swap_that_needs_somebody_and_no_other()
    {
        var refresh = await MorningAsync();
        var more = "person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(5, 60).Select(i => $"m{i},Person {i},{(i % 3 == 0 ? "North" : "South")},renew,O-{i},N-{i}\n"));
        (await Service.RosterAsync(refresh, more)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        string Of(int number) => $"{refresh}-{number:0000}";
        async Task FailAsync(int number) =>
            await Service.DoAsync(
                Of(number),
                "first-trip",
                await Service.HandAsync(refresh, $"O-{number}"),
                HandReport.Failed("The disk could not be read."));
        await Service.DoAsync(
            Of(2),
            "first-trip",
            await Service.HandAsync(refresh, "KB-3"),
            RunningService.Result(
                10,
                9,
                new YardRelay.Core.Carrying.Snag(
                    "Documents/open.xls", YardRelay.Core.Carrying.SnagKind.ChangedWhileRead, 10, "It changed.")));
        await FinishAsync(refresh, Of(1), "KB-1", "KB-2");
        await FailAsync(10);
        // Needs nobody: what is accepted, a failure that a later trip has made good, one whose time passed and that is called off.
        await FailAsync(11);
        await Service.DoAsync(Of(11), "first-trip", await Service.HandAsync(refresh, "O-11"), RunningService.Result(10, 10));
        foreach (var late in new[] { 12, 13 }) await BookAsync(Of(late), "vera", -2000);
        async Task SetAsync(string swap, Action<YardRelay.Records.SwapRow> how) => await Service.WithRecordsAsync(async db =>
        {
            how(await db.Swaps.FirstAsync(s => s.Id == swap));
            return await db.SaveChangesAsync();
        });
        await SetAsync(Of(13), s => (s.CalledOffAt, s.CalledOffBecause) = (Service.Now, "left"));
        await SetAsync(Of(14), s => (s.LeftOutBecause, s.Start) = ("Nobody has the skill.", null));
        await SetAsync(Of(15), s => s.RestoredAt = Service.Now);

        // What each swap says of itself is read another way: all of them, one by one.
        var all = (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?limit=500", RunningService.Json))!.Items;
        var wanting = all.Where(s => s.Sign.Sign is "wants" or "stopped").Select(s => s.Id).Order(StringComparer.Ordinal).ToList();
        wanting.ShouldBe([Of(2), Of(10), Of(12), Of(14), Of(15)]);
        var needs = (await Kit.GetFromJsonAsync<DaySeen>($"api/refreshes/{refresh}/today", RunningService.Json))!.Needs;
        needs.Select(n => n.Swap).Order(StringComparer.Ordinal).ShouldBe(wanting);
        (needs[0].Swap, needs[0].Sign).ShouldBe((Of(10), "stopped"));
        (await Kit.GetFromJsonAsync<List<NeedSeen>>($"api/refreshes/{refresh}/needs", RunningService.Json))!
            .Select(n => (n.Swap, n.Sign))
            .ShouldBe(needs.Select(n => (n.Swap, n.Sign)), "the bar of pages counts what the day shows");
    }

    [Fact]
    public async Task The_yard_counts_every_swap_once_says_what_is_stuck_and_its_report_has_two_pages()
    {
        var refresh = await MorningAsync();
        var many = "person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 120).Select(i =>
                $"m{i},Person {i},{(i % 3 == 0 ? "North" : "South")},{(i % 5 == 0 ? "second" : "renew")},O-{i},N-{i}\n"));
        (await Service.RosterAsync(refresh, many)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        await FinishAsync(refresh, $"{refresh}-0001", "KB-1", "KB-2");
        await Service.DoAsync(
            $"{refresh}-0002",
            "first-trip",
            await Service.HandAsync(refresh, "KB-3"),
            RunningService.Result(
                10,
                9,
                new YardRelay.Core.Carrying.Snag(
                    "Documents/open.xls", YardRelay.Core.Carrying.SnagKind.ChangedWhileRead, 10, "It changed.")));
        await BookAsync($"{refresh}-0003", "vera", -300);
        var yard = (await Kit.GetFromJsonAsync<YardSeen>($"api/refreshes/{refresh}/yard", RunningService.Json))!;
        var swaps = (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?limit=500", RunningService.Json))!.Items;
        (yard.Swaps, yard.Done, yard.Late, yard.WithoutAppointment).ShouldBe((swaps.Count, 1, 1, swaps.Count(s => s.Appointment is null)));
        yard.Sites.Sum(s => s.Done + s.Cells.Sum(c => c.Swaps)).ShouldBe(swaps.Count);
        foreach (var site in yard.Sites)
            foreach (var cell in site.Cells)
                cell.Swaps.ShouldBe(
                    (int)(await Kit.GetFromJsonAsync<Page<SwapListed>>(
                        $"api/refreshes/{refresh}/swaps?site={site.Site}&next={cell.Station}", RunningService.Json))!.Total,
                    $"{site.Site} {cell.Station}");
        (yard.Stuck.Single().Swap, yard.Sites.Sum(s => s.Cells.Sum(c => c.Stuck)), yard.Ages[0].Snags).ShouldBe(($"{refresh}-0002", 1, 1));
        (
            yard.Progress[^1].Planned,
            yard.Progress.Last(d => d.Done is not null).Done,
            yard.Progress.Last(d => d.Done is not null).Day).ShouldBe((swaps.Count(s => s.Appointment is not null), 1, yard.Today));
        yard.Progress.Zip(yard.Progress.Skip(1)).ShouldAllBe(p =>
            p.First.Planned <= p.Second.Planned && p.Second.Day == p.First.Day.AddDays(1));
        yard.Technicians.Sum(t => t.Ahead).ShouldBe(swaps.Count(s => s.Appointment is not null) - 1);
        var csv = await (await Kit.GetAsync($"api/refreshes/{refresh}/progress.csv")).Content.ReadAsStringAsync();
        csv.ShouldContain("stuck,");
        using var folder = new YardRelay.Peers.TempFolder();
        await File.WriteAllBytesAsync(folder["progress.pdf"], await Kit.GetByteArrayAsync($"api/refreshes/{refresh}/progress.pdf"));
        YardRelay.Peers.Run.Must("pdftotext", "-layout", folder["progress.pdf"], "-")
            .ShouldContain($"1 of {swaps.Count} swaps are accepted");
        YardRelay.Peers.Run.Must("pdfinfo", folder["progress.pdf"]).ShouldMatch(@"Pages:\s+[12]\n");
    }
}
