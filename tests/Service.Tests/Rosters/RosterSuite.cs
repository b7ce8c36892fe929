using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteRosterTests(OnSqlite service) : RosterSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresRosterTests(OnPostgres service) : RosterSuite(service), IClassFixture<OnPostgres>;

/// <summary>A roster as it is taken; on every database.</summary>
public abstract class RosterSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task A_roster_is_taken_whole_or_not_at_all_and_twice_is_once()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var dry = (await (await service.RosterAsync(refresh, RunningService.Roster, dryRun: true)).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!;
        (dry.DryRun, dry.Added).ShouldBe((true, 3));
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Total.ShouldBe(0);
        var bad = await RunningService.ProblemAsync(
            await service.RosterAsync(refresh, RunningService.Roster.Replace(",South,", ",Nort,", StringComparison.Ordinal)), 422);
        bad["problems"]!.AsArray().Single()!["message"]!.GetValue<string>()
            .ShouldBe($"Roster line 3, column 'site', value 'Nort': this site is not in refresh '{refresh}'. It has North, South.");
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Total.ShouldBe(0);
        (await (await service.RosterAsync(refresh, RunningService.Roster)).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!.Added
            .ShouldBe(3);
        var ledger = (await service.LedgerAsync(refresh)).Count;
        var again = (await (await service.RosterAsync(refresh, RunningService.Roster)).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!;
        (again.Added, again.Changed, again.Same).ShouldBe((0, 0, 3));
        (await service.LedgerAsync(refresh)).Count.ShouldBe(ledger);
        var moved = (await (await service.RosterAsync(
            refresh, RunningService.Roster.Replace("Sol Okafor,South", "Sol Okafor,North", StringComparison.Ordinal))).Content
            .ReadFromJsonAsync<RosterTaken>(RunningService.Json))!;
        moved.Changes.Single().What.ShouldContain("South");
    }

    [Fact]
    public async Task A_roster_in_a_spreadsheets_own_alphabet_is_taken_and_one_that_is_too_large_or_all_alike_is_not()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        async Task<HttpResponseMessage> SendAsync(byte[] file) =>
            await Kit.PostAsync($"api/refreshes/{refresh}/roster", new ByteArrayContent(file)
            {
                Headers = { ContentType = new("text/csv") }
            });
        var latin = System.Text.CodePagesEncodingProvider.Instance.GetEncoding(1252)!;
        (await SendAsync(latin.GetBytes("Person;Name;Site;Kind;Old tag;New tag\nk1;Zoë Möller;North;renew;KB-1;KB-2\n"))).StatusCode
            .ShouldBe(HttpStatusCode.OK);
        (await service.SwapAsync($"{refresh}-0001")).Swap.Name.ShouldBe("Zoë Möller");
        (await RunningService.ProblemAsync(await SendAsync(new byte[(16 << 20) + 1]), 422))["code"]!.GetValue<string>()
            .ShouldBe("roster.size");
        var alike = "person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 300).Select(i => $"p{i},Person {i},North,renew,SAME,NEW-{i}\n"));
        var refused = await RunningService.ProblemAsync(await SendAsync(System.Text.Encoding.UTF8.GetBytes(alike)), 422);
        refused["problems"]!.AsArray().ShouldHaveSingleItem()!["message"]!.GetValue<string>()
            .ShouldBe(
                "Roster line 2, column 'old_tag', value 'SAME': 300 rows have this tag. Each computer has a tag of its own. Look whether "
                    + "the right column was matched.");
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps", RunningService.Json))!.Total.ShouldBe(1);
        // A large one is taken in one go, and the same again changes nothing.
        var many = System.Text.Encoding.UTF8.GetBytes("person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 3000).Select(i => $"m{i},Person {i},South,renew,O-{i},N-{i}\n")));
        (await (await SendAsync(many)).Content.ReadFromJsonAsync<RosterTaken>(RunningService.Json))!.Added.ShouldBe(3000);
        (await (await SendAsync(many)).Content.ReadFromJsonAsync<RosterTaken>(RunningService.Json))!.Same.ShouldBe(3000);
    }
}
