using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using YardRelay.Contracts;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Records;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Tests;

public sealed class SqliteProofTests(OnSqlite service) : ProofSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresProofTests(OnPostgres service) : ProofSuite(service), IClassFixture<OnPostgres>;

/// <summary>Whoever changes the records by hand is found by the ledger, whatever they change.</summary>
public abstract class ProofSuite(RunningService service) : Morning(service)
{
    private Task<LedgerChecked> CheckAsync(string refresh) =>
        OkAsync<LedgerChecked>(Kit.GetAsync($"api/refreshes/{refresh}/ledger/check"));

    private Task<List<LedgerEntrySeen>> OfServiceAsync() => ReadAllAsync("api/service/ledger");

    private async Task<List<LedgerEntrySeen>> ReadAllAsync(string path)
    {
        var (all, cursor) = (new List<LedgerEntrySeen>(), "0");
        while (cursor is not null)
        {
            var page = await OkAsync<Page<LedgerEntrySeen>>(Kit.GetAsync($"{path}?limit=1000&cursor={cursor}"));
            all.AddRange(page.Items);
            cursor = page.Next;
        }
        return all;
    }

    /// <summary>A swap that is signed off by its technician, with a snag that was waived.</summary>
    private async Task<string> SignedAsync()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        await FinishAsync(refresh, swap, "KB-1", "KB-2");
        await SnagAsync($"w-{refresh}", $"{refresh}-0002");
        await SnagAsync($"o-{refresh}", $"{refresh}-0003");
        await OkAsync<SnagSeen>(PostAsync($"snags/w-{refresh}/waiver", new WaiverWanted("not needed")));
        (await PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Person, Name: "Ida Moreau"))).EnsureSuccessStatusCode();
        (await PostAsync($"swaps/{swap}/sign-offs", new SignOffWanted(SignOffPart.Technician))).EnsureSuccessStatusCode();
        return refresh;
    }

    [Fact]
    public async Task Each_change_of_the_records_by_hand_is_found()
    {
        var refresh = await SignedAsync();
        (await CheckAsync(refresh)).Faults.ShouldBeEmpty();
        foreach (var (words, change, back) in new (string, Func<YardDb, Task<int>>, Func<YardDb, Task<int>>)[]
        {
            ("the words beside it",
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Words, l => l.Words + "!")),
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Words, l => l.Words.Substring(0, l.Words.Length - 1)))),
            ("it was not 'eve' who did it",
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.By, "eve")),
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.By, "kit"))),
            ("the account that did it was not 'eve'",
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Account, "eve")),
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Account, "kit"))),
            ("told differently beside it",
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Kind, "x" )),
                db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Kind, l => l.Kind))),
        })
        {
            var kind = await Service.WithRecordsAsync(db => Entry(db, 3).Select(l => l.Kind).SingleAsync());
            await Service.WithRecordsAsync(change);
            (await CheckAsync(refresh)).Faults.ShouldContain(f => f.What.Contains(words) && f.Number == 3, words);
            await Service.WithRecordsAsync(back);
            await Service.WithRecordsAsync(db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Kind, kind)));
            (await CheckAsync(refresh)).Faults.ShouldBeEmpty(words);
        }
        await Service.WithRecordsAsync(db => Entry(db, 3).ExecuteUpdateAsync(u => u.SetProperty(l => l.Salt, "")));
        (await CheckAsync(refresh)).Faults.ShouldContain(f => f.What.Contains("no erasure says so"));

        IQueryable<LedgerRow> Entry(YardDb db, long number) => db.Ledger.Where(l => l.Refresh == refresh && l.Number == number);
    }

    [Fact]
    public async Task What_was_decided_in_the_tables_alone_is_named()
    {
        var refresh = await SignedAsync();
        await Service.WithRecordsAsync(async db =>
        {
            await db.Snags.Where(n => n.Id == $"o-{refresh}").ExecuteUpdateAsync(u => u.SetProperty(n => n.End, "waived"));
            await db.Swaps.Where(s => s.Id == $"{refresh}-0002")
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.RestoreSkippedAt, Service.Now));
            await db.SignOffs.Where(s => s.Swap == $"{refresh}-0001" && s.Part == SignOffPart.Person).ExecuteDeleteAsync();
            await db.SignOffs.Where(s => s.Swap == $"{refresh}-0001").ExecuteUpdateAsync(u => u.SetProperty(s => s.Saw, "{}"));
            db.SignOffs.Add(new() { Swap = $"{refresh}-0002", Part = SignOffPart.Person, By = "eve", Saw = "{}" });
            db.OldComputers.Add(new() { Refresh = refresh, Tag = "KB-3", Swap = $"{refresh}-0002", WipeResult = "done" });
            return await db.SaveChangesAsync();
        });
        var faults = (await CheckAsync(refresh)).Faults.Select(f => f.What).ToList();
        foreach (var part in new[]
        {
            $"snag o-{refresh} of swap {refresh}-0003 is waived",
            $"of swap {refresh}-0002 nothing is to be restored",
            $"swap {refresh}-0001 was signed off as person, and the records do not have it",
            $"what swap {refresh}-0001 was signed off with as technician",
            $"swap {refresh}-0002 is signed off as person",
            $"the old computer of swap {refresh}-0002 is wiped",
        })
            faults.ShouldContain(f => f.Contains(part), part);
        faults.Count.ShouldBe(6);
    }

    [Fact]
    public async Task A_history_made_anew_with_right_digests_lacks_the_services_signature()
    {
        var refresh = await MorningAsync();
        var kept = await CheckAsync(refresh);
        LedgerSeal.Holds(refresh, new(kept.Number, kept.Sha256), kept.Signature!, kept.PublicKey).ShouldBeTrue();
        await Service.WithRecordsAsync(async db =>
        {
            // The last entry never was; chain, count and digests all agree.
            var last = await db.Ledger.Where(l => l.Refresh == refresh).OrderByDescending(l => l.Number).Take(2).ToListAsync();
            db.Ledger.Remove(last[0]);
            var row = await db.Refreshes.SingleAsync(r => r.Key == refresh);
            (row.LedgerNumber, row.LedgerSha256) = (last[1].Number, last[1].Sha256);
            return await db.SaveChangesAsync();
        });
        (await CheckAsync(refresh)).Faults.Single().What.ShouldContain("did not sign it");
        await Service.WithRecordsAsync(db => db.Refreshes.Where(r => r.Key == refresh)
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.LedgerNumber, r => r.LedgerNumber + 1)));
        (await CheckAsync(refresh)).Faults.ShouldContain(f => f.What.Contains("its tail was cut off"));
        // Nothing is counted, and nothing signed: what is there is more than that.
        await Service.WithRecordsAsync(db => db.Refreshes.Where(r => r.Key == refresh).ExecuteUpdateAsync(u => u
            .SetProperty(r => r.LedgerNumber, 0)
            .SetProperty(r => r.LedgerSha256, LedgerHead.Empty.Sha256)
            .SetProperty(r => r.LedgerSignature, (string?)null)));
        (await CheckAsync(refresh)).Faults.Select(f => f.What).ShouldSatisfyAllConditions(
            all => all.ShouldContain(f => f.Contains("the newest that is counted")),
            all => all.ShouldContain(f => f.Contains("did not sign it")));
    }

    [Fact]
    public async Task An_erasure_says_which_entries_it_emptied()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0003";
        (await PostAsync($"swaps/{swap}/follow-ups", new FollowUpWanted("call Per Lunde", "kit"))).EnsureSuccessStatusCode();
        await Service.WithRecordsAsync(db => db.FollowUps.Where(f => f.Swap == swap).ExecuteDeleteAsync());
        await Service.WithRecordsAsync(db => db.Swaps.Where(s => s.Id == swap)
            .ExecuteUpdateAsync(s => s.SetProperty(r => r.CalledOffAt, Service.Now)));
        (await PostAsync($"swaps/{swap}/person/erasure", new ErasureWanted("asked"))).EnsureSuccessStatusCode();
        (await ReadAllAsync($"api/refreshes/{refresh}/ledger")).ShouldContain(e => e.Salt == "");
        (await CheckAsync(refresh)).Faults.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_becomes_of_accounts_and_who_comes_in_stands_in_the_services_own_ledger()
    {
        var name = $"lea-{Guid.NewGuid():N}";
        var lea = await Service.AccountAsync(name, "technician", "North");
        (await lea.PutAsJsonAsync("api/me/password", new PasswordChange(RunningService.Password, "another kestrel bay")))
            .EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync($"api/accounts/{name}/use", new AccountUse(true))).EnsureSuccessStatusCode();
        (await Kit.DeleteAsync($"api/accounts/{name}")).EnsureSuccessStatusCode();
        (await OfServiceAsync()).Where(e => e.Words.Contains(name)).Select(e => e.Words).ShouldBe([
            $"{name} ({name}) is made: technician at North",
            $"{name} signed in: test",
            $"{name} changed their password; signed out everywhere else",
            $"{name} ({name}) is disabled",
            $"{name} ({name}) is removed"
        ]);
        (await OkAsync<LedgerChecked>(Kit.GetAsync("api/service/ledger/check"))).Faults.ShouldBeEmpty();
    }

    [Fact]
    public async Task Refused_sign_ins_are_one_entry_and_what_was_typed_for_a_name_stands_nowhere()
    {
        var name = $"lea-{Guid.NewGuid():N}";
        await Service.AccountAsync(name, "technician", "North");
        for (var tries = 0; tries < 3; tries++)
            await RefusedAsync(Service.Nobody().PostAsJsonAsync("api/tokens", new NewToken(name, "wrong guess at it", "test")), 401);
        await RefusedAsync(Service.Nobody().PostAsJsonAsync("api/tokens", new NewToken("my secret by mistake", "kit", "test")), 401);
        await Service.Services.GetRequiredService<RefusedSignIns>().EnterAsync(default);
        var refused = (await OfServiceAsync()).FindAll(e => e.Json.Contains("sign-in.refused"));
        refused.ShouldContain(e => e.Words.Contains("under names that no account has"));
        refused.ShouldAllBe(e => !e.Words.Contains("my secret"));
        // The service may have entered some of them by itself meanwhile.
        refused.Where(e => e.Words.Contains(name)).Count().ShouldBeInRange(1, 2);
    }

    [Fact]
    public async Task Nobody_takes_the_name_under_which_another_is_shown()
    {
        foreach (var shown in new[] { "KIT", "the System", "K\u200Bit", " kit" })
            await RefusedAsync(Kit.PutAsJsonAsync(
                "api/accounts/eve", new AccountWanted(shown, "technician", RunningService.Password, ["North"])), 422);
    }
}
