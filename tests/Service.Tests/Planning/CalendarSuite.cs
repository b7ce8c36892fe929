using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteCalendarTests(OnSqlite service) : CalendarSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresCalendarTests(OnPostgres service) : CalendarSuite(service), IClassFixture<OnPostgres>;

/// <summary>Calendars that follow a plan, and those that holidays come from; on every database.</summary>
public abstract class CalendarSuite(RunningService service) : Planned(service)
{
    [Fact]
    public async Task A_feed_shows_what_its_maker_may_see_and_ends_with_them_or_when_it_is_withdrawn()
    {
        var refresh = await Service.RefreshAsync();
        await Service.PublishAsync(refresh, new(200));
        var name = $"cal-{refresh}";
        var lea = await Service.AccountAsync(name, "technician", "North");
        async Task<FeedMade> MakeAsync(HttpClient by, FeedWanted wanted) =>
            await ReadAsync<FeedMade>(await by.PostAsJsonAsync($"api/refreshes/{refresh}/feeds", wanted));
        async Task<string> AtAsync(FeedMade feed)
        {
            var answer = await Service.Nobody().GetAsync(new Uri(feed.Address).PathAndQuery);
            return answer.IsSuccessStatusCode ? await answer.Content.ReadAsStringAsync() : $"{answer.StatusCode}";
        }
        (await lea.PostAsJsonAsync($"api/refreshes/{refresh}/feeds", new FeedWanted("South")))
            .StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var (whole, own) = (await MakeAsync(Kit, new()), await MakeAsync(lea, new()));
        (await AtAsync(whole)).ShouldContain("Sol Okafor");
        (await AtAsync(own)).ShouldSatisfyAllConditions(t => t.ShouldContain("Ida Moreau"), t => t.ShouldNotContain("Sol Okafor"));
        // Nobody ends what is another's but the coordinator.
        (await lea.GetFromJsonAsync<List<FeedSeen>>($"api/refreshes/{refresh}/feeds"))!.Select(f => f.Id).ShouldBe([own.Id]);
        (await lea.DeleteAsync($"api/refreshes/{refresh}/feeds/{whole.Id}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Kit.DeleteAsync($"api/refreshes/{refresh}/feeds/{whole.Id}")).EnsureSuccessStatusCode();
        (await AtAsync(whole)).ShouldBe("NotFound");
        (await Kit.PutAsJsonAsync($"api/accounts/{name}/use", new AccountUse(true))).EnsureSuccessStatusCode();
        (await AtAsync(own)).ShouldBe("NotFound");
    }

    [Fact]
    public async Task A_calendar_follows_the_plan_with_stable_ids_and_says_what_was_called_off()
    {
        var refresh = await Service.RefreshAsync();
        await Service.PublishAsync(refresh, new(200));
        var feed = await ReadAsync<FeedMade>(await Kit.PostAsJsonAsync(
            $"api/refreshes/{refresh}/feeds", new FeedWanted(Technician: "noor")));
        async Task<Ical.Net.Calendar> CalendarAsync() =>
            Ical.Net.Calendar.Load(await Service.Nobody().GetStringAsync(new Uri(feed.Address).PathAndQuery))!;
        var first = await CalendarAsync();
        first.Events.Select(e => (e.Uid!, e.Sequence, e.Status!)).ShouldBe(
            Enumerable.Range(1, 3).Select(i => ($"{refresh}-000{i}@{refresh}.yardrelay.example", 1, "CONFIRMED")), ignoreOrder: true);
        // Theo takes one of them over.
        await PutAsync<TechnicianSeen>(
            $"api/refreshes/{refresh}/technicians/theo", new TechnicianWanted("Theo", ["North"], ["daily 08:00-16:00"]));
        await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/swaps/edits", new SwapEdit([$"{refresh}-0001"], PinnedTechnician: "theo"));
        await Service.PublishAsync(refresh, new(200));
        var second = await CalendarAsync();
        var gone = second.Events.Single(e => e.Uid!.StartsWith($"{refresh}-0001@", StringComparison.Ordinal));
        (gone.Status, gone.Sequence).ShouldBe(("CANCELLED", 2));
        gone.Start!.AsUtc.ShouldBe(first.Events.Single(e => e.Uid == gone.Uid).Start!.AsUtc);
        (await Service.Nobody().GetAsync("api/feeds/" + new string('A', 120))).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        var csv = Encoding.UTF8.GetString(await Kit.GetByteArrayAsync($"api/refreshes/{refresh}/plan/export?form=csv"));
        csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(4);
        using var workbook = new MemoryStream(await Kit.GetByteArrayAsync($"api/refreshes/{refresh}/plan/export?form=xlsx&site=South"));
        workbook.Query(useHeaderRow: true).Cast<IDictionary<string, object>>().ShouldHaveSingleItem()["person"].ShouldBe("Sol Okafor");
    }

    [Theory]
    [InlineData("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "never fires")]
    [InlineData("FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31", "never fires")]
    [InlineData("FREQ=SECONDLY", "more than once a day")]
    [InlineData("FREQ=HOURLY;COUNT=9", "more than once a day")]
    [InlineData("FREQ=DAILY", "more than 30 years", "19000101")]
    public async Task A_calendar_that_would_keep_the_service_busy_is_refused_with_the_reason(
        string rule, string why, string starts = "20260101")
    {
        var refresh = await Service.RefreshAsync();
        var ics = $"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nBEGIN:VEVENT\r\nUID:a\r\nSUMMARY:Trap\r\n"
            + $"DTSTART;VALUE=DATE:{starts}\r\nRRULE:{rule}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
        var answer = await Kit.PostAsync(
            $"api/refreshes/{refresh}/closures/calendar", new StringContent(ics, Encoding.UTF8, "text/calendar"));
        (await RunningService.ProblemAsync(answer, 422)).ToJsonString().ShouldSatisfyAllConditions(
            t => t.ShouldContain("Trap"), t => t.ShouldContain(why));
    }

    [Fact]
    public async Task Holidays_come_from_a_calendar_recurring_ones_too_and_the_same_file_changes_nothing()
    {
        var refresh = await Service.RefreshAsync();
        var ics =
            $"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nBEGIN:VEVENT\r\nUID:weekly\r\nSUMMARY:Staff meeting\r\nDTSTART:"
                + $"{Day(-13):yyyyMMdd}T090000\r\nDTEND:{Day(-13):yyyyMMdd}T100000\r\nRRULE:FREQ=WEEKLY\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\n"
                + $"UID:feast\r\nSUMMARY:Harbour feast\r\nDTSTART;VALUE=DATE:{Day(3):yyyyMMdd}\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\n"
                        + $"UID:old\r\nSUMMARY:Long ago\r\nDTSTART;VALUE=DATE:20200101\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
        async Task<CalendarTaken> TakeAsync() =>
            await ReadAsync<CalendarTaken>(await Kit.PostAsync(
                    $"api/refreshes/{refresh}/closures/calendar", new StringContent(ics, Encoding.UTF8, "text/calendar")));
        var taken = await TakeAsync();
        taken.Closures.Select(c => (c.Name, c.At)).ShouldBe(
            [("Staff meeting", $"{Day(1):yyyy-MM-dd} 09:00..{Day(1):yyyy-MM-dd} 10:00"), ("Harbour feast", $"{Day(3):yyyy-MM-dd}")],
            ignoreOrder: true);
        taken.Outside.ShouldBe(1);
        var entries = await Service.WithRecordsAsync(db => db.Ledger.CountAsync(l => l.Refresh == refresh));
        await TakeAsync();
        (await Service.WithRecordsAsync(db => db.Ledger.CountAsync(l => l.Refresh == refresh))).ShouldBe(entries);
        await RefusedAsync(
            await Kit.PostAsync($"api/refreshes/{refresh}/closures/calendar", new StringContent("nonsense")), 422, "calendar.form");
    }
}
