using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.SignOffs;
using YardRelay.Records;

namespace YardRelay.Service.Tests;

public sealed class SqliteMovesTests(OnSqlite service) : MovesSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresMovesTests(OnPostgres service) : MovesSuite(service), IClassFixture<OnPostgres>;

/// <summary>Many swaps move to a newer version of their checklist. On every database.</summary>
public abstract class MovesSuite(RunningService service) : Morning(service)
{
    private const string Name = "Change of computer";

    private const string Newer = """
        name: Change of computer
        kinds: [renew]
        steps:
          - { key: told, phase: before, title: Told in time, kind: confirmation, marks: told }
          - { key: fresh, phase: after, title: Fresh, kind: tick }
        """;

    private Task<ChecklistsMoved> MoveAsync(string refresh, bool begunToo = false, bool dryRun = false) =>
        OkAsync<ChecklistsMoved>(
            Kit.PostAsJsonAsync($"api/refreshes/{refresh}/templates/moves", new ChecklistsMove(Name, null, begunToo, dryRun)));

    private async Task<IEnumerable<(int, int, int, int)>> UsesAsync(string refresh) =>
        (await OkAsync<List<TemplateUse>>(Kit.GetAsync($"api/refreshes/{refresh}/templates/uses")))
            .Where(u => u.Template == Name)
            .Select(u => (u.Version, u.Untouched, u.Begun, u.Signed));

    private async Task<int> VersionAsync(string refresh, int number) =>
        (await Service.SwapAsync($"{refresh}-{number:0000}")).Checklist.TemplateVersion;

    [Fact]
    public async Task Those_move_of_which_nothing_was_done_begun_ones_when_told_to_and_what_is_signed_never()
    {
        var refresh = await MorningAsync();
        (await Service.ClaimAsync($"{refresh}-0002", "printer", new("answered", Value: "prints"))).EnsureSuccessStatusCode();
        await Service.WithRecordsAsync(db =>
        {
            db.SignOffs.Add(new SignOffRow
            {
                Swap = $"{refresh}-0004",
                Part = SignOffPart.Technician,
                By = "noor",
                At = Service.Now,
                Saw = ""
            });
            return db.SaveChangesAsync();
        });
        (await UsesAsync(refresh)).ShouldBe([(1, 2, 1, 1)]);
        await OkAsync<TemplateSeen>(Kit.PostAsJsonAsync($"api/refreshes/{refresh}/templates", new { yaml = Newer, since = 1 }));

        var look = await MoveAsync(refresh, begunToo: true, dryRun: true);
        (look.Swaps, look.Left, look.NotFor, look.Done).ShouldBe((2, 0, 1, false));
        var printer = look.Steps.Single(s => s.Key == "printer");
        (printer.What, printer.Swaps, printer.DealtWith).ShouldBe(("dropped", 2, 1));
        (await VersionAsync(refresh, 1)).ShouldBe(1, "a look changes nothing");

        (await MoveAsync(refresh)).Swaps.ShouldBe(1);
        (await MoveAsync(refresh)).Swaps.ShouldBe(0, "asked again, nothing is left");
        (await UsesAsync(refresh)).ShouldBe([(2, 1, 0, 0), (1, 1, 1, 1)]);
        (await MoveAsync(refresh, begunToo: true)).Swaps.ShouldBe(1);
        (await VersionAsync(refresh, 3)).ShouldBe(1, "the newer version is not for its kind");
        (await VersionAsync(refresh, 4)).ShouldBe(1, "it is signed");
        (await Service.LedgerAsync(refresh)).Count(e => e.Json.Contains("checklist.moved", StringComparison.Ordinal)).ShouldBe(2);
    }

    [Fact]
    public async Task What_was_made_from_an_older_version_does_not_take_the_place_of_what_a_colleague_kept()
    {
        var refresh = await MorningAsync();
        async Task<HttpStatusCode> AddAsync(string yaml, int since) =>
            (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/templates", new { yaml, since })).StatusCode;
        (await AddAsync(Newer, 1)).ShouldBe(HttpStatusCode.OK);
        (await AddAsync(Newer.Replace("Fresh", "Clean", StringComparison.Ordinal), 1)).ShouldBe(HttpStatusCode.Conflict);
        (await AddAsync(Newer, 1)).ShouldBe(HttpStatusCode.OK, "the same once more is the same");
        (await AddAsync(Newer.Replace("Fresh", "Clean", StringComparison.Ordinal), 2)).ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Conditions_choose_from_what_the_roster_and_the_sites_have()
    {
        var refresh = await MorningAsync();
        var choices = await OkAsync<TemplateChoices>(Kit.GetAsync($"api/refreshes/{refresh}/templates/choices"));
        choices.Sites.ShouldBe([new("North", "North"), new("South", "South")]);
        choices.Facts.ShouldContain("free-disk");
        choices.Rooms.ShouldBeEmpty();
    }
}
