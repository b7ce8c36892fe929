using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Orders;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteSwapListTests(OnSqlite service) : SwapListSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSwapListTests(OnPostgres service) : SwapListSuite(service), IClassFixture<OnPostgres>;

/// <summary>The list of swaps; on every database.</summary>
public abstract class SwapListSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    /// <summary>Fifty-seven swaps at two sites, a third of them with a name of signs that a search must not take for patterns.</summary>
    private async Task<string> ManyAsync()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var csv = "person,name,site,kind,old_tag,new_tag,room\n"
            + string.Concat(Enumerable.Range(0, 57).Select(i =>
                $"k{i},{(i % 3 == 0 ? "Ada" : i % 3 == 1 ? "Öl_a%" : "Zoe")} {i % 7},{(i % 2 == 0 ? "North" : "South")},renew,O-{i},N-"
                    + $"{i},Room {i}\n"));
        (await service.RosterAsync(refresh, csv)).EnsureSuccessStatusCode();
        await service.PublishAsync(refresh, new(Steps: 0));
        return refresh;
    }

    private async Task<Page<SwapListed>> PageAsync(string refresh, string asked) =>
        (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?{asked}", RunningService.Json))!;

    [Theory]
    [InlineData("name")]
    [InlineData("time")]
    [InlineData("station")]
    public async Task Page_by_page_each_swap_comes_once_in_its_order(string sort)
    {
        var refresh = await ManyAsync();
        var (seen, cursor) = (new List<SwapListed>(), "");
        do
        {
            var page = await PageAsync(refresh, $"limit=10&sort={sort}&cursor={cursor}");
            page.Total.ShouldBe(57);
            seen.AddRange(page.Items);
            cursor = page.Next;
        }
        while (cursor is not null);
        seen.Select(s => s.Id).Distinct().Count().ShouldBe(57);
        if (sort == "time") seen.Select(s => s.Appointment?.Start ?? DateTimeOffset.MaxValue).ShouldBeInOrder();
        if (sort == "station") seen.Select(s => s.Next).ShouldBeInOrder();
    }

    [Fact]
    public async Task What_failed_is_no_sign_any_more_once_a_later_order_is_done()
    {
        var refresh = await service.RefreshAsync();
        var (swap, hand) = ($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        await service.DoAsync(swap, "first-trip", hand, HandReport.Failed("the disk is away"));
        (await service.SwapAsync(swap)).Swap.Sign.Words.ShouldBe("First trip failed: the disk is away");
        await service.DoAsync(swap, "first-trip", hand, RunningService.Result(3, 3));
        await service.DoAsync(swap, "verify", hand, HandReport.Fine);
        (await service.SwapAsync(swap)).Swap.Sign.Sign.ShouldBe("ahead");
        (await PageAsync(refresh, "")).Items.Single(s => s.Id == swap).Sign.Sign.ShouldBe("ahead");
    }

    [Fact]
    public async Task Swaps_are_found_by_what_is_written_and_by_what_they_are()
    {
        var refresh = await ManyAsync();
        foreach (var (asked, found) in new[]
        {
            ("q=ada", 19),
            ("q=" + Uri.EscapeDataString("l_a%"), 19),
            ("q=" + Uri.EscapeDataString("_"), 19),
            ("q=O-56", 1),
            ("q=room+5", 8),
            ("site=South", 28),
            ("kind=leave", 0),
            ("kind=RENEW&site=North", 29)
        })
            (await PageAsync(refresh, asked)).Total.ShouldBe(found, asked);
    }

    [Fact]
    public async Task Every_swap_reaches_just_one_station_next()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var kinds = Enum.GetNames<SwapKind>();
        (await service.RosterAsync(refresh, "person,name,site,kind,old_tag,new_tag,receiver\n" + string.Concat(kinds.Select((kind, i) =>
            $"k{i},Person {i},North,{kind.ToLowerInvariant()},{(kind is "Issue" or "Rescue" ? "" : $"O-{i}")},"
                + $"{(kind is "Leave" or "Reimage" ? "" : $"N-{i}")},{(kind == "Leave" ? "k0" : "")}\n")))).EnsureSuccessStatusCode();
        var all = await PageAsync(refresh, "limit=500");
        all.Total.ShouldBe(kinds.Length);
        var counts = new List<long>();
        foreach (var station in Enum.GetNames<Station>()) counts.Add((await PageAsync(refresh, $"next={station}")).Total);
        counts.Sum().ShouldBe(all.Total);
    }

    [Theory]
    [InlineData("limit=0", "use 1 to 500")]
    [InlineData("limit=501", "use 1 to 500")]
    [InlineData("kind=flood", "is not a kind of swap")]
    [InlineData("next=moon", "is not a station")]
    [InlineData("sort=luck", "name, time or station")]
    [InlineData("cursor=nonsense", "not one of ours")]
    [InlineData("cursor=WyJuYW1lIiwiYSIsImIiXQ&sort=time", "another order")]
    [InlineData("cursor=WyJ0aW1lIiwieCIsImIiXQ&sort=time", "not one of ours")]
    [InlineData("cursor=WyJ0aW1lIiwiLTkyMjMzNzIwMzY4NTQ3NzU4MDgiLCJiIl0&sort=time", "not one of ours")]
    [InlineData("cursor=WyJzdGF0aW9uIiwieCIsImIiXQ&sort=station", "not one of ours")]
    [InlineData("cursor=WyJuYW1lIixudWxsLG51bGxd", "not one of ours")]
    public async Task What_no_list_can_be_asked_for_is_refused_in_words(string asked, string words)
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        (await RunningService.ProblemAsync(await Kit.GetAsync($"api/refreshes/{refresh}/swaps?{asked}"), 400))["detail"]!
            .GetValue<string>().ShouldContain(words);
    }
}
