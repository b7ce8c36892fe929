using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;
using YardRelay.Contracts;
using YardRelay.Core.Planning.Worlds;

namespace YardRelay.Service.Tests;

public sealed class SqlitePlanningTests(OnSqlite service) : PlanningSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresPlanningTests(OnPostgres service) : PlanningSuite(service), IClassFixture<OnPostgres>;

/// <summary>From a roster to a published plan and its repair, on every database.</summary>
public abstract class PlanningSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private static DateOnly Day(int day) => DrivenClock.Today.AddDays(1 + day);

    private static async Task<T> ReadAsync<T>(HttpResponseMessage answer)
    {
        answer.IsSuccessStatusCode.ShouldBeTrue(await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<T>(RunningService.Json))!;
    }

    private async Task<T> PutAsync<T>(string path, object body) =>
        await ReadAsync<T>(await Kit.PutAsJsonAsync(path, body, RunningService.Json));

    private static async Task<string> RefusedAsync(HttpResponseMessage answer, int status, string code)
    {
        var problem = await RunningService.ProblemAsync(answer, status);
        problem["code"]!.GetValue<string>().ShouldBe(code);
        return problem["detail"]!.GetValue<string>();
    }

    private Task<HttpResponseMessage> SendAsync(string path, object? body, int version) =>
        Kit.SendAsync(new(HttpMethod.Post, path)
        {
            Headers = { { "If-Match", $"\"{version}\"" } },
            Content = body is null ? null : JsonContent.Create(body, body.GetType(), options: RunningService.Json)
        });

    private async Task<PlanSeen> PlanAsync(string refresh, int? number = null) =>
        (await Kit.GetFromJsonAsync<PlanSeen>(
            $"api/refreshes/{refresh}/plan{(number is { } n ? $"?number={n}" : "")}", RunningService.Json))!;

    private async Task<PlanSeen> DraftAsync(string refresh, long steps = 200) =>
        await ReadAsync<PlanSeen>(await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(steps)));

    private static DateTimeOffset At(int day, string time) => new(Day(day).ToDateTime(TimeOnly.Parse(time)), TimeSpan.Zero);

    [Fact]
    public async Task A_draft_books_nothing_until_it_is_published_and_what_was_published_is_kept_when_it_is_repaired()
    {
        var refresh = await service.RefreshAsync();
        (await PlanAsync(refresh)).State.ShouldBe("none");
        var draft = await DraftAsync(refresh);
        (draft.State, draft.Number, draft.Appointments.Count, draft.LeftOut.Count).ShouldBe(("draft", 1, 3, 0));
        (await service.SwapAsync($"{refresh}-0001")).Swap.Appointment.ShouldBeNull();
        var compared = (await Kit.GetFromJsonAsync<PlansCompared>($"api/refreshes/{refresh}/plans/compared", RunningService.Json))!;
        compared.Changes.ShouldAllBe(c => c.Before == null && c.Words.Contains("comes in"));
        await RefusedAsync(await Kit.PostAsync($"api/refreshes/{refresh}/plan/publication", null), 428, "draft.version");
        await RefusedAsync(await SendAsync($"api/refreshes/{refresh}/plan/publication", null, draft.Version + 1), 412, "changed-meanwhile");
        var published = await ReadAsync<PlanSeen>(await SendAsync($"api/refreshes/{refresh}/plan/publication", null, draft.Version));
        (await service.SwapAsync($"{refresh}-0001")).Swap.Appointment!.TechnicianName.ShouldBe("Noor");
        await RefusedAsync(await SendAsync($"api/refreshes/{refresh}/plan/publication", null, draft.Version), 409, "plan.no-draft");

        // Noor falls ill for the morning of her first visit: only what must move moves.
        var first = published.Appointments[0];
        var day = first.Start.UtcDateTime.ToString("yyyy-MM-dd");
        await PutAsync<TechnicianSeen>(
                $"api/refreshes/{refresh}/technicians/noor",
                new TechnicianWanted(
                    "Noor",
                    ["North", "South"],
                    ["daily 08:00-12:00", "daily 13:00-17:00"],
                    null,
                    [$"{day} {first.Start:HH:mm}..{day} {first.Start.AddMinutes(15):HH:mm}"]));
        var repaired = await DraftAsync(refresh);
        (repaired.Number, repaired.BasedOn).ShouldBe((2, 1));
        var changes = (await Kit.GetFromJsonAsync<PlansCompared>($"api/refreshes/{refresh}/plans/compared", RunningService.Json))!.Changes;
        changes.Where(c => c.Before!.Start != c.After!.Start).ShouldHaveSingleItem().Swap.ShouldBe(first.Swap);
        await SendAsync($"api/refreshes/{refresh}/plan/publication", null, repaired.Version);
        (await Kit.GetFromJsonAsync<List<PlanListed>>($"api/refreshes/{refresh}/plans", RunningService.Json))!
            .Select(p => (p.Number, p.State))
            .ShouldBe([(2, "published"), (1, "past")]);
        (await PlanAsync(refresh, 1)).Appointments.ShouldContain(a => a.Swap == first.Swap && a.Start == first.Start);
    }

    [Fact]
    public async Task A_visit_is_moved_by_hand_where_it_breaks_nothing_and_every_move_can_be_taken_back()
    {
        var refresh = await service.RefreshAsync();
        var draft = await DraftAsync(refresh);
        var (moves, trials) = ($"api/refreshes/{refresh}/plan/draft/moves", $"api/refreshes/{refresh}/plan/draft/trials");
        var one = draft.Appointments.Single(a => a.Swap == $"{refresh}-0001");
        async Task<MoveSeen> TryAsync(MoveWanted wanted) => await ReadAsync<MoveSeen>(await Kit.PostAsJsonAsync(trials, wanted));
        (await TryAsync(new(one.Swap, "noor", At(3, "06:00")))).Breaks.ShouldContain(b => b.Contains("not free"));
        (await TryAsync(new(one.Swap, "noor", At(3, "12:00")))).Breaks.ShouldHaveSingleItem().ShouldContain("Noor has no shift from");
        var other = draft.Appointments.First(a => a.Swap != one.Swap);
        (await TryAsync(new(one.Swap, "noor", other.Start))).Breaks.ShouldContain(b => b.StartsWith($"Noor is with {other.Person} from"));
        var better = await TryAsync(new(one.Swap, "noor", At(3, "09:00")));
        better.IsAllowed.ShouldBeTrue();
        (await PlanAsync(refresh)).Appointments.ShouldBe(draft.Appointments, "to try changes nothing");

        var refused = await ReadAsync<MoveSeen>(await SendAsync(moves, new MoveWanted(one.Swap, "noor", At(3, "12:00")), draft.Version));
        (refused.IsAllowed, refused.Version).ShouldBe((false, draft.Version));
        var moved = await ReadAsync<MoveSeen>(await SendAsync(moves, new MoveWanted(one.Swap, "noor", At(3, "09:00")), draft.Version));
        (moved.IsAllowed, moved.CostAfter, moved.Version).ShouldBe((true, better.CostAfter, draft.Version + 1));
        // A colleague who still looks at the old version is told, and overwrites nothing.
        await RefusedAsync(
            await SendAsync(moves, new MoveWanted(one.Swap, "noor", At(4, "09:00")), draft.Version), 412, "changed-meanwhile");
        var outside = await ReadAsync<MoveSeen>(await SendAsync(moves, new MoveWanted(one.Swap, null, null), moved.Version));
        (await PlanAsync(refresh)).LeftOut.ShouldHaveSingleItem().Because.ShouldContain("No rule stands in its way: Noor can do it on");
        var back = await ReadAsync<MoveSeen>(await SendAsync($"api/refreshes/{refresh}/plan/draft/undo", null, outside.Version));
        (await PlanAsync(refresh)).Appointments.Single(a => a.Swap == one.Swap).Start.ShouldBe(At(3, "09:00"));
        back = await ReadAsync<MoveSeen>(await SendAsync($"api/refreshes/{refresh}/plan/draft/undo", null, back.Version));
        (await PlanAsync(refresh)).Appointments.ShouldBe(draft.Appointments);
        await RefusedAsync(await SendAsync($"api/refreshes/{refresh}/plan/draft/undo", null, back.Version), 409, "draft.nothing-to-undo");
        await RefusedAsync(await Kit.PostAsJsonAsync(trials, new MoveWanted("nobody", "noor", At(3, "09:00"))), 404, "visit.not-found");
        await RefusedAsync(
            await Kit.PostAsJsonAsync(trials, new MoveWanted(one.Swap, "theo", At(3, "09:00"))), 404, "technician.not-found");
    }

    [Fact]
    public async Task Of_two_coordinators_who_publish_at_once_one_is_told_and_nothing_is_overwritten()
    {
        var refresh = await service.RefreshAsync();
        var draft = await DraftAsync(refresh);
        var both = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ =>
            SendAsync($"api/refreshes/{refresh}/plan/publication", null, draft.Version)));
        both.Select(b => b.StatusCode).ShouldBe([HttpStatusCode.OK, HttpStatusCode.Conflict], ignoreOrder: true);
        (await Kit.GetFromJsonAsync<List<PlanListed>>($"api/refreshes/{refresh}/plans", RunningService.Json))!.ShouldHaveSingleItem().State
            .ShouldBe("published");
    }

    [Fact]
    public async Task The_world_of_a_plan_is_kept_changed_and_felt_by_the_plan()
    {
        var refresh = await service.RefreshAsync();
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
        (await ReadAsync<SwapsEdited>(await Kit.PostAsJsonAsync(
                $"{path}/swaps/edits",
                new SwapEdit([$"{refresh}-0002"], Wave: "late", Skills: ["tablets"], Preferred: [
                    $"{Day(4):yyyy-MM-dd} 10:00-12:00"
                ])))).Changed
            .ShouldBe(1);
        var world = (await Kit.GetFromJsonAsync<WorldSeen>($"{path}/world", RunningService.Json))!;
        (
            world.Sites.Single(s => s.Key == "North").Benches,
            world.Ways.Single().Minutes,
            world.Waves.Single().Swaps,
            world.Deliveries.Single().Tags.Single()).ShouldBe((2, 25, 1, "KB-2"));

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

        // A pin holds; one that cannot be kept is refused in words that can be acted on.
        (await ReadAsync<SwapsEdited>(await Kit.PostAsJsonAsync(
                $"{path}/swaps/edits", new SwapEdit([$"{refresh}-0001"], PinnedStart: At(3, "14:00"), PinnedTechnician: "noor")))).Changed
            .ShouldBe(1);
        var pinned = (await DraftAsync(refresh)).Appointments.Single(a => a.Swap == $"{refresh}-0001");
        (pinned.Start, pinned.IsPinned).ShouldBe((At(3, "14:00"), true));
        await Kit.PostAsJsonAsync($"{path}/swaps/edits", new SwapEdit([$"{refresh}-0001"], PinnedStart: At(1, "14:00")));
        (await RefusedAsync(await Kit.PostAsJsonAsync($"{path}/plan", new PlanWanted(10)), 422, "plan.world"))
            .ShouldContain($"pinned to {Day(1):ddd d MMM} 14:00, before its release");
    }

    [Fact]
    public async Task What_no_plan_could_be_made_from_is_refused_where_it_is_entered()
    {
        var refresh = await service.RefreshAsync();
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
        (await service.WithRecordsAsync(db => db.Swaps.Where(s => s.Refresh == refresh).Select(s => s.Weight).Distinct().ToListAsync()))
            .ShouldBe([5], "all of them or none");
        await PutAsync<SiteSeen>($"{path}/sites/North", new SiteWanted("North", 0));
        (await RefusedAsync(await Kit.PostAsJsonAsync($"{path}/plan", new PlanWanted(10)), 422, "plan.no-bench"))
            .ShouldContain("North has swaps but no bench");
        await RefusedAsync(await Kit.DeleteAsync($"{path}/sites/North"), 409, "site.in-use");
    }

    [Fact]
    public async Task Why_not_what_if_and_the_outlook_answer_and_change_nothing()
    {
        var refresh = await service.RefreshAsync();
        var path = $"api/refreshes/{refresh}";
        // Sol is free for half an hour only.
        await Kit.PostAsJsonAsync($"{path}/swaps/edits", new SwapEdit([$"{refresh}-0002"], Free: [$"{Day(1):yyyy-MM-dd} 08:00-08:30"]));
        var draft = await DraftAsync(refresh);
        draft.LeftOut.ShouldHaveSingleItem().Because.ShouldContain("Widen one window");
        var why = (await Kit.GetFromJsonAsync<WhyNotSeen>($"{path}/plan/why/{refresh}-0002", RunningService.Json))!;
        why.Ways.Count.ShouldBeGreaterThan(1);
        var window = why.Ways.Single(w => w.Words.Contains("another time"));
        // The way in is tried: with that time it is let in.
        await Kit.PostAsJsonAsync(
            $"{path}/swaps/edits",
            new SwapEdit([$"{refresh}-0002"], Free: [
                $"{window.Start:yyyy-MM-dd} {window.Start:HH:mm}-{window.Start!.Value.AddHours(3):HH:mm}"
            ]));
        (await DraftAsync(refresh)).LeftOut.ShouldBeEmpty();

        async Task<WhatIfSeen> IfAsync(params string[] changes) =>
            await ReadAsync<WhatIfSeen>(await Kit.PostAsJsonAsync($"{path}/plan/what-if", new WhatIfWanted(changes, 0.3)));
        var away = await IfAsync($"away noor {Day(0):yyyy-MM-dd}..{Day(6):yyyy-MM-dd}");
        (away.Before.LeftOut, away.After.LeftOut, away.LeftOut.Count).ShouldBe((0, 3, 3));
        (await IfAsync($"away noor {Day(0):yyyy-MM-dd}..{Day(6):yyyy-MM-dd}", "like noor")).After.LeftOut
            .ShouldBe(3, "the second one is as ill as the first");
        (await IfAsync("like noor", $"away noor {Day(0):yyyy-MM-dd}..{Day(6):yyyy-MM-dd}")).After.LeftOut.ShouldBe(0);
        (await RefusedAsync(
            await Kit.PostAsJsonAsync($"{path}/plan/what-if", new WhatIfWanted(["away nobody 2026-11-25"])), 422, "what-if"))
            .ShouldContain("It has noor.");
        (await RefusedAsync(await Kit.PostAsJsonAsync($"{path}/plan/what-if", new WhatIfWanted(["rain"])), 422, "what-if"))
            .ShouldContain("Write 'away TECHNICIAN WHEN'");
        var outlook = await ReadAsync<OutlookSeen>(await Kit.PostAsJsonAsync($"{path}/plan/outlook", new OutlookWanted(500)));
        (outlook.Days.Count, outlook.Days.Sum(d => d.Visits)).ShouldBe((17, 3));
        outlook.InTime.ShouldBeInRange(0.5, 1);
        await RefusedAsync(await Kit.PostAsJsonAsync($"{path}/plan/outlook", new OutlookWanted(NoShow: 2)), 422, "outlook.chance");
        var slack = await ReadAsync<SlackSeen>(await Kit.PostAsJsonAsync($"{path}/plan/slack", new SlackWanted(new(500), 0.1)));
        slack.Steps.Select(s => s.Minutes).ShouldBe([0, 15, 30, 45, 60]);
        (slack.Steps[0].InTime, slack.Steps[0].Moved).ShouldBe(
            (outlook.InTime, 0), "the first step is the plan as it is, played as before");
        slack.Steps.ShouldAllBe(s => s.LeftOut == 0 && s.LastDay != null);
        await RefusedAsync(await Kit.PostAsJsonAsync($"{path}/plan/slack", new SlackWanted(new(500), 11)), 422, "slack.seconds");
        var version = (await PlanAsync(refresh)).Version;
        (await service.SwapAsync($"{refresh}-0001")).Swap.Appointment.ShouldBeNull();
        version.ShouldBe(2, "two drafts were made and nothing else");
    }

    [Fact]
    public async Task A_calendar_follows_the_plan_with_stable_ids_and_says_what_was_called_off()
    {
        var refresh = await service.RefreshAsync();
        await service.PublishAsync(refresh, new(200));
        var feed = await ReadAsync<FeedMade>(await Kit.PostAsJsonAsync(
            $"api/refreshes/{refresh}/feeds", new FeedWanted(Technician: "noor")));
        async Task<Ical.Net.Calendar> CalendarAsync() =>
            Ical.Net.Calendar.Load(await service.Nobody().GetStringAsync(new Uri(feed.Address).PathAndQuery))!;
        var first = await CalendarAsync();
        first.Events.Select(e => (e.Uid!, e.Sequence, e.Status!)).ShouldBe(
            Enumerable.Range(1, 3).Select(i => ($"{refresh}-000{i}@{refresh}.yardrelay.example", 1, "CONFIRMED")), ignoreOrder: true);
        // Theo takes one of them over.
        await PutAsync<TechnicianSeen>(
            $"api/refreshes/{refresh}/technicians/theo", new TechnicianWanted("Theo", ["North"], ["daily 08:00-16:00"]));
        await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/swaps/edits", new SwapEdit([$"{refresh}-0001"], PinnedTechnician: "theo"));
        await service.PublishAsync(refresh, new(200));
        var second = await CalendarAsync();
        var gone = second.Events.Single(e => e.Uid!.StartsWith($"{refresh}-0001@", StringComparison.Ordinal));
        (gone.Status, gone.Sequence).ShouldBe(("CANCELLED", 2));
        gone.Start!.AsUtc.ShouldBe(first.Events.Single(e => e.Uid == gone.Uid).Start!.AsUtc);
        (await service.Nobody().GetAsync("api/feeds/" + new string('A', 120))).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        var csv = Encoding.UTF8.GetString(await Kit.GetByteArrayAsync($"api/refreshes/{refresh}/plan/export?form=csv"));
        csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(4);
        using var workbook = new MemoryStream(await Kit.GetByteArrayAsync($"api/refreshes/{refresh}/plan/export?form=xlsx&site=South"));
        workbook.Query(useHeaderRow: true).Cast<IDictionary<string, object>>().ShouldHaveSingleItem()["person"].ShouldBe("Sol Okafor");
    }

    [Fact]
    public async Task Holidays_come_from_a_calendar_recurring_ones_too_and_the_same_file_changes_nothing()
    {
        var refresh = await service.RefreshAsync();
        var ics =
            $"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nBEGIN:VEVENT\r\nUID:weekly\r\nSUMMARY:Staff meeting\r\nDTSTART:"
                + $"{Day(-13):yyyyMMdd}T090000\r\nDTEND:{Day(-13):yyyyMMdd}T100000\r\nRRULE:FREQ=WEEKLY\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\n"
                + $"UID:feast\r\nSUMMARY:Harbour feast\r\nDTSTART;VALUE=DATE:{Day(3):yyyyMMdd}\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\n"
                        + $"UID:old\r\nSUMMARY:Long ago\r\nDTSTART;VALUE=DATE:20200101\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
        async Task<CalendarTaken> TakeAsync() =>
            await ReadAsync<CalendarTaken>(await Kit.PostAsync(
                    $"api/refreshes/{refresh}/closures/calendar", new StringContent(ics, Encoding.UTF8, "text/calendar")));
        var taken = await TakeAsync();
        taken.Closures.Select(c => (c.Name, c.At)).ShouldBe(
            [("Staff meeting", $"{Day(1):yyyy-MM-dd} 09:00..{Day(1):yyyy-MM-dd} 10:00"), ("Harbour feast", $"{Day(3):yyyy-MM-dd}")],
            ignoreOrder: true);
        taken.Outside.ShouldBe(1);
        var entries = await service.WithRecordsAsync(db => db.Ledger.CountAsync(l => l.Refresh == refresh));
        await TakeAsync();
        (await service.WithRecordsAsync(db => db.Ledger.CountAsync(l => l.Refresh == refresh))).ShouldBe(entries);
        await RefusedAsync(
            await Kit.PostAsync($"api/refreshes/{refresh}/closures/calendar", new StringContent("nonsense")), 422, "calendar.form");
    }

    private static byte[] Workbook(params object?[][] rows)
    {
        using var stream = new MemoryStream();
        stream.SaveAs(rows.Skip(1).Select(r => rows[0].Select((h, i) => (h, v: r[i])).ToDictionary(p => (string)p.h!, p => p.v)));
        return stream.ToArray();
    }

    private async Task<RosterTaken> TakeAsync(string refresh, byte[] file, string options = "") =>
        await ReadAsync<RosterTaken>(await Kit.PostAsync($"api/refreshes/{refresh}/roster?x=1{options}", new ByteArrayContent(file)));

    [Fact]
    public async Task A_workbook_is_taken_its_columns_matched_by_guess_and_by_hand_and_the_match_is_kept()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var book = Workbook(
            ["Staff no", "Full name", "Location", "Kind", "Asset tag", "Replacement", "Shelf", "Last day", "Data to", "Shoe size"],
            [4711, "Ida Moreau", "North", "renew", "KB-1", "KB-2", "", null, null, 38],
            [4712, "Sol Okafor", "South", "leave", "KB-3", null, "B", new DateTime(2026, 12, 31), 4711, 44]);
        var preview = await TakeAsync(refresh, book, "&dryRun=true");
        preview.Columns.Select(c => (c.Head, c.Column, c.By)).ShouldBe([
            ("Staff no", "person", "guess"), ("Full name", "name", "guess"), ("Location", "site", "guess"), ("Kind", "kind", "name"),
            ("Asset tag", "old_tag", "guess"), ("Replacement", "new_tag", "guess"), ("Shelf", "", "none"), ("Last day", "closes", "guess"),
            ("Data to", "receiver", "guess"), ("Shoe size", "", "none")
        ]);
        (preview.Added, preview.Rejected.Count).ShouldBe((2, 0));
        await PutAsync<Dictionary<string, string>>(
            $"api/refreshes/{refresh}/roster/columns", new Dictionary<string, string> { ["Shelf"] = "room" });
        (await TakeAsync(refresh, book)).Columns
            .Where(c => c.Head == "Shelf")
            .Select(c => (c.Column, c.By, c.Samples.Single()))
            .ShouldBe([("room", "hand", "B")]);
        var leaver = await service.WithRecordsAsync(db => db.Swaps.SingleAsync(s => s.Refresh == refresh && s.Person == "4712"));
        (leaver.Room, leaver.Receiver, leaver.Closes).ShouldBe(("B", "4711", new DateOnly(2026, 12, 31)));
        await RefusedAsync(
            await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/roster/columns", new Dictionary<string, string> { ["Shelf"] = "shoes" }),
            422,
            "roster.columns");
        await RefusedAsync(
            await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent([(byte)'P', (byte)'K', 3, 4, 5])),
            422,
            "roster.workbook");
        // The sample that can be downloaded is a roster, in both forms.
        foreach (var form in new[] { "csv", "xlsx" })
            (await TakeAsync(
                await service.RefreshAsync(withRoster: false) is var other && await OpenAsync(other) ? other : "",
                await Kit.GetByteArrayAsync($"api/roster-template?form={form}&sample=true"))).Added
                .ShouldBe(3);

        async Task<bool> OpenAsync(string of)
        {
            foreach (var site in new[] { "North Quay", "Lantern Point", "Workshop" })
                await PutAsync<SiteSeen>($"api/refreshes/{of}/sites/{site}", new SiteWanted(site, 1));
            return true;
        }
    }

    [Fact]
    public async Task A_taking_is_undone_to_the_letter_while_nothing_was_built_on_it_and_who_is_gone_stays_when_under_way()
    {
        var refresh = await service.RefreshAsync();
        var sent = RunningService.Roster;
        async Task<string> StateAsync() =>
            string.Join(
                '\n',
                await service.WithRecordsAsync(async db => (await db.Swaps.Where(s => s.Refresh == refresh)
                    .OrderBy(s => s.Id)
                    .Select(s => $"{s.Id} {s.Name} {s.Site} {s.Room} {s.OldTag} {s.NewTag}").ToListAsync())
                    .Concat(await db.People.Where(p => p.Refresh == refresh)
                        .OrderBy(p => p.Key)
                        .Select(p => $"{p.Key} {p.Name} {p.Mail}").ToListAsync())));
        var before = await StateAsync();
        var newer = Encoding.UTF8.GetBytes(sent.Replace("k1,Ida Moreau,North", "k1,Ida Moreau-Lund,South", StringComparison.Ordinal)
            .Replace("k3,Per Lunde,North,issue,,KB-6\n", "k9,Mae Quist,North,issue,,KB-9\n", StringComparison.Ordinal));
        var preview = await TakeAsync(refresh, newer, "&dryRun=true");
        (preview.Added, preview.Changed, preview.Same, preview.Gone).ShouldBe((1, 1, 1, 1));
        preview.Changes.Single(c => c.Change == "gone").What.ShouldContain("left alone");
        var taken = await TakeAsync(refresh, newer, "&dropGone=true");
        (await StateAsync()).ShouldNotContain("KB-6");
        (await ReadAsync<TakingSeen>(await Kit.PostAsync($"api/refreshes/{refresh}/roster/takings/{taken.Number}/undo", null))).Number
            .ShouldBe(2);
        (await StateAsync()).ShouldBe(before);
        // Undone twice is undone once.
        (await Kit.PostAsync($"api/refreshes/{refresh}/roster/takings/{taken.Number}/undo", null)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await service.PublishAsync(refresh, new(100));
        (await RefusedAsync(await Kit.PostAsync($"api/refreshes/{refresh}/roster/takings/1/undo", null), 409, "roster.built-on"))
            .ShouldContain("has an appointment");
        var kept = await TakeAsync(
            refresh,
            Encoding.UTF8.GetBytes("person,name,site,kind,old_tag,new_tag\nk2,Sol Okafor,South,renew,KB-3,KB-4\n"),
            "&dropGone=true");
        kept.Changes.Where(c => c.Change == "gone").ShouldAllBe(c => c.What.Contains("has an appointment and is kept"));
        (await StateAsync()).ShouldBe(before);
    }

    [Fact]
    public async Task Good_rows_are_taken_without_the_bad_ones_only_when_asked_and_twenty_thousand_at_once()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var mixed = Encoding.UTF8.GetBytes(
            "person,name,site,kind,old_tag,new_tag\nk1,Ida,North,renew,KB-1,KB-2\nk2,,North,renew,KB-3,KB-4\n"
                + "k3,Ann,Nort,renew,KB-5,KB-6\n");
        (await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent(mixed))).StatusCode
            .ShouldBe(HttpStatusCode.UnprocessableEntity);
        var taken = await TakeAsync(refresh, mixed, "&skipFaulty=true");
        (taken.Rows, taken.Added).ShouldBe((3, 1));
        taken.Rejected.Select(r => (r.Line, r.Column)).ShouldBe([(3, "name"), (4, "site")]);
        var many = Encoding.UTF8.GetBytes("person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 20_000).Select(i => $"m{i},Person {i},South,renew,O-{i},N-{i}\n")));
        var taking = TakeAsync(refresh, many, "&name=many");
        var seen = new List<RosterProgress>();
        while (!taking.IsCompleted)
        {
            seen.Add((await Kit.GetFromJsonAsync<RosterProgress>($"api/refreshes/{refresh}/roster/progress/many"))!);
            await Task.Delay(5);
        }
        (await taking).Added.ShouldBe(20_000);
        var stages = seen.Where(s => s.Stage != "waiting").ToList();
        stages.Select(s => s.Stage).Distinct().Last().ShouldBe("saving", "whoever asks often sees it come to its end");
        foreach (var stage in stages.GroupBy(s => s.Stage))
            stage.Select(s => s.Rows).ShouldBe(stage.Select(s => s.Rows).Order(), "it never goes back");
        stages.ShouldAllBe(s => s.Of == 20_000);
        (await Kit.GetFromJsonAsync<RosterProgress>($"api/refreshes/{refresh}/roster/progress/many"))!.Stage.ShouldBe("waiting");
        (await TakeAsync(refresh, many)).Same.ShouldBe(20_000);
    }
}
