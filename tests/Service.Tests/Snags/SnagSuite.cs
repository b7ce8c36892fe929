using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;
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
        await RunningService.ProblemAsync(await WaiveAsync(Kit, refresh, ids, "xxxxxxxx"), 422);
        await RunningService.ProblemAsync(await WaiveAsync(Kit, refresh, [.. ids, "none"], "not needed any more"), 404);
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

    private static HandReport Doubted(long gone)
    {
        var (known, same) = (new Amount(40, 400), new Amount(40 - gone, 400 - (gone * 10)));
        var photos = new FolderOverlap("Photos", known, same, Amount.None, Amount.None);
        var doubt = new SourceDoubt(DoubtKind.FoldersGone, 1, known, same, Amount.None, Amount.None, [photos], []);
        return HandReport.Failed($"It is another disk. {doubt.Words}") with { Doubt = doubt };
    }

    /// <summary>Ida's files are staged and verified; then a trip finds so many of them gone that it stops.</summary>
    private async Task<(string Swap, HttpClient Hand, SnagListed Snag)> DoubtedAsync()
    {
        var refresh = await service.RefreshAsync();
        var (swap, hand) = ($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        await service.DoAsync(swap, "first-trip", hand, RunningService.Result(40, 40));
        await service.DoAsync(swap, "verify", hand, HandReport.Fine);
        await service.DoAsync(swap, "top-up-trip", hand, Doubted(20));
        return (swap, hand, (await SnagsAsync(refresh)).Items.Single());
    }

    private static Task<HttpResponseMessage> AnswerAsync(HttpClient by, SnagListed snag, SourceVerdict verdict, string why) =>
        by.PostAsJsonAsync($"api/snags/{snag.Snag.Id}/source", new SourceAnswerWanted(verdict, why), RunningService.Json);

    [Fact]
    public async Task A_source_that_looks_like_another_shuts_every_gate_until_a_person_has_said_what_it_is()
    {
        var (swap, hand, snag) = await DoubtedAsync();
        snag.Snag.Kind.ShouldBe(SnagKind.SourceDoubted);
        snag.Ways.ShouldBe(["top-up-trip", "source"]);
        var shut = await service.SwapAsync(swap);
        shut.Swap.Line.Single(s => s.Station == Station.Staged).At.ShouldBeNull();
        (await service.OrderAsync(swap, new("restore"))).StatusCode.ShouldBe(System.Net.HttpStatusCode.Conflict);
        (await WaiveAsync(Kit, shut.Swap.Id[..shut.Swap.Id.LastIndexOf('-')], [snag.Snag.Id], "not needed")).EnsureSuccessStatusCode();
        (await service.SwapAsync(swap)).Snags.Single().End.ShouldBe("open", "it is no file to give up");
        (await AnswerAsync(Kit, snag, SourceVerdict.Deleted, "Ida deleted them")).EnsureSuccessStatusCode();
        (await service.OrderAsync(swap, new("top-up-trip"))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        order.Work.ShouldBeOfType<TripWork>().Source.ShouldBe(new(SourceVerdict.Deleted, 20, "kit", "Ida deleted them"));
        (await service.EndAsync(hand, order, RunningService.Result(20, 20))).EnsureSuccessStatusCode();
        (await service.SwapAsync(swap)).Snags.Single().End.ShouldBe("retried");
    }

    [Fact]
    public async Task More_loss_than_the_answer_was_about_asks_again()
    {
        var (swap, hand, snag) = await DoubtedAsync();
        (await AnswerAsync(Kit, snag, SourceVerdict.Deleted, "Ida deleted them")).EnsureSuccessStatusCode();
        await service.DoAsync(swap, "top-up-trip", hand, Doubted(30));
        var again = (await service.SwapAsync(swap)).Snags.Single();
        (again.End, again.EndReason, again.Id).ShouldBe(("open", null, snag.Snag.Id));
        (await service.OrderAsync(swap, new("top-up-trip"))).EnsureSuccessStatusCode();
        (await RunningService.TakeAsync(hand)).Work.ShouldBeOfType<TripWork>().Source.ShouldBeNull();
    }

    [Fact]
    public async Task Nobody_from_another_site_and_nobody_without_a_reason_says_what_a_source_is()
    {
        var (swap, _, snag) = await DoubtedAsync();
        var south = await service.AccountAsync($"south{swap}", "technician", "South");
        await RunningService.ProblemAsync(await AnswerAsync(south, snag, SourceVerdict.Deleted, "she did"), 403);
        await RunningService.ProblemAsync(await AnswerAsync(Kit, snag, SourceVerdict.Deleted, " "), 422);
        await RunningService.ProblemAsync(await AnswerAsync(Kit, snag, SourceVerdict.Same, "it moved"), 422);
        (await service.SwapAsync(swap)).Snags.Single().End.ShouldBe("open");
    }
}
