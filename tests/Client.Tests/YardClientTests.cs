using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Extensions;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using YardRelay.Contracts;

namespace YardRelay.Client.Tests;

/// <summary>The client against a real server on loopback that answers as a service on a bad day does.</summary>
public sealed class YardClientTests : IAsyncLifetime
{
    private readonly List<string> _asked = [];
    private readonly List<string> _keys = [];
    private WebApplication _app = null!;
    private Func<HttpContext, int, Task> _answer = null!;
    private YardClient _client = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(k => k.Listen(System.Net.IPAddress.Loopback, 0));
        _app = builder.Build();
        _app.Run(async context =>
        {
            int number;
            lock (_asked)
            {
                _asked.Add(context.Request.GetEncodedPathAndQuery());
                _keys.Add(
                    $"{context.Request.Headers["Idempotency-Key"]}|{context.Request.Headers.IfMatch}|"
                        + $"{context.Request.Headers.Authorization}");
                number = _asked.Count;
            }
            await _answer(context, number);
        });
        await _app.StartAsync();
        _client = new(
            new(_app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First()), "token-1");
    }

    private static Task JsonAsync(HttpContext context, int status, object body, string type = "application/json")
    {
        context.Response.StatusCode = status;
        return context.Response.WriteAsJsonAsync(body, YardClient.Json, type);
    }

    [Fact]
    public async Task What_creates_is_sent_again_with_the_same_key_until_it_is_answered()
    {
        _answer = (context, number) =>
        {
            if (number == 1) context.Abort();
            else if (number == 2) context.Response.StatusCode = 503;
            else return JsonAsync(context, 200, new OrdersMade(2, [], []));
            return Task.CompletedTask;
        };
        (await _client.GiveOrdersAsync("spring", new("survey", []), Cancel)).Value.Given.ShouldBe(2);
        _keys.Count.ShouldBe(3);
        _keys.Distinct().Count().ShouldBe(1);
        Guid.TryParse(_keys[0].Split('|')[0], out _).ShouldBeTrue();
        _keys[0].ShouldEndWith("|Bearer token-1");
    }

    [Fact]
    public async Task Each_thing_made_has_a_key_of_its_own_and_a_change_names_the_version_it_was_made_on()
    {
        _answer = (context, _) =>
            JsonAsync(context, 412, new { code = "changed-meanwhile", detail = "Somebody else changed it." }, "application/problem+json");
        await _client.SignOffAsync("s", new(Core.SignOffs.SignOffPart.Technician), Cancel);
        await _client.SignOffAsync("s", new(Core.SignOffs.SignOffPart.Technician), Cancel);
        var refused = (await _client.SetStepAsync("s/1", "told", new("ticked"), 7, Cancel)).Problem.ShouldBeOfType<Refused>();
        (refused.Code, refused.Status, refused.Message).ShouldBe(("changed-meanwhile", 412, "Somebody else changed it."));
        _keys[0].ShouldNotBe(_keys[1]);
        _keys[2].ShouldStartWith("|\"7\"|");
        _asked[2].ShouldBe("/api/swaps/s%2F1/checklist/steps/told");
    }

    [Fact]
    public async Task An_answer_without_a_problem_in_it_still_says_what_to_do()
    {
        _answer = async (context, number) =>
        {
            context.Response.StatusCode = number switch { 1 => 401, 2 => 403, _ => 500 };
            if (number > 2) await context.Response.WriteAsync("<html>no JSON</html>");
            else await context.Response.WriteAsync("{}");
        };
        (await _client.MeAsync(Cancel)).Problem.Message.ShouldContain("yardline sign-in");
        (await _client.MeAsync(Cancel)).Problem.Message.ShouldContain("may not do this");
        (await _client.MeAsync(Cancel)).Problem.Message.ShouldContain("500");
    }

    [Fact]
    public async Task Every_problem_of_a_refusal_comes_through()
    {
        _answer = (context, _) => JsonAsync(
            context,
            422,
            new
            {
                code = "roster.bad",
                detail = "2 rows are bad.",
                problems = new[] { new { code = "a", message = "Line 2" }, new { code = "b", message = "Line 3" } }
            },
            "application/problem+json");
        var refused = (await _client.TakeRosterAsync("spring", [1, 2, 3], true, Cancel)).Problem.ShouldBeOfType<Refused>();
        refused.All.Select(p => p.Message).ShouldBe(["Line 2", "Line 3"]);
        _asked[0].ShouldEndWith("/roster?dryRun=true");
    }

    [Fact]
    public async Task No_order_is_no_fault_and_a_service_that_stays_away_is_named_with_its_address()
    {
        _answer = (context, _) =>
        {
            context.Response.StatusCode = 204;
            return Task.CompletedTask;
        };
        var none = await _client.TakeOrderAsync(0, Cancel);
        (none.IsOk, none.Value).ShouldBe((true, null));
        using var away = new YardClient(new("http://127.0.0.1:9"), null);
        (await Should.ThrowAsync<ServiceUnreachableException>(() => away.MeAsync(Cancel))).Message.ShouldContain("http://127.0.0.1:9");
        using var stopped = new CancellationTokenSource(50);
        await Should.ThrowAsync<OperationCanceledException>(() => away.MeAsync(stopped.Token));
    }

    public async ValueTask DisposeAsync()
    {
        _client.Dispose();
        await _app.DisposeAsync();
    }
}
