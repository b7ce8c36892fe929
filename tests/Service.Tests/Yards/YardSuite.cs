using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

public sealed class SqliteYardTests(OnSqlite service) : YardSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresYardTests(OnPostgres service) : YardSuite(service), IClassFixture<OnPostgres>;

/// <summary>The yard: where all swaps stand, what is stuck, how far the refresh is. On every database.</summary>
public abstract class YardSuite(RunningService service) : Morning(service)
{
    /// <summary>124 swaps: one done, one stuck, one late.</summary>
    private async Task<(string Refresh, YardSeen Yard, IReadOnlyList<SwapListed> Swaps)> YardAsync()
    {
        var refresh = await MorningAsync();
        var many = "person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(0, 120).Select(i =>
                $"m{i},Person {i},{(i % 3 == 0 ? "North" : "South")},{(i % 5 == 0 ? "second" : "renew")},O-{i},N-{i}\n"));
        (await Service.RosterAsync(refresh, many)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        await FinishAsync(refresh, $"{refresh}-0001", "KB-1", "KB-2");
        await Service.DoAsync(
            $"{refresh}-0002",
            "first-trip",
            await Service.HandAsync(refresh, "KB-3"),
            RunningService.Result(
                10,
                9,
                new Snag(
                    "Documents/open.xls", SnagKind.ChangedWhileRead, 10, "It changed.")));
        await BookAsync($"{refresh}-0003", "vera", -300);
        return (
            refresh,
            (await Kit.GetFromJsonAsync<YardSeen>($"api/refreshes/{refresh}/yard", RunningService.Json))!,
            (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?limit=500", RunningService.Json))!.Items);
    }

    [Fact]
    public async Task Every_swap_is_counted_once()
    {
        var (_, yard, swaps) = await YardAsync();
        (yard.Swaps, yard.Done, yard.Late, yard.WithoutAppointment).ShouldBe((swaps.Count, 1, 1, swaps.Count(s => s.Appointment is null)));
        yard.Sites.Sum(s => s.Done + s.Cells.Sum(c => c.Swaps)).ShouldBe(swaps.Count);
    }

    [Fact]
    public async Task Behind_each_number_lie_as_many_swaps()
    {
        var (refresh, yard, _) = await YardAsync();
        foreach (var site in yard.Sites)
            foreach (var cell in site.Cells)
                cell.Swaps.ShouldBe(
                    (int)(await Kit.GetFromJsonAsync<Page<SwapListed>>(
                        $"api/refreshes/{refresh}/swaps?site={site.Site}&next={cell.Station}", RunningService.Json))!.Total,
                    $"{site.Site} {cell.Station}");
    }

    [Fact]
    public async Task What_is_stuck_is_named_and_counted_where_it_stands()
    {
        var (refresh, yard, _) = await YardAsync();
        (yard.Stuck.Single().Swap, yard.Sites.Sum(s => s.Cells.Sum(c => c.Stuck)), yard.Ages[0].Snags).ShouldBe(($"{refresh}-0002", 1, 1));
    }

    [Fact]
    public async Task Progress_goes_day_by_day_from_nothing_to_all_that_is_booked()
    {
        var (_, yard, swaps) = await YardAsync();
        var booked = swaps.Count(s => s.Appointment is not null);
        var today = yard.Progress.Last(d => d.Done is not null);
        (yard.Progress[^1].Planned, today.Done, today.Day).ShouldBe((booked, 1, yard.Today));
        yard.Progress.Zip(yard.Progress.Skip(1)).ShouldAllBe(p =>
            p.First.Planned <= p.Second.Planned && p.Second.Day == p.First.Day.AddDays(1));
        yard.Technicians.Sum(t => t.Ahead).ShouldBe(booked - 1);
    }

    [Fact]
    public async Task The_report_is_a_table_and_a_paper_of_two_pages_at_most()
    {
        var (refresh, _, swaps) = await YardAsync();
        (await (await Kit.GetAsync($"api/refreshes/{refresh}/progress.csv")).Content.ReadAsStringAsync()).ShouldContain("stuck,");
        using var folder = new TempFolder();
        await File.WriteAllBytesAsync(folder["progress.pdf"], await Kit.GetByteArrayAsync($"api/refreshes/{refresh}/progress.pdf"));
        Run.Must("pdftotext", "-layout", folder["progress.pdf"], "-").ShouldContain($"1 of {swaps.Count} swaps are accepted");
        Run.Must("pdfinfo", folder["progress.pdf"]).ShouldMatch(@"Pages:\s+[12]\n");
    }
}
