using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Orders;

namespace YardRelay.Service.Tests;

public sealed class SqliteSwapListTests(OnSqlite service) : SwapListSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSwapListTests(OnPostgres service) : SwapListSuite(service), IClassFixture<OnPostgres>;

/// <summary>The list of swaps; on every database.</summary>
public abstract class SwapListSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task The_list_finds_filters_sorts_and_pages_without_losing_or_repeating()
    {
        var refresh = await service.RefreshAsync(withRoster: false);
        var csv = "person,name,site,kind,old_tag,new_tag,room\n"
            + string.Concat(Enumerable.Range(0, 57).Select(i =>
                $"k{i},{(i % 3 == 0 ? "Ada" : i % 3 == 1 ? "Öl_a%" : "Zoe")} {i % 7},{(i % 2 == 0 ? "North" : "South")},renew,O-{i},N-"
                    + $"{i},Room {i}\n"));
        (await service.RosterAsync(refresh, csv)).EnsureSuccessStatusCode();
        await service.PublishAsync(refresh, new(Steps: 0));
        foreach (var sort in new[] { "name", "time", "station" })
        {
            var (seen, cursor) = (new List<SwapListed>(), "");
            do
            {
                var page = (await Kit.GetFromJsonAsync<Page<SwapListed>>(
                    $"api/refreshes/{refresh}/swaps?limit=10&sort={sort}&cursor={cursor}", RunningService.Json))!;
                page.Total.ShouldBe(57);
                seen.AddRange(page.Items);
                cursor = page.Next;
            }
            while (cursor is not null);
            seen.Select(s => s.Id).Distinct().Count().ShouldBe(57, sort);
            if (sort == "time") seen.Select(s => s.Appointment?.Start ?? DateTimeOffset.MaxValue).ShouldBeInOrder();
        }
        async Task<long> Found(string query) =>
            (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?{query}", RunningService.Json))!.Total;
        (await Found("q=ada")).ShouldBe(19);
        (await Found("q=" + Uri.EscapeDataString("l_a%"))).ShouldBe(19);
        (await Found("q=" + Uri.EscapeDataString("_"))).ShouldBe(19);
        (await Found("q=O-56")).ShouldBe(1);
        (await Found("site=South")).ShouldBe(28);
        (await Found("kind=leave")).ShouldBe(0);
        ((int)(await Kit.GetAsync($"api/refreshes/{refresh}/swaps?cursor=bm9uc2Vuc2U")).StatusCode).ShouldBe(400);
        ((int)(await Kit.GetAsync($"api/refreshes/{refresh}/swaps?limit=0")).StatusCode).ShouldBe(400);
    }
}
