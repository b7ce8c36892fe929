using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqlitePersonTests(OnSqlite service) : PersonSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresPersonTests(OnPostgres service) : PersonSuite(service), IClassFixture<OnPostgres>;

/// <summary>A person's own page: who gets in, and what they can do there, on every database.</summary>
public abstract class PersonSuite(RunningService service) : OwnPages(service)
{
    private async Task<long> RefusedAsync(string cause) =>
        (await Kit.GetFromJsonAsync<List<LinkRefusalsSeen>>("api/link-refusals", RunningService.Json))!
            .Where(r => r.Cause == cause)
            .Sum(r => r.Count);

    [Fact]
    public async Task A_link_opens_on_the_first_device_again_and_again_and_on_no_other()
    {
        var refresh = await MorningAsync();
        var (first, second, secret) = (Service.Browser(), Service.Browser(), await SecretAsync($"{refresh}-0001"));
        (await first.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        foreach (var _ in new[] { 1, 2 }) (await OpenAsync(first, secret)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await PageAsync(first)).Name.ShouldBe("Ida Moreau");
        var elsewhere = await RefusedAsync("elsewhere");
        (await RunningService.ProblemAsync(await OpenAsync(second, secret), 404))["code"]!.GetValue<string>().ShouldBe("link.nothing");
        (await second.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await RefusedAsync("elsewhere")).ShouldBe(elsewhere + 1);
    }

    [Fact]
    public async Task Whatever_is_no_link_opens_nothing_and_is_counted()
    {
        var secret = await SecretAsync($"{await MorningAsync()}-0001");
        var unknown = await RefusedAsync("unknown");
        foreach (var wrong in new[] { "", secret[..^1], secret + "A", new string('A', 43), "' OR 1=1 --" })
            (await OpenAsync(Service.Browser(), wrong)).StatusCode.ShouldBe(HttpStatusCode.NotFound, wrong);
        (await RefusedAsync("unknown")).ShouldBe(unknown + 5);
    }

    [Fact]
    public async Task Of_many_devices_at_once_one_is_the_first()
    {
        var race = await SecretAsync($"{await MorningAsync()}-0002");
        (await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => OpenAsync(Service.Browser(), race))))
            .Count(a => a.StatusCode == HttpStatusCode.NoContent)
            .ShouldBe(1);
    }

    [Fact]
    public async Task A_page_opens_nothing_of_the_console()
    {
        var refresh = await MorningAsync();
        var ida = await DeviceAsync($"{refresh}-0001");
        foreach (var path in new[] { $"api/swaps/{refresh}-0001", $"api/refreshes/{refresh}/swaps", "api/me" })
            (await ida.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized, path);
    }

    [Fact]
    public async Task A_link_that_ran_out_opens_nothing_and_is_counted()
    {
        var swap = $"{await MorningAsync()}-0001";
        var (late, expired) = (await SecretAsync(swap), await RefusedAsync("expired"));
        await Service.WithRecordsAsync(async db =>
            await db.Links.Where(l => l.Swap == swap).ExecuteUpdateAsync(l => l.SetProperty(x => x.Expires, Service.Now.AddSeconds(-1))));
        (await OpenAsync(Service.Browser(), late)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await RefusedAsync("expired")).ShouldBe(expired + 1);
    }

    [Fact]
    public async Task An_open_page_is_shut_at_once_when_its_link_is_withdrawn()
    {
        var swap = $"{await MorningAsync()}-0001";
        var (ida, secret, withdrawn) = (Service.Browser(), await SecretAsync(swap), await RefusedAsync("withdrawn"));
        (await OpenAsync(ida, secret)).EnsureSuccessStatusCode();
        (await OkAsync<PersonLinksWithdrawn>(Kit.DeleteAsync($"api/swaps/{swap}/person-links"))).Links.ShouldBe(1);
        (await ida.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await OpenAsync(Service.Browser(), secret)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await RefusedAsync("withdrawn")).ShouldBe(withdrawn + 1);
    }

    [Fact]
    public async Task No_record_and_no_ledger_has_the_secret_of_a_link()
    {
        var refresh = await MorningAsync();
        var secret = await SecretAsync($"{refresh}-0001");
        (await OpenAsync(Service.Browser(), secret)).EnsureSuccessStatusCode();
        var kept = await Service.WithRecordsAsync(async db =>
            string.Concat(await db.Links.Select(l => l.Sha256).ToListAsync())
                + string.Concat(await db.Ledger.Where(l => l.Refresh == refresh).Select(l => l.Json + l.Words).ToListAsync()));
        kept.ShouldNotBeEmpty();
        kept.ShouldNotContain(secret);
    }

    private static async Task<T> AskAsync<T>(HttpClient by, string path, object body, string key)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, path)
        {
            Content = JsonContent.Create(body),
            Headers = { { "Idempotency-Key", key } }
        };
        return await OkAsync<T>(by.SendAsync(request));
    }

    private Task<string> KeptAnswerAsync(string key) =>
        Service.WithRecordsAsync(async db => await db.Answers.Where(a => a.Key == key).Select(a => a.Body).SingleAsync());

    [Fact]
    public async Task A_link_whose_reply_was_lost_is_asked_for_again_and_stands_nowhere_in_the_records()
    {
        var (path, key) = ($"api/swaps/{await MorningAsync()}-0001/person-links", Guid.NewGuid().ToString());
        var link = await AskAsync<PersonLinkMade>(Kit, path, new { }, key);
        (await AskAsync<PersonLinkMade>(Kit, path, new { }, key)).Address.ShouldBe(link.Address);
        (await OpenAsync(Service.Browser(), link.Address!.Split('#')[1])).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await KeptAnswerAsync(key)).ShouldNotContain(link.Address!.Split('#')[1]);
    }

    [Fact]
    public async Task A_code_and_the_token_that_it_gave_are_asked_for_again_and_stand_nowhere_in_the_records()
    {
        var (refresh, key) = (await MorningAsync(), Guid.NewGuid().ToString());
        Task<CodeMade> CodeAsync() => AskAsync<CodeMade>(Kit, $"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"), key);
        var code = await CodeAsync();
        (await CodeAsync()).Code.ShouldBe(code.Code);
        (await KeptAnswerAsync(key)).ShouldNotContain(code.Code);
        // The code is used, and the same request still gives the token.
        Task<Enrolled> EnrolAsync() =>
            AskAsync<Enrolled>(Service.Nobody(), "api/hand/enrol", new EnrolWanted(code.Code, "KB-1", "desk"), "enrol " + key);
        var enrolled = await EnrolAsync();
        (await EnrolAsync()).Token.ShouldBe(enrolled.Token);
        (await KeptAnswerAsync("enrol " + key)).ShouldNotContain(enrolled.Token);
    }

    [Fact]
    public async Task A_person_chooses_the_language_and_whether_mail_comes()
    {
        var ida = await DeviceAsync($"{await MorningAsync()}-0001");
        (await OkAsync<PersonPage>(PutAsync(ida, "language", new LanguageWanted("de")))).Language.ShouldBe("de");
        (await RefusedAsync(PutAsync(ida, "language", new LanguageWanted("xx")), 422)).ShouldContain("en and de");
        (await OkAsync<PersonPage>(PutAsync(ida, "mail", new MailWanted(true)))).MailOff.ShouldBeTrue();
    }

    [Fact]
    public async Task A_person_does_their_own_steps_and_none_of_a_technician()
    {
        var ida = await DeviceAsync($"{await MorningAsync()}-0001");
        (await PageAsync(ida)).Steps.Select(s => s.Key).ShouldBe(["noted", "ready", "programs-closed"]);
        foreach (var step in new[] { "noted", "ready", "ready" })
            (await OkAsync<PersonPage>(PutAsync(ida, $"steps/{step}", new PersonStep(true)))).Steps.First(s => s.Key == step)
                .ShouldSatisfyAllConditions(s => s.State.ShouldBe("done"), s => s.By.ShouldBe("Ida Moreau"));
        foreach (var step in new[] { "told", "staged" })
            (await PutAsync(ida, $"steps/{step}", new PersonStep(true))).StatusCode.ShouldBe(HttpStatusCode.NotFound, step);
    }

    [Fact]
    public async Task What_a_person_asks_reaches_once_who_looks_after_them_and_the_answer_comes_back()
    {
        var swap = $"{await MorningAsync()}-0001";
        var ida = await DeviceAsync(swap);
        await BookAsync(swap, "vera", 0);
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PostAsync(ida, "words", new PersonSays("question", "Does my <b>label printer</b> work?")))).Questions
                .Single().ShouldSatisfyAllConditions(
                    q => q.Words.ShouldBe("Does my <b>label printer</b> work?"), q => q.Answer.ShouldBeNull());
        var asked = (await Service.SwapAsync(swap)).FollowUps!.Single();
        (asked.Owner, asked.Holds, asked.Cause, asked.MadeBy).ShouldBe(("vera", FollowUpHold.Nothing, "question", "Ida Moreau"));
        (await PostAsync($"follow-ups/{asked.Id}/end", new FollowUpEnd("Yes, with the new driver."))).EnsureSuccessStatusCode();
        (await PageAsync(ida)).Questions.Single().Answer.ShouldBe("Yes, with the new driver.");
    }

    private static Task<HttpResponseMessage> AcceptAsync(HttpClient device, string facts, string name, string? drawn = null) =>
        PostAsync(device, "acceptance", new PersonAccepts(facts, name, drawn));

    /// <summary>Ida's page, when all work is done.</summary>
    private async Task<(string Swap, HttpClient Ida)> ToAcceptAsync()
    {
        var refresh = await MorningAsync();
        var ida = await DeviceAsync($"{refresh}-0001");
        await FinishAsync(refresh, $"{refresh}-0001", "KB-1", "KB-2");
        return ($"{refresh}-0001", ida);
    }

    [Fact]
    public async Task Nothing_is_accepted_that_is_not_there()
    {
        var ida = await DeviceAsync($"{await MorningAsync()}-0001");
        var page = await PageAsync(ida);
        page.RestoredAt.ShouldBeNull();
        (await AcceptAsync(ida, page.Acceptance.Facts!, "Ida Moreau")).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task What_a_person_says_is_missing_holds_their_acceptance_until_it_is_settled()
    {
        var (swap, ida) = await ToAcceptAsync();
        var page = await OkAsync<PersonPage>(PostAsync(ida, "words", new PersonSays("missing", "The tide tables")));
        page.Acceptance.Missing.ShouldContain(m => m.Contains("tide tables", StringComparison.Ordinal));
        var missing = (await Service.SwapAsync(swap)).FollowUps!.First(f => f.DoneAt is null);
        (missing.Holds, missing.Cause).ShouldBe((FollowUpHold.SignOff, "refusal"));
        (await AcceptAsync(ida, page.Acceptance.Facts!, "Ida Moreau")).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await PostAsync($"follow-ups/{missing.Id}/end", new FollowUpEnd("They were in the cloud."))).EnsureSuccessStatusCode();
        (await PageAsync(ida)).Acceptance.Missing.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_person_accepts_by_their_own_name_what_they_were_shown()
    {
        var (_, ida) = await ToAcceptAsync();
        var facts = (await PageAsync(ida)).Acceptance.Facts!;
        (await RefusedAsync(AcceptAsync(ida, facts, "Somebody Else"), 422)).ShouldContain("Ida Moreau");
        (await AcceptAsync(ida, new string('0', 64), "Ida Moreau")).StatusCode.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await PageAsync(ida)).Acceptance.By.ShouldBeNull();
    }

    [Fact]
    public async Task What_was_accepted_stands_on_the_page_the_line_and_the_paper()
    {
        var (swap, ida) = await ToAcceptAsync();
        var page = await OkAsync<PersonPage>(AcceptAsync(
            ida, (await PageAsync(ida)).Acceptance.Facts!, "ida moreau", "M1 2 L3 4"));
        (page.Acceptance.By, page.Acceptance.Witness, page.Acceptance.Drawn).ShouldBe(("Ida Moreau", null, "M1 2 L3 4"));
        page.Swap.Line.First(s => s.Station == Station.Accepted).At.ShouldNotBeNull();
        (await Kit.GetStringAsync($"api/swaps/{swap}/sign-offs/person/paper")).ShouldContain("Ida Moreau");
    }

    /// <summary>Ida's page after the survey; where files are sealed, if that is said.</summary>
    private async Task<(string Refresh, string Swap, HttpClient Ida)> SurveyedAsync(bool sealing = false)
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        await Service.DoAsync(swap, "survey", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 0));
        string[]? to = sealing ? [Carriage.Sealing.AgeIdentity.Create().Recipient.Text] : null;
        var depot = new DepotWanted("Cloud", "http://127.0.0.1:1/", SealTo: to);
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/cloud", depot)).EnsureSuccessStatusCode();
        return (refresh, swap, await DeviceAsync(swap));
    }

    [Fact]
    public async Task A_person_decides_what_comes_along_and_what_comes_first()
    {
        var (_, _, ida) = await SurveyedAsync();
        var list = (await OkAsync<PersonPage>(PutAsync(
            ida,
            "carry-list",
            new CarryChange([new("Documents/Old", "leave-out", "twice there"), new("Boats", "carry")], ["Documents"])))).CarryList!;
        list.Lines.Single(l => l.Path == "Documents/Old")
            .ShouldSatisfyAllConditions(l => l.By.ShouldBe("Ida Moreau"), l => l.Reason.ShouldBe("twice there"));
        list.First.ShouldBe(["Documents"]);
        (await PutAsync(ida, "carry-list", new CarryChange([new("Mail", "leave-out")]))).StatusCode
            .ShouldBe(HttpStatusCode.UnprocessableEntity, "without a reason");
    }

    [Fact]
    public async Task A_person_starts_their_first_trip_once_and_nothing_that_is_not_theirs()
    {
        var (_, swap, ida) = await SurveyedAsync();
        (await PostAsync(ida, "orders", new PersonOrder("purge"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await PageAsync(ida)).MaySelf.ShouldBe(["first-trip"]);
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PostAsync(ida, "orders", new PersonOrder("first-trip")))).MaySelf.ShouldBeEmpty();
        (await Service.WithRecordsAsync(async db => await db.Orders.CountAsync(o => o.Swap == swap && o.Kind == "first-trip"))).ShouldBe(1);
    }

    [Fact]
    public async Task Where_nothing_is_sealed_nobody_is_asked_for_a_passphrase()
    {
        var (_, _, ida) = await SurveyedAsync();
        (await PutAsync(ida, "passphrase", new PassphraseWanted("four words of mine"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await PageAsync(ida)).Passphrase.ShouldBeNull();
    }

    [Fact]
    public async Task A_passphrase_waits_encrypted_for_the_hand_and_a_short_one_is_refused()
    {
        var (_, swap, ida) = await SurveyedAsync(sealing: true);
        (await RefusedAsync(PutAsync(ida, "passphrase", new PassphraseWanted("short")), 422)).ShouldContain("12 to 200");
        (await OkAsync<PersonPage>(PutAsync(ida, "passphrase", new PassphraseWanted("four words of mine")))).Passphrase
            .ShouldBe(new(null, true));
        (await Service.WithRecordsAsync(async db => await db.Cargo.Where(c => c.Swap == swap).Select(c => c.Passphrase).FirstAsync()))!
            .ShouldNotContain("words of mine");
    }

    [Fact]
    public async Task The_hand_gets_the_passphrase_with_its_order_and_once_it_is_set_nobody_keeps_it()
    {
        var (refresh, swap, ida) = await SurveyedAsync(sealing: true);
        (await PutAsync(ida, "passphrase", new PassphraseWanted("four words of mine"))).EnsureSuccessStatusCode();
        (await PostAsync(ida, "orders", new PersonOrder("first-trip"))).EnsureSuccessStatusCode();
        var hand = await Service.HandAsync(refresh, "KB-1");
        var order = await OkAsync<OrderTaken>(hand.PostAsync("api/hand/orders/next?waitSeconds=1", null));
        (order.Kind, order.Passphrase).ShouldBe(("first-trip", "four words of mine"));
        (await Service.EndAsync(hand, order, RunningService.Result(10, 10) with { PassphraseSet = true })).EnsureSuccessStatusCode();
        (await PageAsync(ida)).Passphrase!.ShouldSatisfyAllConditions(p => p.SetAt.ShouldNotBeNull(), p => p.Waits.ShouldBeFalse());
        (await Service.SwapAsync(swap)).Checklist.Steps.First(s => s.Key == "passphrase").State.ShouldBe("done");
        (await Service.LedgerAsync(refresh)).ShouldAllBe(e => !e.Json.Contains("words of mine", StringComparison.Ordinal));
    }

    /// <summary>Four people's pages in a refresh that is published, with one technician; each may choose until it begins.</summary>
    private async Task<(string Refresh, HttpClient[] Devices)> ChoosersAsync()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        await ChooseHoursAsync(refresh, 0);
        return (refresh, await Task.WhenAll(new[] { 1, 2, 3, 4 }.Select(p => DeviceAsync($"{refresh}-000{p}"))));
    }

    private Task<int> ChooseHoursAsync(string refresh, int hours) => Service.WithRecordsAsync(async db =>
        await db.Refreshes.Where(r => r.Key == refresh).ExecuteUpdateAsync(r => r.SetProperty(x => x.ChooseHours, hours)));

    private static Task<SlotsSeen> SlotsAsync(HttpClient device) => OkAsync<SlotsSeen>(device.GetAsync("api/person/slots"));

    [Fact]
    public async Task Times_that_fit_are_offered_in_their_order_with_the_own_among_them()
    {
        var (_, devices) = await ChoosersAsync();
        var free = await SlotsAsync(devices[0]);
        free.Slots.Count.ShouldBeGreaterThan(10);
        free.Slots.Select(s => s.Start).ShouldBeInOrder();
        free.Slots.Single(s => s.IsOwn).Start.ShouldBe((await PageAsync(devices[0])).Swap.Appointment!.Start);
    }

    [Fact]
    public async Task Of_all_who_want_one_time_at_once_one_gets_it_and_the_others_keep_theirs()
    {
        var (_, devices) = await ChoosersAsync();
        var wanted = (await SlotsAsync(devices[0])).Slots.Last(s => !s.IsOwn).Start;
        var before = await Task.WhenAll(devices.Select(PageAsync));
        var answers = await Task.WhenAll(devices.Select(d => PutAsync(d, "slot", new SlotWanted(wanted))));
        answers.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        for (var i = 0; i < devices.Length; i++)
        {
            var got = answers[i].StatusCode == HttpStatusCode.OK;
            if (!got) (await RunningService.ProblemAsync(answers[i], 409))["code"]!.GetValue<string>().ShouldBe("slot.taken");
            (await PageAsync(devices[i])).Swap.Appointment!.Start.ShouldBe(got ? wanted : before[i].Swap.Appointment!.Start);
        }
    }

    [Fact]
    public async Task What_one_chose_is_gone_for_the_others_and_stays_in_the_next_plan()
    {
        var (refresh, devices) = await ChoosersAsync();
        var wanted = (await SlotsAsync(devices[0])).Slots.Last(s => !s.IsOwn).Start;
        foreach (var _ in new[] { 1, 2 })
            (await PutAsync(devices[0], "slot", new SlotWanted(wanted))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await SlotsAsync(devices[1])).Slots.ShouldAllBe(s => s.Start != wanted);
        await Service.PublishAsync(refresh, new(Steps: 2000));
        (await PageAsync(devices[0])).Swap.Appointment!.Start.ShouldBe(wanted);
    }

    [Fact]
    public async Task A_time_that_is_over_or_was_not_offered_is_refused()
    {
        var (_, devices) = await ChoosersAsync();
        (await RefusedAsync(PutAsync(devices[0], "slot", new SlotWanted(Service.Now.AddDays(-1))), 409)).ShouldContain("over, or too near");
        var odd = (await SlotsAsync(devices[0])).Slots[^1].Start.AddMinutes(7);
        await RefusedAsync(PutAsync(devices[0], "slot", new SlotWanted(odd)), 409);
    }

    [Fact]
    public async Task Who_is_too_late_to_choose_is_told_so_before_and_after()
    {
        var (refresh, devices) = await ChoosersAsync();
        var other = (await SlotsAsync(devices[0])).Slots.Last(s => !s.IsOwn).Start;
        await ChooseHoursAsync(refresh, 24 * 30);
        (await PageAsync(devices[0])).Booking.Refusal.ShouldBe("too-late");
        (await RefusedAsync(PutAsync(devices[0], "slot", new SlotWanted(other)), 409)).ShouldContain("too late");
    }
}
