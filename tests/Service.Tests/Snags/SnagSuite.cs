using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteSnagTests(OnSqlite service) : SnagSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSnagTests(OnPostgres service) : SnagSuite(service), IClassFixture<OnPostgres>;

/// <summary>Snags of all swaps: found, counselled, waived. On every database.</summary>
public abstract class SnagSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private static Snag Pipe(string path) => new(path, SnagKind.Pipe, 10, "It is a named pipe.");

    private async Task<Page<SnagListed>> SnagsAsync(string refresh, string query = "") =>
        (await Kit.GetFromJsonAsync<Page<SnagListed>>($"api/refreshes/{refresh}/snags?{query}", RunningService.Json))!;

    /// <summary>Five pipes at Ida's in the North, at Sol's in the South a pipe and a file that could not be read.</summary>
    private async Task<string> SevenSnagsAsync()
    {
        var refresh = await service.RefreshAsync();
        var north = await service.HandAsync(refresh, "KB-1");
        var pipes = Enumerable.Range(0, 5).Select(i => Pipe($"Documents/pipe{i}"));
        await service.DoAsync($"{refresh}-0001", "first-trip", north, RunningService.Result(10, 5, [.. pipes]));
        await service.DoAsync($"{refresh}-0001", "verify", north, HandReport.Fine);
        var south = await service.HandAsync(refresh, "KB-3");
        await service.DoAsync(
            $"{refresh}-0002",
            "first-trip",
            south,
            RunningService.Result(
                3, 1, Pipe("Documents/100%_sure"), new("Documents/locked", SnagKind.Unreadable, 10, "No right to read it.")));
        return refresh;
    }

    private async Task<List<string>> IdsAsync(string refresh) => [.. (await SnagsAsync(refresh)).Items.Select(p => p.Snag.Id)];

    private static Task<HttpResponseMessage> WaiveAsync(HttpClient by, string refresh, IReadOnlyList<string> ids, string reason) =>
        by.PostAsJsonAsync($"api/refreshes/{refresh}/waivers", new WaiversWanted(ids, reason));

    [Fact]
    public async Task Snags_of_all_swaps_stand_in_one_list_that_has_pages()
    {
        var refresh = await SevenSnagsAsync();
        var pages = new List<SnagListed>();
        for (string? cursor = ""; cursor is not null;)
        {
            var page = await SnagsAsync(refresh, $"limit=3&cursor={cursor}");
            (page.Total, page.Items.Count).ShouldBe((7, Math.Min(3, 7 - pages.Count)));
            pages.AddRange(page.Items);
            cursor = page.Next;
        }
        pages.Select(p => p.Snag.Id).Distinct().Count().ShouldBe(7);
        await RunningService.ProblemAsync(await Kit.GetAsync($"api/refreshes/{refresh}/snags?cursor=x"), 400);
    }

    [Fact]
    public async Task Each_snag_says_which_ways_lead_out_of_it()
    {
        var all = (await SnagsAsync(await SevenSnagsAsync())).Items;
        all.Single(p => p.Snag.Kind == SnagKind.Unreadable).Ways.ShouldBe(["top-up-trip", "waive"]);
        all.Where(p => p.Snag.Kind == SnagKind.Pipe).ShouldAllBe(p =>
            p.Ways.Count == 1 && p.Counsel.Contains("Waive", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Snags_are_found_by_kind_site_name_and_path_as_they_are_written()
    {
        var refresh = await SevenSnagsAsync();
        (await SnagsAsync(refresh, "kind=pipe&site=South")).Items.Single().Snag.Path.ShouldBe("Documents/100%_sure");
        (await SnagsAsync(refresh, "q=100%25_")).Items.Single().Name.ShouldBe("Sol Okafor");
        (await SnagsAsync(refresh, "q=ida")).Total.ShouldBe(5);
        await RunningService.ProblemAsync(await Kit.GetAsync($"api/refreshes/{refresh}/snags?kind=flood"), 400);
    }

    [Fact]
    public async Task Many_are_waived_with_a_reason_and_all_or_none_where_one_is_not_known()
    {
        var refresh = await SevenSnagsAsync();
        var ids = await IdsAsync(refresh);
        await RunningService.ProblemAsync(await WaiveAsync(Kit, refresh, ids, " "), 422);
        await RunningService.ProblemAsync(await WaiveAsync(Kit, refresh, [.. ids, "none"], "why"), 404);
        (await SnagsAsync(refresh)).Total.ShouldBe(7);
    }

    [Fact]
    public async Task A_technician_waives_together_what_is_at_their_sites_and_is_told_what_is_not()
    {
        var refresh = await SevenSnagsAsync();
        var north = await service.AccountAsync($"north{refresh}", "technician", "North");
        var made = (await (await WaiveAsync(north, refresh, await IdsAsync(refresh), "Pipes hold no content")).Content
            .ReadFromJsonAsync<WaiversMade>(RunningService.Json))!;
        (made.Waived, made.Skipped.Count).ShouldBe((5, 2));
        made.Skipped.ShouldAllBe(s => s.Contains("South is not one of your sites", StringComparison.Ordinal));
        (await service.SwapAsync($"{refresh}-0001")).Swap.Line
            .Single(s => s.Station == Station.Staged).At
            .ShouldNotBeNull("nothing is open there any more");
        (await SnagsAsync(refresh, "end=waived")).Items.ShouldAllBe(s =>
            s.Snag.EndReason == "Pipes hold no content" && s.Snag.EndedBy == $"north{refresh}");
    }
}
