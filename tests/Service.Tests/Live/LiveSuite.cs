using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

public sealed class SqliteLiveTests(OnSqlite service) : LiveSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresLiveTests(OnPostgres service) : LiveSuite(service), IClassFixture<OnPostgres>;

/// <summary>What is told while it happens; on every database.</summary>
public abstract class LiveSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task Streams_of_one_session_have_a_bound_and_one_that_ends_gives_its_place_back()
    {
        var refresh = await service.RefreshAsync();
        var auditor = await service.AccountAsync($"streams-{refresh}", "auditor");
        async Task<HttpResponseMessage> OpenAsync() =>
            await auditor.GetAsync($"api/refreshes/{refresh}/events", HttpCompletionOption.ResponseHeadersRead);
        var open = new List<HttpResponseMessage>();
        for (var i = 0; i < Live.OpenStreams.MostOfSession; i++) open.Add(await OpenAsync());
        open.ShouldAllBe(o => o.StatusCode == HttpStatusCode.OK);
        await RunningService.ProblemAsync(await OpenAsync(), 429);
        open[0].Dispose();
        for (var tries = 0; ; tries++)
        {
            using var again = await OpenAsync();
            if (again.StatusCode == HttpStatusCode.OK) break;
            tries.ShouldBeLessThan(300, "the place comes back");
            await Task.Delay(100);
        }
        open.ForEach(o => o.Dispose());
    }

    [Fact]
    public async Task The_live_stream_resumes_after_the_last_event_and_progress_bears_no_id()
    {
        var refresh = await service.RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        var request = new HttpRequestMessage(HttpMethod.Get, $"api/refreshes/{refresh}/events");
        request.Headers.Add("Last-Event-ID", "2");
        using var response = await Kit.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        using var lines = new StreamReader(await response.Content.ReadAsStreamAsync());
        (await NextAsync("id: ")).ShouldBe("id: 3");
        await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("survey"));
        await NextAsync("data: {\"number\":", l => l.Contains("order.given"));
        var order = await RunningService.TakeAsync(hand);
        await hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1",
            new OrderReport(order.Attempt, service.Now, new(4, 9, 5, 6, 7), null),
            RunningService.Json);
        (await NextAsync("event: progress")).ShouldBe("event: progress");
        (await lines.ReadLineAsync())!.ShouldContain("\"files\":4");

        async Task<string> NextAsync(string start, Func<string, bool>? fits = null)
        {
            using var limit = new CancellationTokenSource(Run.Patience);
            while (await lines.ReadLineAsync(limit.Token) is { } line)
                if (line.StartsWith(start, StringComparison.Ordinal) && fits?.Invoke(line) != false) return line;
            throw new InvalidOperationException("The stream ended.");
        }
    }
}
