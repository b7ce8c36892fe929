using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ledger;
using YardRelay.Records;

namespace YardRelay.Service.Tests;

public sealed class SqlitePrivacyTests(OnSqlite service) : PrivacySuite(service), IClassFixture<OnSqlite>
{
    [Fact]
    public async Task What_an_erasure_could_not_write_over_at_once_the_next_look_does()
    {
        var word = $"Left{Guid.NewGuid():N}";
        await Service.WithRecordsAsync(async db =>
        {
            await db.Database.ExecuteSqlAsync($"PRAGMA secure_delete = OFF");
            db.Answers.Add(new() { Account = "kit", Key = word, Request = "PUT x", Body = word, At = Service.Now });
            await db.SaveChangesAsync();
            await db.Answers.Where(a => a.Key == word).ExecuteDeleteAsync();
            return await db.Database.ExecuteSqlAsync($"PRAGMA user_version = 1");
        });
        Service.RawRecords().ShouldContain(word);
        await LookAsync();
        Service.RawRecords().ShouldNotContain(word);
    }
}

public sealed class PostgresPrivacyTests(OnPostgres service) : PrivacySuite(service), IClassFixture<OnPostgres>;

/// <summary>What is kept about a person: shown, given out, and erased so that it stands nowhere any more. On every database.</summary>
public abstract class PrivacySuite(RunningService service) : OwnPages(service)
{
    /// <summary>Every text in every table, with where it stands.</summary>
    private Task<List<(string Where, string Text)>> AllTextAsync() => Service.WithRecordsAsync(async db =>
    {
        var found = new List<(string, string)>();
        await db.Database.OpenConnectionAsync();
        foreach (var table in db.Model.GetEntityTypes().Select(t => t.GetTableName()!).Distinct())
        {
            await using var command = db.Database.GetDbConnection().CreateCommand();
            command.CommandText = $"SELECT * FROM \"{table}\"";
            await using var reader = await command.ExecuteReaderAsync();
            while (await reader.ReadAsync())
                for (var i = 0; i < reader.FieldCount; i++)
                {
                    if (await reader.IsDBNullAsync(i)) continue;
                    var value = reader.GetValue(i);
                    found.Add(($"{table}.{reader.GetName(i)}", value is string[] many ? string.Join('\n', many) : value.ToString()!));
                }
        }
        return found;
    });

    /// <summary>Bo's swap under way with all that can be kept about a person, and Lind's, whose name begins alike.</summary>
    private sealed record Kept(string Refresh, string Swap, HttpClient Bo, HttpClient Lind);

    /// <summary>Unlike in any other test of the same database.</summary>
    private static string NameIn(string refresh) => $"Bo Lindqv{refresh}ïst";

