using System.Text.Json.Nodes;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteAnswerTimesTests(OnSqlite service) : AnswerTimesSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresAnswerTimesTests(OnPostgres service) : AnswerTimesSuite(service), IClassFixture<OnPostgres>;

/// <summary>Whose clock the times of answers are from. On every database.</summary>
public abstract class AnswerTimesSuite(RunningService service) : Morning(service)
{
    private async Task<(string? Zone, JsonNode Body)> GetAsync(string path)
    {
        var answer = await Kit.GetAsync($"api/{path}");
        var text = await answer.Content.ReadAsStringAsync();
        answer.IsSuccessStatusCode.ShouldBeTrue(text);
        return (answer.Headers.TryGetValues(AnswerZone.Header, out var zones) ? zones.Single() : null, JsonNode.Parse(text)!);
    }

    [Fact]
    public async Task Times_are_those_of_the_refresh_with_their_offset_and_the_zone_is_named()
    {
        var refresh = await MorningAsync();
        var kolkata = $"{refresh}k";
        (await PostAsync("refreshes", new NewRefresh(kolkata, "Monsoon", "Asia/Kolkata", DrivenClock.Today, 10))).EnsureSuccessStatusCode();
        (await Service.RosterAsync(kolkata, Roster)).EnsureSuccessStatusCode();
        var (zone, day) = await GetAsync($"refreshes/{kolkata}/today");
        var now = (string)day["now"]!;
        (zone, now[..16], now[^6..]).ShouldBe(("Asia/Kolkata", $"{Service.Now.ToOffset(new(5, 30, 0)):yyyy-MM-dd'T'HH:mm}", "+05:30"));
        var swap = $"{kolkata}-0001";
        await BookAsync(swap, "noor", 60);
        (zone, var seen) = await GetAsync($"swaps/{swap}");
        ((string)seen["swap"]!["appointment"]!["start"]!).ShouldEndWith("+05:30");
        var opened = await OkAsync<FollowUpSeen>(PostAsync($"swaps/{swap}/follow-ups", new FollowUpWanted("call")));
        (zone, seen) = await GetAsync($"follow-ups/{opened.Id}");
        (zone, ((string)seen["due"]!)[^6..]).ShouldBe(("Asia/Kolkata", "+05:30"));
        // What is of no refresh has no zone where refreshes differ.
        (await GetAsync("accounts")).Zone.ShouldBeNull();
    }
}
