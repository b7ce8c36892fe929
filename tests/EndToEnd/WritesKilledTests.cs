using System.Diagnostics;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>The service dies in the middle of each kind of write; whoever asked asks again, and it is done once.</summary>
public sealed class WritesKilledTests : IDisposable
{
    private readonly Yard _yard = new();

    private const string Roster =
        "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\nk2,Sol Okafor,North Quay,renew,KB-2,KB-12\n";

    /// <summary>A kind of write, and the entry by which the ledger tells that it was done.</summary>
    /// <param name="Match">Whether it says which version of the checklist was seen.</param>
    private sealed record Write(string Name, HttpMethod Method, string Path, object Body, string Entry, bool Match = false);

    // What the day consists of: each in a way that a second time would show.
    private static IEnumerable<Write> Kinds(int turn) =>
    [
        new(
            "a step",
            HttpMethod.Put,
            $"swaps/spring-0001/checklist/steps/{(turn % 2 == 0 ? "told" : "ready")}",
            new { claim = "ticked" },
            "step.done",
            true),
        new(
            "a follow-up",
            HttpMethod.Post,
            "swaps/spring-0001/follow-ups",
            new { words = $"Look at the screen {turn}" },
            "follow-up.opened"),
        new(
            "a handover",
            HttpMethod.Post,
            "swaps/spring-0001/handovers",
            new { to = turn % 2 == 0 ? "vera" : "noor", note = "the key is at the desk" },
            "swap.handed-over"),
        new("a detour", HttpMethod.Post, "swaps/spring-0002/detours", new { kind = "wrongComputer", tag = $"KB-9{turn}" }, "swap.detour"),
        new("a spare", HttpMethod.Put, $"refreshes/spring/spares/KB-7{turn}", new { site = "North Quay" }, "spare.set"),
        new(
            "a site",
            HttpMethod.Put,
            "refreshes/spring/sites/North%20Quay",
            new { name = "North Quay", benches = 3 + turn, rooms = Array.Empty<object>() },
            "site.set"),
        new(
            "a move of an old computer",
            HttpMethod.Post,
            "refreshes/spring/old-computers/KB-2/moves",
            new { id = $"moved-by-{turn}", act = "taken", where = $"Noor {turn}" },
            "computer.moved"),
        new("an order", HttpMethod.Post, $"swaps/spring-000{1 + (turn % 2)}/orders", new { kind = "survey" }, "order.given"),
        new(
            "a roster",
            HttpMethod.Post,
            "refreshes/spring/roster",
            Roster + $"k{5 + turn},Person {turn},North Quay,issue,,KB-3{turn}\n",
            "roster.taken"),
    ];

    [Fact]
    public async Task A_service_that_dies_in_the_middle_of_any_write_has_done_it_once_when_it_was_asked_again()
    {
        var service = await _yard.StartServiceAsync();
        await File.WriteAllTextAsync(_yard.Folder["roster.csv"], Roster, TestContext.Current.CancellationToken);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", DateTime.UtcNow.ToString("yyyy-MM-dd"), "--days", "3", "--zone",
            "UTC");
        _yard.Line("roster", "take", _yard.Folder["roster.csv"]);
        // All is planned with one; the other comes afterwards, and is free whatever time it is.
        Technician("noor");
        _yard.Line("plan", "make", "--steps", "0");
        _yard.Line("plan", "publish");
        Technician("vera");
        var connection = JsonNode.Parse(await File.ReadAllTextAsync(
            _yard.Folder["connection.json"], TestContext.Current.CancellationToken))!;
        using var http = new HttpClient { BaseAddress = new Uri(_yard.Address + "/api/"), Timeout = TimeSpan.FromMinutes(2) };
        http.DefaultRequestHeaders.Authorization = new("Bearer", (string)(connection["Token"] ?? connection["token"])!);
        var random = new Random(7);
        var broken = 0;
        foreach (var turn in Seeds.Of(1).Select(s => s - 1))
            foreach (var write in Kinds(turn))
            {
                var before = await CountOfAsync(http, write.Entry);
                var (key, version) = (Guid.NewGuid().ToString(), await VersionAsync(http));
                // First as usual, so that the moment of the kill lies where the work is.
                var asked = Stopwatch.GetTimestamp();
                var first = SendAsync(http, write, key, version);
                await Task.Delay(TimeSpan.FromMilliseconds(random.NextDouble() * 25), TestContext.Current.CancellationToken);
                Yard.Kill(service);
                try
                {
                    await first;
                }
                catch (Exception gone) when (gone is HttpRequestException or TaskCanceledException)
                {
                    broken++;
                }
                service = await _yard.StartServiceAsync();
                var answer = await SendAsync(http, write, key, version);
                // A step that was done before the service died says so: another version is there now.
                ((int)answer.StatusCode is 200 or 412)
                    .ShouldBeTrue(
                        $"{write.Name}: {await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)} after "
                            + $"{Stopwatch.GetElapsedTime(asked).TotalMilliseconds} ms");
                (await CountOfAsync(http, write.Entry)).ShouldBe(before + 1, write.Name);
            }
        _yard.Line("ledger", "check").ShouldContain("The ledger is whole");
        broken.ShouldBeGreaterThan(0, "no kill came in the middle");
    }

    private void Technician(string key) =>
        _yard.Line("technician", "set", key, "--name", key, "--site", "North Quay", "--shift", "daily 00:15-23:45");

    private static async Task<JsonNode> GetAsync(HttpClient http, string path) =>
        JsonNode.Parse(await http.GetStringAsync(new Uri(path, UriKind.Relative), TestContext.Current.CancellationToken))!;

    private static async Task<string> VersionAsync(HttpClient http) =>
        $"\"{(int)(await GetAsync(http, "swaps/spring-0001"))["checklist"]!["version"]!}\"";

    private static async Task<int> CountOfAsync(HttpClient http, string entry) =>
        (await GetAsync(http, "refreshes/spring/ledger?limit=1000"))["items"]!.AsArray()
            .Count(e => (string?)JsonNode.Parse((string)e!["json"]!)!["kind"] == entry);

    private static async Task<HttpResponseMessage> SendAsync(HttpClient http, Write write, string key, string version)
    {
        using var request = new HttpRequestMessage(write.Method, write.Path)
        {
            Content = write.Body is string text ? new StringContent(text) : JsonContent.Create(write.Body)
        };
        if (write.Method == HttpMethod.Post) request.Headers.Add("Idempotency-Key", key);
        if (write.Match) request.Headers.IfMatch.Add(EntityTagHeaderValue.Parse(version));
        return await http.SendAsync(request, TestContext.Current.CancellationToken);
    }

    public void Dispose() => _yard.Dispose();
}