    private async Task<Kept> KeptAsync()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        // A name that JSON writes otherwise, and one that is the beginning of another's.
        (await Service.RosterAsync(
            refresh,
            "person,name,mail,site,kind,old_tag,new_tag\n"
                + $"bo-77{refresh}.,{NameIn(refresh)},bo{refresh}@kestrelbay.example,North,renew,KB-1,KB-2\n"
                + "bo-7,Bo Lind,lind@kestrelbay.example,North,renew,KB-3,KB-4\n")).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        var (swap, other) = ($"{refresh}-0001", $"{refresh}-0002");
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/choosing", new ChoosingRules(2), RunningService.Json)).EnsureSuccessStatusCode();
        var (bo, lind) = (await DeviceAsync(swap), await DeviceAsync(other));
        await Service.DoAsync(swap, "survey", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 0));
        var stays = new CarryChange([new($"Documents/Diary{refresh}, Bo's", "leave-out", "mine alone")]);
        (await PutAsync(bo, "carry-list", stays)).EnsureSuccessStatusCode();
        var question = new PersonSays("question", $"Does my diary{refresh}, which is long, come along?");
        (await PostAsync(bo, "words", question)).EnsureSuccessStatusCode();
        (await PutAsync(lind, "offer", new OfferWanted(true))).EnsureSuccessStatusCode();
        (await PostAsync(
            bo,
            "exchanges",
            new ExchangeWanted((await OkAsync<SlotsSeen>(bo.GetAsync("api/person/slots"))).Offers[0].Offer))).EnsureSuccessStatusCode();
        var step = (await PageAsync(bo)).Steps[0].Key;
        using (var request = new HttpRequestMessage(HttpMethod.Put, $"api/person/steps/{step}")
        {
            Content = JsonContent.Create(new PersonStep(true)),
            Headers = { { "Idempotency-Key", Guid.NewGuid().ToString() } }
        })
            (await bo.SendAsync(request)).EnsureSuccessStatusCode();
        return new(refresh, swap, bo, lind);
    }

    private async Task<Kept> EndedAsync()
    {
        var kept = await KeptAsync();
        var (refresh, swap) = (kept.Refresh, kept.Swap);
        await Service.WithRecordsAsync(async db =>
        {
            await db.Swaps.Where(s => s.Id == swap).ExecuteUpdateAsync(s => s.SetProperty(x => x.AcceptedAt, Service.Now.AddDays(-40))
                .SetProperty(x => x.SwappedAt, Service.Now.AddDays(-41))
                .SetProperty(x => x.Trips, 0));
            await db.FollowUps.Where(f => f.Swap == swap && f.Cause != "erasure")
                .ExecuteUpdateAsync(f => f.SetProperty(x => x.DoneAt, Service.Now.AddDays(-40))
                    .SetProperty(x => x.DoneBy, "kit")
                    .SetProperty(x => x.Outcome, "It comes along, Bo."));
            await db.OldComputers.Where(c => c.Swap == swap).ExecuteDeleteAsync();
            db.OldComputers.Add(new()
            {
                Refresh = refresh,
                Tag = "KB-1",
                Swap = swap,
                Holder = NameIn(refresh),
                WipedAt = Service.Now.AddDays(-35),
                WipeMethod = "m",
                WipeResult = "r",
                WipeEvidence = $"{NameIn(refresh)} looked on",
                WipedBy = "Noor"
            });
            return await db.SaveChangesAsync();
        });
        return kept;
    }

    private Task<KeptSeen> SeenAsync(Kept kept) => OkAsync<KeptSeen>(Kit.GetAsync($"api/swaps/{kept.Swap}/person/kept"));

    private Task<HttpResponseMessage> EraseAsync(Kept kept, string reason) =>
        Kit.PostAsJsonAsync($"api/swaps/{kept.Swap}/person/erasure", new ErasureWanted(reason), RunningService.Json);

    private Task<KeptSeen> ErasedAsync(Kept kept) => OkAsync<KeptSeen>(EraseAsync(kept, "asked for"));

    private async Task KeepAsync(Kept kept, int days) => (await OkAsync<KeepingRules>(Kit.PutAsJsonAsync(
        $"api/refreshes/{kept.Refresh}/keeping", new KeepingRules(days), RunningService.Json))).Days.ShouldBe(days);

    /// <summary>What a service does about it that starts now.</summary>
    protected async Task LookAsync()
    {
        await using var other = Service.StartAnother();
        other.CreateClient().Dispose();
        await other.Services.GetServices<IHostedService>().OfType<Privacy.ErasureLook>().Single()
            .RoundAsync(TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task A_person_and_the_coordinator_are_told_alike_what_is_kept()
    {
        var kept = await KeptAsync();
        var seen = await OkAsync<KeptSeen>(kept.Bo.GetAsync("api/person/kept"));
        seen.ShouldBe(await SeenAsync(kept), new SameKept());
        seen.Parts.Select(p => p.Kind).ShouldBe(
            ["person", "appointments", "computers", "inventory", "folders", "steps", "words", "links", "history"], ignoreOrder: true);
    }

    [Fact]
    public async Task What_is_given_out_is_all_of_one_person_and_nothing_of_another()
    {
        var kept = await KeptAsync();
        var before = (await SeenAsync(kept)).Parts.Single(p => p.Kind == "history").Count;
        using var zip = new ZipArchive(await kept.Bo.GetStreamAsync("api/person/export"));
        await using var document = await zip.GetEntry("person.json")!.OpenAsync();
        var all = (await JsonNode.ParseAsync(document))!;
        all["person"]!["mail"]!.GetValue<string>().ShouldBe($"bo{kept.Refresh}@kestrelbay.example");
        var mine = all["swaps"]!.AsArray().ShouldHaveSingleItem()!;
        mine["carryList"]!.ToJsonString().ShouldContain("mine alone");
        mine["followUps"]!.ToJsonString().ShouldContain("Does my diary");
        mine["history"]!.AsArray().Count.ShouldBe((int)before);
        // That it was given out is history from then on.
        (await SeenAsync(kept)).Parts.Single(p => p.Kind == "history").Count.ShouldBe(before + 1);
        all.ToJsonString().ShouldNotContain("lind@");
    }

    [Fact]
    public async Task Nothing_is_erased_without_a_reason_while_a_swap_is_under_way_or_by_the_person_themselves()
    {
        var kept = await KeptAsync();
        (await RefusedAsync(EraseAsync(kept, " "), 422)).ShouldContain("why");
        (await RefusedAsync(EraseAsync(kept, "asked for"), 409)).ShouldContain("under way");
        (await kept.Bo.PostAsJsonAsync($"api/swaps/{kept.Swap}/person/erasure", new ErasureWanted("x"), RunningService.Json)).StatusCode
            .ShouldBe(HttpStatusCode.Unauthorized);
        (await SeenAsync(kept)).ErasedAt.ShouldBeNull();
    }

    [Fact]
    public async Task What_is_over_stays_for_as_many_days_as_are_set_and_then_goes_by_itself()
    {
        var kept = await EndedAsync();
        await KeepAsync(kept, 90);
        (await SeenAsync(kept)).ErasesOn.ShouldBe(DrivenClock.Today.AddDays(-35).AddDays(90), "the wipe was the last of it");
        await LookAsync();
        (await Service.SwapAsync(kept.Swap)).Swap.Name.ShouldBe(NameIn(kept.Refresh));
        await KeepAsync(kept, 30);
        await LookAsync();
        (await SeenAsync(kept)).ErasedAt.ShouldNotBeNull();
    }

    [Fact]
    public async Task What_was_erased_stands_nowhere()
    {
        var kept = await EndedAsync();
        var words = new[] { "Lindqv{0}ï", "bo{0}@kestrelbay", "bo-77{0}.", "diary{0},", "Diary{0}," }
            .Select(w => string.Format(w, kept.Refresh)).ToList();
        // Corrected before, as a roster is: what stood there first is nowhere but in the file's unused bytes.
        await Service.WithRecordsAsync(db => db.FollowUps.Where(f => f.Swap == kept.Swap)
            .ExecuteUpdateAsync(f => f.SetProperty(x => x.Outcome, $"Was{kept.Refresh}Here " + new string('x', 900))));
        await Service.WithRecordsAsync(db => db.FollowUps.Where(f => f.Swap == kept.Swap)
            .ExecuteUpdateAsync(f => f.SetProperty(x => x.Outcome, "It comes along.")));
        var before = await AllTextAsync();
        foreach (var word in words) before.ShouldContain(t => t.Text.Contains(word), word);
        (await PostAsync(kept.Bo, "words", new PersonSays("erasure", "Please erase it."))).EnsureSuccessStatusCode();
        (await ErasedAsync(kept)).Parts.ShouldBeEmpty();
        var left = await AllTextAsync();
        foreach (var word in words)
            left.Where(t => t.Text.Contains(word)).Select(t => t.Where).ShouldBeEmpty(word);
        var raw = Service.RawRecords();
        // A name's own letters beyond ASCII are two bytes in the file.
        words.Select(w => w.TrimEnd('ï')).Append($"Was{kept.Refresh}Here").Where(w => raw.Contains(w, StringComparison.Ordinal))
            .ShouldBeEmpty("what was deleted is written over in the file, also what was deleted long before");
    }

    [Fact]
    public async Task Who_was_erased_is_erased_once_and_their_page_is_shut()
    {
        var kept = await EndedAsync();
        var erased = await ErasedAsync(kept);
        Service.Clock.Jump(TimeSpan.FromMinutes(1));
        (await OkAsync<KeptSeen>(EraseAsync(kept, "once more"))).ErasedAt.ShouldBe(erased.ErasedAt);
        (await kept.Bo.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Whoever_else_there_is_stays_as_they_are_when_somebody_is_erased()
    {
        var kept = await EndedAsync();
        var start = (await Service.SwapAsync(kept.Swap)).Swap.Appointment!.Start;
        await ErasedAsync(kept);
        (await PageAsync(kept.Lind)).Name.ShouldBe("Bo Lind");
        (await AllTextAsync()).ShouldContain(t => t.Text.Contains("lind@kestrelbay.example"));
        var seen = await Service.SwapAsync(kept.Swap);
        (seen.Swap.Name, seen.Swap.Appointment!.Start).ShouldBe(("Erased person", start));
    }

    [Fact]
    public async Task An_erasure_leaves_the_chain_whole_with_all_that_it_said_before()
    {
        var kept = await EndedAsync();
        var before = await Service.LedgerAsync(kept.Refresh);
        await ErasedAsync(kept);
        var after = await Service.LedgerAsync(kept.Refresh);
        LedgerChain.Check(after, new(before[^1].Number, before[^1].Sha256)).ShouldBeEmpty();
        after.Take(before.Count).Select(e => e.Json).ShouldBe(before.Select(e => e.Json));
        after[^1].Json.ShouldContain("person.erased");
    }

    /// <summary>Names are asked for; Ida's letter to the bank could not be read.</summary>
    private async Task<(string Refresh, string Swap, HttpClient Ida)> AskedForNamesAsync()
    {
        var refresh = await Service.RefreshAsync();
        var swap = $"{refresh}-0001";
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/keeping", new KeepingRules(null, AsksForNames: true), RunningService.Json)).EnsureSuccessStatusCode();
        var hand = await Service.HandAsync(refresh, "KB-1");
        await Service.DoAsync(swap, "survey", hand, RunningService.Result(10, 0));
        await Service.DoAsync(
            swap,
            "first-trip",
            hand,
            RunningService.Result(10, 9) with
            {
                Snags = [new("Documents/Letters/To the bank.docx", SnagKind.Unreadable, 10, "It cannot be read.")]
            });
        return (refresh, swap, await DeviceAsync(swap));
    }

    private static async Task AllowAsync(HttpClient ida, bool names) =>
        (await OkAsync<PersonPage>(PutAsync(ida, "names", new NamesWanted(names)))).NamesAllowed.ShouldBe(names);

    /// <summary>All that the staff can read of a swap.</summary>
    private async Task<List<string>> StaffReadsAsync(string refresh, string swap)
    {
        List<string> seen = [];
        foreach (var path in new[]
        {
            $"swaps/{swap}",
            $"refreshes/{refresh}/snags",
            $"refreshes/{refresh}/today",
            $"refreshes/{refresh}/needs",
            $"refreshes/{refresh}/yard",
            $"refreshes/{refresh}/swaps",
            $"swaps/{swap}/report",
            $"swaps/{swap}/report.csv",
            $"refreshes/{refresh}/ledger"
        })
        {
            var answer = await Kit.GetAsync($"api/{path}");
            if (answer.IsSuccessStatusCode) seen.Add(await answer.Content.ReadAsStringAsync());
        }
        seen.Count.ShouldBeGreaterThan(6);
        return seen;
    }

    private async Task<Page<SnagListed>> SnagsNamedAsync(string refresh, string what) =>
        await OkAsync<Page<SnagListed>>(Kit.GetAsync($"api/refreshes/{refresh}/snags?q={what}"));

    [Fact]
    public async Task Where_consent_is_asked_for_only_the_person_sees_names_of_files()
    {
        var (refresh, swap, ida) = await AskedForNamesAsync();
        var page = await PageAsync(ida);
        (page.NamesAllowed, page.Snags.ShouldHaveSingleItem().Path).ShouldBe((false, "Documents/Letters/To the bank.docx"));
        (await StaffReadsAsync(refresh, swap)).ShouldAllBe(text => !text.Contains("bank"));
        (await Service.SwapAsync(swap)).Snags.Single().Path.ShouldBe("Documents/….docx");
    }

    [Fact]
    public async Task A_name_is_not_found_out_by_asking_for_it_until_it_may_be_seen()
    {
        var (refresh, _, ida) = await AskedForNamesAsync();
        (await SnagsNamedAsync(refresh, "bank")).Items.ShouldBeEmpty();
        await AllowAsync(ida, true);
        (await SnagsNamedAsync(refresh, "bank")).Items.ShouldHaveSingleItem();
    }

    [Fact]
    public async Task Names_are_seen_while_the_person_allows_it_and_not_after()
    {
        var (refresh, swap, ida) = await AskedForNamesAsync();
        await AllowAsync(ida, true);
        (await StaffReadsAsync(refresh, swap)).Count(text => text.Contains("bank")).ShouldBeGreaterThan(3);
        await AllowAsync(ida, false);
        (await StaffReadsAsync(refresh, swap)).ShouldAllBe(text => !text.Contains("bank"));
    }

    [Fact]
    public async Task What_was_waived_without_a_name_is_told_without_it_and_to_the_person_with_it()
    {
        var (_, swap, ida) = await AskedForNamesAsync();
        (await Kit.PostAsJsonAsync(
            $"api/snags/{(await Service.SwapAsync(swap)).Snags.Single().Id}/waiver",
            new WaiverWanted("not needed"),
            RunningService.Json)).EnsureSuccessStatusCode();
        (await Service.SwapAsync(swap)).History[0].Words.ShouldContain("waived Documents/….docx");
        (await PageAsync(ida)).Snags.Single().Path.ShouldBe("Documents/Letters/To the bank.docx");
    }

    private sealed class SameKept : IEqualityComparer<KeptSeen>
    {
        public bool Equals(KeptSeen? x, KeptSeen? y) =>
            x!.Name == y!.Name
                && x.Swaps.SequenceEqual(y.Swaps)
                && x.Parts.SequenceEqual(y.Parts)
                && x.Missing.SequenceEqual(y.Missing)
                && x.ErasesOn == y.ErasesOn;

        public int GetHashCode(KeptSeen obj) => obj.Name.GetHashCode(StringComparison.Ordinal);
    }
}
