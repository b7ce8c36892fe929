using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Records;

namespace YardRelay.Service.Tests;

public sealed class SqliteDayTests(OnSqlite service) : DaySuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresDayTests(OnPostgres service) : DaySuite(service), IClassFixture<OnPostgres>;

/// <summary>Today: who needs somebody now. On every database.</summary>
public abstract class DaySuite(RunningService service) : Morning(service)
{
    private static string Of(string refresh, int number) => $"{refresh}-{number:0000}";

    private Task SetAsync(string swap, Action<SwapRow> how) => Service.WithRecordsAsync(async db =>
    {
        how(await db.Swaps.FirstAsync(s => s.Id == swap));
        return await db.SaveChangesAsync();
    });

    /// <summary>Sixty-four swaps, of which five need somebody: 2, 10, 12, 14 and 15.</summary>
    private async Task<string> FiveInNeedAsync()
    {
        var refresh = await MorningAsync();
        var more = "person,name,site,kind,old_tag,new_tag\n"
            + string.Concat(Enumerable.Range(5, 60).Select(i => $"m{i},Person {i},{(i % 3 == 0 ? "North" : "South")},renew,O-{i},N-{i}\n"));
        (await Service.RosterAsync(refresh, more)).EnsureSuccessStatusCode();
        await Service.PublishAsync(refresh, new(Steps: 0));
        async Task FailAsync(int number) =>
            await Service.DoAsync(
                Of(refresh, number),
                "first-trip",
                await Service.HandAsync(refresh, $"O-{number}"),
                HandReport.Failed("The disk could not be read."));
        await Service.DoAsync(
            Of(refresh, 2),
            "first-trip",
            await Service.HandAsync(refresh, "KB-3"),
            RunningService.Result(
                10,
                9,
                new Snag(
                    "Documents/open.xls", SnagKind.ChangedWhileRead, 10, "It changed.")));
        await FinishAsync(refresh, Of(refresh, 1), "KB-1", "KB-2");
        await FailAsync(10);
        // Needs nobody: what is accepted, a failure that a later trip has made good, one whose time passed and that is called off.
        await FailAsync(11);
        await Service.DoAsync(Of(refresh, 11), "first-trip", await Service.HandAsync(refresh, "O-11"), RunningService.Result(10, 10));
        foreach (var late in new[] { 12, 13 }) await BookAsync(Of(refresh, late), "vera", -2000);
        await SetAsync(Of(refresh, 13), s => (s.CalledOffAt, s.CalledOffBecause) = (Service.Now, "left"));
        await SetAsync(Of(refresh, 14), s => (s.LeftOutBecause, s.Start) = ("Nobody has the skill.", null));
        await SetAsync(Of(refresh, 15), s => s.RestoredAt = Service.Now);
        return refresh;
    }

    [Fact]
    public async Task A_visit_whose_technician_is_away_is_a_need_from_that_moment_and_shown_so_everywhere()
    {
        var refresh = await MorningAsync();
        await BookAsync(Of(refresh, 1), "noor", 60);
        await BookAsync(Of(refresh, 2), "vera", 60);
        foreach (var other in new[] { 3, 4 }) await BookAsync(Of(refresh, other), "theo", 400);
        (await NeedsAsync(refresh)).ShouldBeEmpty();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/technicians/noor",
            new TechnicianWanted("Noor", ["North", "South"], ["daily 00:15-23:45"], Absences: [$"{DrivenClock.Today:yyyy-MM-dd}"])))
            .EnsureSuccessStatusCode();
        var need = (await NeedsAsync(refresh)).ShouldHaveSingleItem();
        (need.Swap, need.Words).ShouldBe((Of(refresh, 1), need.Words));
        need.Words.ShouldContain("with Noor, who is away then");
        (await Service.SwapAsync(Of(refresh, 1))).Swap.Appointment!.With.ShouldBe("Noor, who is away then");
        var today = (await Kit.GetFromJsonAsync<DaySeen>($"api/refreshes/{refresh}/today", RunningService.Json))!;
        today.Away.ShouldHaveSingleItem().Technician.ShouldBe("noor");
        today.Visits.Where(v => v.Appointment!.IsAway).Select(v => v.Id).ShouldBe([Of(refresh, 1)]);
        // In other hands it needs nobody.
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{Of(refresh, 2)}/handovers", new HandoverWanted("theo", "I take Ida")));
        await OkAsync<HandoverSeen>(PostAsync($"swaps/{Of(refresh, 1)}/handovers", new HandoverWanted("vera", "Noor is away")));
        (await NeedsAsync(refresh)).ShouldBeEmpty();
    }

    [Fact]
    public async Task It_names_each_swap_that_says_so_of_itself_and_no_other()
    {
        var refresh = await FiveInNeedAsync();
        // What each swap says of itself is read another way: all of them, one by one.
        var all = (await Kit.GetFromJsonAsync<Page<SwapListed>>($"api/refreshes/{refresh}/swaps?limit=500", RunningService.Json))!.Items;
        var wanting = all.Where(s => s.Sign.Sign is "wants" or "stopped").Select(s => s.Id).Order(StringComparer.Ordinal).ToList();
        wanting.ShouldBe(new[] { 2, 10, 12, 14, 15 }.Select(n => Of(refresh, n)));
        (await NeedsAsync(refresh)).Select(n => n.Swap).Order(StringComparer.Ordinal).ShouldBe(wanting);
    }

    [Fact]
    public async Task What_has_stopped_comes_first()
    {
        var refresh = await FiveInNeedAsync();
        var first = (await NeedsAsync(refresh))[0];
        (first.Swap, first.Sign).ShouldBe((Of(refresh, 10), "stopped"));
    }

    [Fact]
    public async Task The_bar_of_pages_counts_what_the_day_shows()
    {
        var refresh = await FiveInNeedAsync();
        (await Kit.GetFromJsonAsync<List<NeedSeen>>($"api/refreshes/{refresh}/needs", RunningService.Json))!
            .Select(n => (n.Swap, n.Sign))
            .ShouldBe((await NeedsAsync(refresh)).Select(n => (n.Swap, n.Sign)));
    }

    private async Task<IReadOnlyList<NeedSeen>> NeedsAsync(string refresh) =>
        (await Kit.GetFromJsonAsync<DaySeen>($"api/refreshes/{refresh}/today", RunningService.Json))!.Needs;
}
