using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

/// <summary>What suites about plans and rosters ask for, and are refused.</summary>
public abstract class Planned(RunningService service)
{
    protected RunningService Service => service;

    protected HttpClient Kit => service.Kit;

    protected static DateOnly Day(int day) => DrivenClock.Today.AddDays(1 + day);

    protected static async Task<T> ReadAsync<T>(HttpResponseMessage answer)
    {
        answer.IsSuccessStatusCode.ShouldBeTrue(await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<T>(RunningService.Json))!;
    }

    protected async Task<T> PutAsync<T>(string path, object body) =>
        await ReadAsync<T>(await Kit.PutAsJsonAsync(path, body, RunningService.Json));

    protected static async Task<string> RefusedAsync(HttpResponseMessage answer, int status, string code)
    {
        var problem = await RunningService.ProblemAsync(answer, status);
        problem["code"]!.GetValue<string>().ShouldBe(code);
        return problem["detail"]!.GetValue<string>();
    }

    protected Task<HttpResponseMessage> SendAsync(string path, object? body, int version) =>
        Kit.SendAsync(new(HttpMethod.Post, path)
        {
            Headers = { { "If-Match", $"\"{version}\"" } },
            Content = body is null ? null : JsonContent.Create(body, body.GetType(), options: RunningService.Json)
        });

    protected async Task<PlanSeen> PlanAsync(string refresh, int? number = null) =>
        (await Kit.GetFromJsonAsync<PlanSeen>(
            $"api/refreshes/{refresh}/plan{(number is { } n ? $"?number={n}" : "")}", RunningService.Json))!;

    protected async Task<PlanSeen> DraftAsync(string refresh, long steps = 200) =>
        await ReadAsync<PlanSeen>(await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", new PlanWanted(steps)));

    protected static DateTimeOffset At(int day, string time) => new(Day(day).ToDateTime(TimeOnly.Parse(time)), TimeSpan.Zero);
}
