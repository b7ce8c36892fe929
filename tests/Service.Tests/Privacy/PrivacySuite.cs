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

public sealed class SqlitePrivacyTests(OnSqlite service) : PrivacySuite(service), IClassFixture<OnSqlite>;

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

    [Fact]
    public async Task What_is_kept_about_a_person_is_given_out_whole_and_erased_stands_nowhere_while_the_chain_stays_whole()
    {
        var refresh = await Service.RefreshAsync(withRoster: false);
        // A name that JSON writes otherwise, and one that is the beginning of another's.
        (await Service.RosterAsync(
            refresh,
            "person,name,mail,site,kind,old_tag,new_tag\nbo-77,Bo Lindqvïst,bo@kestrelbay.example,North,renew,KB-1,KB-2\nbo-7,Bo "
                + "Lind,lind@kestrelbay.example,North,renew,KB-3,KB-4\n")).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        var (swap, other) = ($"{refresh}-0001", $"{refresh}-0002");
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/choosing", new ChoosingRules(2), RunningService.Json)).EnsureSuccessStatusCode();
        var (bo, lind) = (await DeviceAsync(swap), await DeviceAsync(other));
        await Service.DoAsync(swap, "survey", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 0));
        (await PutAsync(
            bo, "carry-list", new CarryChange([new("Documents/Diary of Bo", "leave-out", "mine alone")]))).EnsureSuccessStatusCode();
        (await PostAsync(bo, "words", new PersonSays("question", "Does my diary come along?"))).EnsureSuccessStatusCode();
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

        var kept = await OkAsync<KeptSeen>(bo.GetAsync("api/person/kept"));
        kept.ShouldBe(await OkAsync<KeptSeen>(Kit.GetAsync($"api/swaps/{swap}/person/kept")), new SameKept());
        kept.Parts.Select(p => p.Kind).ShouldBe(
            ["person", "appointments", "computers", "inventory", "folders", "steps", "words", "links", "history"], ignoreOrder: true);
        using (var zip = new ZipArchive(await bo.GetStreamAsync("api/person/export")))
        {
            await using var document = await zip.GetEntry("person.json")!.OpenAsync();
            var all = (await JsonNode.ParseAsync(document))!;
            all["person"]!["mail"]!.GetValue<string>().ShouldBe("bo@kestrelbay.example");
            var mine = all["swaps"]!.AsArray().ShouldHaveSingleItem()!;
            mine["carryList"]!.ToJsonString().ShouldContain("mine alone");
            mine["followUps"]!.ToJsonString().ShouldContain("Does my diary");
            mine["history"]!.AsArray().Count.ShouldBe((int)kept.Parts.Single(p => p.Kind == "history").Count);
            all.ToJsonString().ShouldNotContain("lind@");
        }

        Task<HttpResponseMessage> EraseAsync(string reason) =>
            Kit.PostAsJsonAsync($"api/swaps/{swap}/person/erasure", new ErasureWanted(reason), RunningService.Json);
        (await RefusedAsync(EraseAsync(" "), 422)).ShouldContain("why");
        (await RefusedAsync(EraseAsync("asked for"), 409)).ShouldContain("under way");
        (await bo.PostAsJsonAsync($"api/swaps/{swap}/person/erasure", new ErasureWanted("x"), RunningService.Json)).StatusCode
            .ShouldBe(HttpStatusCode.Unauthorized);
        (await PostAsync(bo, "words", new PersonSays("erasure", "Please erase it."))).EnsureSuccessStatusCode();

        // The swap comes to its end.
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
                Holder = "Bo Lindqvïst",
                WipedAt = Service.Now.AddDays(-35),
                WipeMethod = "m",
                WipeResult = "r",
                WipeEvidence = "Bo Lindqvïst looked on",
                WipedBy = "Noor"
            });
            return await db.SaveChangesAsync();
        });
        (await AllTextAsync()).ShouldContain(t => t.Text.Contains("Lindqv"));
        var before = await Service.LedgerAsync(refresh);
        // Kept for ninety days it stays; for thirty it goes by itself.
        await KeepAsync(90);
        (await OkAsync<KeptSeen>(Kit.GetAsync($"api/swaps/{swap}/person/kept")))
            .ShouldSatisfyAllConditions(
                k => k.Missing.ShouldBeEmpty(),
                k => k.ErasesOn.ShouldBe(DrivenClock.Today.AddDays(-35).AddDays(90)),
                k => k.ErasedAt.ShouldBeNull());
        await using (var early = Service.StartAnother())
        {
            early.CreateClient().Dispose();
            await early.Services.GetServices<IHostedService>().OfType<Privacy.ErasureLook>().Single()
                .RoundAsync(TestContext.Current.CancellationToken);
            (await Service.SwapAsync(swap)).Swap.Name.ShouldBe("Bo Lindqvïst");
        }
        await KeepAsync(30);
        await using (var late = Service.StartAnother())
        {
            late.CreateClient().Dispose();
            for (var until = DateTime.UtcNow.AddSeconds(30); (await Service.SwapAsync(swap)).Swap.Name == "Bo Lindqvïst";)
            {
                DateTime.UtcNow.ShouldBeLessThan(until, "a service that starts looks after what is over");
                await Task.Delay(100, TestContext.Current.CancellationToken);
            }
            await Task.Delay(TimeSpan.FromSeconds(1), TestContext.Current.CancellationToken);
        }

        var erased = await OkAsync<KeptSeen>(Kit.GetAsync($"api/swaps/{swap}/person/kept"));
        erased.ShouldSatisfyAllConditions(k => k.ErasedAt.ShouldNotBeNull(), k => k.Parts.ShouldBeEmpty());
        (await OkAsync<KeptSeen>(EraseAsync("once more"))).ErasedAt.ShouldBe(erased.ErasedAt);
        var left = await AllTextAsync();
        foreach (var word in new[] { "Lindqv", "bo@kestrelbay", "bo-77", "diary", "Diary" })
            left.Where(t => t.Text.Contains(word)).Select(t => t.Where).ShouldBeEmpty(word);
        Service.RawRecords().Contains("Lindqv", StringComparison.Ordinal).ShouldBeFalse("deleted rows are written over in the file");
        (await bo.GetAsync("api/person")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);

        // The other person, whose name begins alike, is untouched; so is the chain, and what it said before.
        (await PageAsync(lind)).Name.ShouldBe("Bo Lind");
        left.ShouldContain(t => t.Text.Contains("lind@kestrelbay.example"));
        var after = await Service.LedgerAsync(refresh);
        LedgerChain.Check(after, before[^1] is var last ? new(last.Number, last.Sha256) : null).ShouldBeEmpty();
        after.Take(before.Count).Select(e => e.Json).ShouldBe(before.Select(e => e.Json));
        after[^1].Json.ShouldContain("person.erased");
        var seen = await Service.SwapAsync(swap);
        (seen.Swap.Name, seen.Swap.Appointment!.Start).ShouldBe((
            "Erased person",
            (await Service.WithRecordsAsync(async db => await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap))).Start!.Value));

        async Task KeepAsync(int days) =>
            (await OkAsync<KeepingRules>(Kit.PutAsJsonAsync(
                $"api/refreshes/{refresh}/keeping", new KeepingRules(days), RunningService.Json))).Days
                .ShouldBe(days);
    }

    [Fact]
    public async Task Where_consent_is_asked_for_only_the_person_sees_names_of_files_until_they_allow_it()
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
        var ida = await DeviceAsync(swap);
        var page = await PageAsync(ida);
        (page.NamesAllowed, page.Snags.ShouldHaveSingleItem().Path).ShouldBe((false, "Documents/Letters/To the bank.docx"));
        async Task<string[]> StaffAsync()
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
            return [.. seen];
        }
        (await StaffAsync()).ShouldAllBe(text => !text.Contains("bank"));
        (await Service.SwapAsync(swap)).Snags.Single().Path.ShouldBe("Documents/….docx");
        (await OkAsync<Page<SnagListed>>(Kit.GetAsync($"api/refreshes/{refresh}/snags?q=bank"))).Items
            .ShouldBeEmpty("a name is not found out by asking for it");
        (await OkAsync<PersonPage>(PutAsync(ida, "names", new NamesWanted(true)))).NamesAllowed.ShouldBe(true);
        (await StaffAsync()).Count(text => text.Contains("bank")).ShouldBeGreaterThan(3);
        (await OkAsync<Page<SnagListed>>(Kit.GetAsync($"api/refreshes/{refresh}/snags?q=bank"))).Items.ShouldHaveSingleItem();
        (await OkAsync<PersonPage>(PutAsync(ida, "names", new NamesWanted(false)))).NamesAllowed.ShouldBe(false);
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
