using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteUnreadableTests(OnSqlite service) : UnreadableSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresUnreadableTests(OnPostgres service) : UnreadableSuite(service), IClassFixture<OnPostgres>;

/// <summary>What cannot be read is refused in words, whatever the database would have said of it. On every database.</summary>
public abstract class UnreadableSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private static async Task<(string Code, string Words)> RefusalAsync(HttpResponseMessage answer)
    {
        var problem = await RunningService.ProblemAsync(answer, 400);
        return (problem["code"]!.GetValue<string>(), problem["detail"]!.GetValue<string>());
    }

    /// <summary>Every list of the service that can be asked for a part of itself, with what can be asked.</summary>
    private async Task<List<(string Path, List<string> Asks)>> ListsAsync(string refresh)
    {
        var document = JsonNode.Parse(await service.Nobody().GetStringAsync("openapi/v1.json"))!;
        return [.. document["paths"]!.AsObject()
            .Where(p => p.Value!["get"] is not null && p.Key.Split('{').Length == (p.Key.Contains("{refresh}") ? 2 : 1))
            .Select(p => (
                p.Key.Replace("{refresh}", refresh, StringComparison.Ordinal)[1..],
                Asks: (p.Value!["get"]!["parameters"] as JsonArray ?? []).Where(a => (string?)a!["in"] == "query")
                    .Select(a => (string)a!["name"]!).ToList()))
            .Where(p => p.Asks.Count > 0)];
    }

    [Fact]
    public async Task No_list_breaks_whatever_it_is_asked_for()
    {
        var refresh = await service.RefreshAsync();
        var lists = await ListsAsync(refresh);
        lists.Count.ShouldBeGreaterThan(10);
        var broken = new List<string>();
        foreach (var (path, asks) in lists)
            foreach (var ask in asks)
                foreach (var hostile in new[]
                {
                    "%00", "-1", "9223372036854775807", "99999999999999999999", "9223372036854775807~x", "~", "'; DROP TABLE swaps; --",
                    "%25%5C%25", "%F0%9F%92%BE", "WyJ0aW1lIiwieCIsImIiXQ", new string('a', 3000), "2026-13-45", "9999-12-31", "0001-01-01"
                })
                {
                    var answer = await Kit.GetAsync($"{path}?{ask}={hostile}");
                    if ((int)answer.StatusCode >= 500) broken.Add($"{path}?{ask}={hostile}");
                }
        broken.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_text_with_NUL_is_refused_in_every_part_of_a_query()
    {
        var refresh = await service.RefreshAsync();
        var refreshes = $"api/refreshes/{refresh}";
        foreach (var path in new[] { $"{refreshes}/swaps?q=a%00b", "api/lost-computers?q=%00", "api/lost-computers?%00=1" })
            (await RefusalAsync(await Kit.GetAsync(path))).ShouldBe(
                ("request.text", "A text holds the character NUL (U+0000). Take it out."), path);
    }

    [Fact]
    public async Task A_text_with_NUL_in_a_body_breaks_no_database()
    {
        var refresh = await service.RefreshAsync();
        var note = await Kit.PostAsJsonAsync(
            $"api/swaps/{refresh}-0001/follow-ups", new FollowUpWanted("call\0back", "kit"), RunningService.Json);
        ((int)note.StatusCode).ShouldBeLessThan(500);
        (await service.SwapAsync($"{refresh}-0001")).FollowUps!.Count.ShouldBe(note.IsSuccessStatusCode ? 1 : 0);
    }

    [Theory]
    [InlineData("""{"key": "x", "name": "X", "zone": "UTC", "starts": "tomorrow", "days": 5}""", "$.starts")]
    [InlineData("""{"key": "x", "name": "X", "zone": "UTC", "starts": "2026-12-07", "days": "five"}""", "$.days")]
    [InlineData("""{"key": "x", "name": ["X"]}""", "$.name")]
    [InlineData("""{"key": """, "The body cannot be read")]
    [InlineData("", "body")]
    [InlineData("null", "body")]
    public async Task A_body_that_cannot_be_read_is_refused_with_where(string body, string where)
    {
        var answer = await Kit.PostAsync("api/refreshes", new StringContent(body, Encoding.UTF8, "application/json"));
        (await RefusalAsync(answer)).Words.ShouldContain(where);
    }

    [Fact]
    public async Task A_number_that_is_none_is_refused_in_words()
    {
        var refresh = await service.RefreshAsync();
        (await RefusalAsync(await Kit.GetAsync($"api/refreshes/{refresh}/swaps?limit=many"))).ShouldSatisfyAllConditions(
            r => r.Code.ShouldBe("request.part"), r => r.Words.ShouldContain("a number that is none"));
    }
}
