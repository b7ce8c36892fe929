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
    public async Task A_link_opens_on_one_device_only_and_whatever_else_is_tried_gets_nothing_and_is_counted()
    {
        var refresh = await MorningAsync();
        var (first, second, secret) = (Service.Nobody(), Service.Nobody(), await SecretAsync($"{refresh}-0001"));
        (await first.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await OpenAsync(first, secret)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await PageAsync(first)).Name.ShouldBe("Ida Moreau");
        // The same device again is no other one.
        (await OpenAsync(first, secret)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var (elsewhere, unknown, withdrawn, expired) = (
            await RefusedAsync("elsewhere"), await RefusedAsync("unknown"), await RefusedAsync("withdrawn"), await RefusedAsync("expired"));
        (await RunningService.ProblemAsync(await OpenAsync(second, secret), 404))["code"]!.GetValue<string>().ShouldBe("link.nothing");
        foreach (var wrong in new[] { "", secret[..^1], secret + "A", new string('A', 43), "' OR 1=1 --" })
            (await OpenAsync(second, wrong)).StatusCode.ShouldBe(HttpStatusCode.NotFound, wrong);
        (await second.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await RefusedAsync("elsewhere"), await RefusedAsync("unknown")).ShouldBe((elsewhere + 1, unknown + 5));
        // Of many devices at once one is the first.
        var race = await SecretAsync($"{refresh}-0002");
        (await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => OpenAsync(Service.Nobody(), race))))
            .Count(a => a.StatusCode == HttpStatusCode.NoContent)
            .ShouldBe(1);
        // A page is the person's own: nothing of the console, and no other swap.
        foreach (var path in new[] { $"api/swaps/{refresh}-0001", $"api/refreshes/{refresh}/swaps", "api/me" })
            (await first.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized, path);
        // Withdrawn, an open page is shut at once; one that ran out opens nothing.
        var late = await SecretAsync($"{refresh}-0001");
        await Service.WithRecordsAsync(async db =>
            await db.Links.Where(l => l.Swap == $"{refresh}-0001" && l.OpenedAt == null)
                .ExecuteUpdateAsync(l => l.SetProperty(x => x.Expires, Service.Now.AddSeconds(-1))));
        (await OpenAsync(second, late)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await OkAsync<PersonLinksWithdrawn>(Kit.DeleteAsync($"api/swaps/{refresh}-0001/person-links"))).Links.ShouldBe(1);
        (await first.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await OpenAsync(second, secret)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await RefusedAsync("withdrawn"), await RefusedAsync("expired")).ShouldBe((withdrawn + 1, expired + 1));
        // No record and no ledger has the secret.
        (await Service.WithRecordsAsync(async db =>
            string.Concat(await db.Links.Select(l => l.Sha256).ToListAsync())
                + string.Concat(await db.Ledger.Where(l => l.Refresh == refresh).Select(l => l.Json + l.Words).ToListAsync())))
            .ShouldNotContain(secret);
    }

    [Fact]
    public async Task An_answer_with_a_secret_can_be_asked_for_again_and_stands_nowhere_in_the_records()
    {
        var refresh = await MorningAsync();
        async Task<T> AskAsync<T>(string path, object body, string key)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, path)
            {
                Content = JsonContent.Create(body),
                Headers = { { "Idempotency-Key", key } }
            };
            return await OkAsync<T>(Kit.SendAsync(request));
        }

        var (key, other) = (Guid.NewGuid().ToString(), Guid.NewGuid().ToString());
        // The reply was lost: asked again it is the same link and the same code, not another.
        var link = await AskAsync<PersonLinkMade>($"api/swaps/{refresh}-0001/person-links", new { }, key);
        (await AskAsync<PersonLinkMade>($"api/swaps/{refresh}-0001/person-links", new { }, key)).Address.ShouldBe(link.Address);
        var code = await AskAsync<CodeMade>($"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"), other);
        (await AskAsync<CodeMade>($"api/refreshes/{refresh}/codes", new CodeWanted("KB-1"), other)).Code.ShouldBe(code.Code);
        (await OpenAsync(Service.Nobody(), link.Address.Split('#')[1])).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var kept = await Service.WithRecordsAsync(async db =>
            string.Concat(await db.Answers.Where(a => a.Key == key || a.Key == other).Select(a => a.Body).ToListAsync()));
        kept.ShouldNotBeEmpty();
        kept.ShouldNotContain(link.Address.Split('#')[1]);
        kept.ShouldNotContain(code.Code);
        // Enrolled with a lost reply: the code is used, and the same request still gives the token.
        using var bare = Service.Nobody();
        async Task<Enrolled> EnrolAsync()
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, "api/hand/enrol")
            {
                Content = JsonContent.Create(new EnrolWanted(code.Code, "KB-1", "desk")),
                Headers = { { "Idempotency-Key", "enrol " + key } }
            };
            return await OkAsync<Enrolled>(bare.SendAsync(request));
        }
        var enrolled = await EnrolAsync();
        (await EnrolAsync()).Token.ShouldBe(enrolled.Token);
        (await Service.WithRecordsAsync(async db => await db.Answers.Where(a => a.Key == "enrol " + key).Select(a => a.Body).SingleAsync()))
            .ShouldNotContain(enrolled.Token);
    }

    [Fact]
    public async Task A_person_does_their_own_steps_asks_and_accepts_or_says_what_is_missing()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        var ida = await DeviceAsync(swap);
        var page = await PageAsync(ida);
        page.Steps.Select(s => s.Key).ShouldBe(["noted", "ready", "programs-closed"]);
        (await OkAsync<PersonPage>(PutAsync(ida, "language", new LanguageWanted("de")))).Language.ShouldBe("de");
        (await RefusedAsync(PutAsync(ida, "language", new LanguageWanted("xx")), 422)).ShouldContain("en and de");
        (await OkAsync<PersonPage>(PutAsync(ida, "mail", new MailWanted(true)))).MailOff.ShouldBeTrue();
        foreach (var step in new[] { "noted", "ready", "ready" })
            page = await OkAsync<PersonPage>(PutAsync(ida, $"steps/{step}", new PersonStep(true)));
        page.Steps.First(s => s.Key == "ready").ShouldSatisfyAllConditions(s => s.State.ShouldBe("done"), s => s.By.ShouldBe("Ida Moreau"));
        // A technician's steps are not theirs.
        (await PutAsync(ida, "steps/told", new PersonStep(true))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await PutAsync(ida, "steps/staged", new PersonStep(true))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        // What is asked reaches who looks after it, once, and the answer comes back.
        await BookAsync(swap, "vera", 0);
        foreach (var _ in new[] { 1, 2 })
            page = await OkAsync<PersonPage>(PostAsync(ida, "words", new PersonSays("question", "Does my <b>label printer</b> work?")));
        page.Questions.Single().ShouldSatisfyAllConditions(
            q => q.Words.ShouldBe("Does my <b>label printer</b> work?"), q => q.Answer.ShouldBeNull());
        var asked = (await Service.SwapAsync(swap)).FollowUps!.Single();
        (asked.Owner, asked.Holds, asked.Cause, asked.MadeBy).ShouldBe(("vera", FollowUpHold.Nothing, "question", "Ida Moreau"));
        (await PostAsync($"follow-ups/{asked.Id}/end", new FollowUpEnd("Yes, with the new driver."))).EnsureSuccessStatusCode();
        (await PageAsync(ida)).Questions.Single().Answer.ShouldBe("Yes, with the new driver.");
        // Nothing can be accepted that is not there.
        page = await PageAsync(ida);
        page.RestoredAt.ShouldBeNull();
        (await PostAsync(ida, "acceptance", new PersonAccepts(page.Acceptance.Facts!, "Ida Moreau"))).StatusCode
            .ShouldBe(HttpStatusCode.Conflict);
        await FinishAsync(refresh, swap, "KB-1", "KB-2");
        page = await OkAsync<PersonPage>(PostAsync(ida, "words", new PersonSays("missing", "The tide tables")));
        page.Acceptance.Missing.ShouldContain(m => m.Contains("tide tables", StringComparison.Ordinal));
        var missing = (await Service.SwapAsync(swap)).FollowUps!.First(f => f.DoneAt is null);
        (missing.Holds, missing.Cause).ShouldBe((FollowUpHold.SignOff, "refusal"));
        (await PostAsync(ida, "acceptance", new PersonAccepts(page.Acceptance.Facts!, "Ida Moreau"))).StatusCode
            .ShouldBe(HttpStatusCode.Conflict);
        (await PostAsync($"follow-ups/{missing.Id}/end", new FollowUpEnd("They were in the cloud."))).EnsureSuccessStatusCode();
        page = await PageAsync(ida);
        page.Acceptance.Missing.ShouldBeEmpty();
        (await RefusedAsync(PostAsync(ida, "acceptance", new PersonAccepts(page.Acceptance.Facts!, "Somebody Else")), 422))
            .ShouldContain("Ida Moreau");
        (await PostAsync(ida, "acceptance", new PersonAccepts(new string('0', 64), "Ida Moreau"))).StatusCode
            .ShouldBe(HttpStatusCode.PreconditionFailed);
        page = await OkAsync<PersonPage>(PostAsync(
            ida, "acceptance", new PersonAccepts(page.Acceptance.Facts!, "ida moreau", "M1 2 L3 4")));
        (page.Acceptance.By, page.Acceptance.Witness, page.Acceptance.Drawn).ShouldBe(("Ida Moreau", null, "M1 2 L3 4"));
        page.Swap.Line.First(s => s.Station == Station.Accepted).At.ShouldNotBeNull();
        (await Kit.GetStringAsync($"api/swaps/{swap}/sign-offs/person/paper")).ShouldContain("Ida Moreau");
    }

    [Fact]
    public async Task A_person_decides_what_comes_along_and_starts_the_first_trip_and_gives_a_passphrase_where_files_are_sealed()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        var ida = await DeviceAsync(swap);
        await Service.DoAsync(swap, "survey", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 0));
        var page = await OkAsync<PersonPage>(PutAsync(
                ida,
                "carry-list",
                new CarryChange([new("Documents/Old", "leave-out", "twice there"), new("Boats", "carry")], ["Documents"])));
        page.CarryList!.Lines.Single(l => l.Path == "Documents/Old")
            .ShouldSatisfyAllConditions(l => l.By.ShouldBe("Ida Moreau"), l => l.Reason.ShouldBe("twice there"));
        page.CarryList.First.ShouldBe(["Documents"]);
        (await PutAsync(ida, "carry-list", new CarryChange([new("Mail", "leave-out")]))).StatusCode
            .ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await PutAsync(ida, "passphrase", new PassphraseWanted("four words of mine"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.Passphrase.ShouldBeNull();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/cloud",
            new DepotWanted("Cloud", "http://127.0.0.1:1/", SealTo: [
                Carriage.Sealing.AgeIdentity.Create().Recipient.Text
            ]))).EnsureSuccessStatusCode();
        (await RefusedAsync(PutAsync(ida, "passphrase", new PassphraseWanted("short")), 422)).ShouldContain("12 to 200");
        (await OkAsync<PersonPage>(PutAsync(ida, "passphrase", new PassphraseWanted("four words of mine")))).Passphrase
            .ShouldBe(new(null, true));
        (await Service.WithRecordsAsync(async db => await db.Cargo.Where(c => c.Swap == swap).Select(c => c.Passphrase).FirstAsync()))!
            .ShouldNotContain("words of mine");
        (await PostAsync(ida, "orders", new PersonOrder("purge"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.MaySelf.ShouldBe(["first-trip"]);
        foreach (var _ in new[] { 1, 2 })
            (await OkAsync<PersonPage>(PostAsync(ida, "orders", new PersonOrder("first-trip")))).MaySelf.ShouldBeEmpty();
        // The hand gets the passphrase with its order, and once it is set nobody keeps it.
        var hand = await Service.HandAsync(refresh, "KB-1");
        var order = await OkAsync<OrderTaken>(hand.PostAsync("api/hand/orders/next?waitSeconds=1", null));
        (order.Kind, order.Passphrase).ShouldBe(("first-trip", "four words of mine"));
        (await Service.EndAsync(hand, order, RunningService.Result(10, 10) with { PassphraseSet = true })).EnsureSuccessStatusCode();
        (await PageAsync(ida)).Passphrase!.ShouldSatisfyAllConditions(p => p.SetAt.ShouldNotBeNull(), p => p.Waits.ShouldBeFalse());
        (await Service.SwapAsync(swap)).Checklist.Steps.First(s => s.Key == "passphrase").State.ShouldBe("done");
        (await Service.LedgerAsync(refresh)).ShouldAllBe(e => !e.Json.Contains("words of mine", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Times_that_fit_are_offered_and_no_slot_is_given_twice()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        (await Service.RosterAsync(refresh, Roster)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        await Service.WithRecordsAsync(async db =>
            await db.Refreshes.Where(r => r.Key == refresh).ExecuteUpdateAsync(r => r.SetProperty(x => x.ChooseHours, 0)));
        var people = new[] { "0001", "0002", "0003", "0004" };
        var devices = await Task.WhenAll(people.Select(p => DeviceAsync($"{refresh}-{p}")));
        var free = await OkAsync<SlotsSeen>(devices[0].GetAsync("api/person/slots"));
        free.Slots.Count.ShouldBeGreaterThan(10);
        free.Slots.Select(s => s.Start).ShouldBeInOrder();
        free.Slots.Single(s => s.IsOwn).Start.ShouldBe((await PageAsync(devices[0])).Swap.Appointment!.Start);
        // All want the same hour of the one technician there is: one gets it, the others keep theirs.
        var wanted = free.Slots.Last(s => !s.IsOwn).Start;
        var before = await Task.WhenAll(devices.Select(PageAsync));
        var answers = await Task.WhenAll(devices.Select(d => PutAsync(d, "slot", new SlotWanted(wanted))));
        answers.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        foreach (var (answer, i) in answers.Select((a, i) => (a, i)).Where(x => x.a.StatusCode != HttpStatusCode.OK))
        {
            (await RunningService.ProblemAsync(answer, 409))["code"]!.GetValue<string>().ShouldBe("slot.taken");
            (await PageAsync(devices[i])).Swap.Appointment!.Start.ShouldBe(before[i].Swap.Appointment!.Start);
        }
        var winner = Array.FindIndex(answers, a => a.StatusCode == HttpStatusCode.OK);
        (await PageAsync(devices[winner])).Swap.Appointment!.Start.ShouldBe(wanted);
        (await PutAsync(devices[winner], "slot", new SlotWanted(wanted))).StatusCode.ShouldBe(HttpStatusCode.OK);
        // What was chosen is gone for the others, and a plan made later keeps it.
        var other = (winner + 1) % devices.Length;
        (await OkAsync<SlotsSeen>(devices[other].GetAsync("api/person/slots"))).Slots.ShouldAllBe(s => s.Start != wanted);
        await Service.PublishAsync(refresh, new(Steps: 2000));
        (await PageAsync(devices[winner])).Swap.Appointment!.Start.ShouldBe(wanted);
        (await RefusedAsync(PutAsync(devices[other], "slot", new SlotWanted(Service.Now.AddDays(-1))), 409))
            .ShouldContain("over, or too near");
        (await RefusedAsync(PutAsync(devices[other], "slot", new SlotWanted(wanted.AddMinutes(7))), 409)).ShouldNotBeEmpty();
        await Service.WithRecordsAsync(async db =>
            await db.Refreshes.Where(r => r.Key == refresh).ExecuteUpdateAsync(r => r.SetProperty(x => x.ChooseHours, 24 * 30)));
        var late = await PageAsync(devices[other]);
        late.Booking.Refusal.ShouldBe("too-late");
        (await RefusedAsync(
            PutAsync(devices[other], "slot", new SlotWanted(free.Slots.First(s => s.Start != late.Swap.Appointment!.Start).Start)), 409))
            .ShouldContain("too late");
    }
}
