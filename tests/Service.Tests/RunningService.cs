using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ledger;
using YardRelay.Peers;
using YardRelay.Records;

namespace YardRelay.Service.Tests;

/// <summary>The service with a database of its own; one for each suite.</summary>
public abstract class RunningService : IAsyncLifetime
{
    public const string Password = "kestrel-bay-ferries";

    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) }
    };

    private readonly TempFolder _depot = new();

    /// <summary>Where the service's own depot lies on this machine.</summary>
    public string DepotFolder => _depot["depot"];

    /// <summary>A folder whose depots the service opens itself.</summary>
    public string SharesFolder => _depot["shares"];

    // No test is about how fast the machine is.
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(10);
    private WebApplicationFactory<Program> _app = null!;
    private readonly ConcurrentDictionary<string, Lazy<Task>> _staff = new();
    private int _refreshes;

    protected abstract string NewDatabase();

    /// <summary>Connection string of the suite's database.</summary>
    protected string Database { get; private set; } = "";

    public HttpClient Kit { get; private set; } = null!;

    /// <summary>What the service takes for the time.</summary>
    public DrivenClock Clock { get; } = new();

    public DateTimeOffset Now => Clock.GetUtcNow();

    public IServiceProvider Services => _app.Services;

    /// <summary>A caller without an account, who speaks as hands of this version do.</summary>
    public HttpClient Nobody()
    {
        var client = _app.CreateClient();
        client.Timeout = Patience;
        client.DefaultRequestHeaders.Add(HandProtocol.Header, HandProtocol.Number.ToString());
        return client;
    }

    /// <summary>A browser in which a page of the service is open; it keeps its cookies by itself.</summary>
    public HttpClient Browser()
    {
        var browser = Nobody();
        browser.DefaultRequestHeaders.Add("Sec-Fetch-Site", "same-origin");
        return browser;
    }

    public async ValueTask InitializeAsync()
    {
        Database = NewDatabase();
        _app = StartAnother();
        Kit = await AsAsync("kit");
    }

    /// <summary>Another process of the service on the same database; for this test it lives in the same one.</summary>
    /// <param name="copy">Connection string of a copy that was put back in its place; null: the same.</param>
    public WebApplicationFactory<Program> StartAnother(string? copy = null)
    {
        var database = copy ?? Database;
        return new WebApplicationFactory<Program>().WithWebHostBuilder(b => b.UseSetting("database", database)
            .UseSetting("depot", _depot["depot"])
            .UseSetting("state", _depot["state"])
            .UseSetting("depot-folders", SharesFolder)
            .UseSetting("first", $"kit:{Password}")
            .UseSetting("depot-secrets-to", "127.0.0.1")
            // What broke within the service is told where somebody asks for it.
            .UseSetting("log", Environment.GetEnvironmentVariable("YARD_TEST_LOG") ?? "Fatal")
            // Guesses at these passwords may be cheap.
            .ConfigureTestServices(s => s.AddSingleton<TimeProvider>(Clock).Configure<PasswordHasherOptions>(o => o.IterationCount = 1)));
    }

    /// <summary>Nobody, through nothing that keeps a body back until all of it is there.</summary>
    public HttpClient Straight() => _app.CreateDefaultClient();

    /// <summary>Nobody, whose request nothing on its way has made regular.</summary>
    public Task<HttpContext> AskRawAsync(Action<HttpContext> ask) => _app.Server.SendAsync(ask);

    /// <summary>The same caller at another process.</summary>
    public static HttpClient At(WebApplicationFactory<Program> other, HttpClient caller)
    {
        var client = other.CreateClient();
        client.Timeout = Patience;
        foreach (var (name, values) in caller.DefaultRequestHeaders) client.DefaultRequestHeaders.TryAddWithoutValidation(name, values);
        return client;
    }

    public async Task<HttpClient> AsAsync(string name)
    {
        var client = Nobody();
        var made = await client.PostAsJsonAsync("api/tokens", new NewToken(name, Password, "test"));
        made.EnsureSuccessStatusCode();
        client.DefaultRequestHeaders.Authorization = new("Bearer", (await made.Content.ReadFromJsonAsync<TokenMade>(Json))!.Token);
        return client;
    }

    /// <param name="of">Sites of a technician; the refresh of a person, who is the first of its roster.</param>
    public async Task<HttpClient> AccountAsync(string name, string role, params string[] of)
    {
        var wanted = role == "person" ? new AccountWanted(name, role, Password, [], "k1", of) : new(name, role, Password, of);
        (await Kit.PutAsJsonAsync($"api/accounts/{name}", wanted)).EnsureSuccessStatusCode();
        return await AsAsync(name);
    }

    /// <summary>The accounts of whom many tests need, made once: a password takes its time to be kept.</summary>
    public Task StaffAsync(string name, params string[] sites) =>
        _staff.GetOrAdd($"{name} {string.Join(',', sites)}", _ => new(() => AccountAsync(name, "technician", sites))).Value;

    /// <summary>Makes a draft and publishes it.</summary>
    public async Task<PlanSeen> PublishAsync(string refresh, PlanWanted wanted)
    {
        var made = await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan", wanted);
        made.IsSuccessStatusCode.ShouldBeTrue(await made.Content.ReadAsStringAsync());
        var draft = (await made.Content.ReadFromJsonAsync<PlanSeen>(Json))!;
        var published = await Kit.SendAsync(new(
            HttpMethod.Post, $"api/refreshes/{refresh}/plan/publication")
        { Headers = { { "If-Match", $"\"{draft.Version}\"" } } });
        published.IsSuccessStatusCode.ShouldBeTrue(await published.Content.ReadAsStringAsync());
        return (await published.Content.ReadFromJsonAsync<PlanSeen>(Json))!;
    }

    /// <summary>A refresh with two sites, one technician, a depot and a roster of three.</summary>
    public async Task<string> RefreshAsync(bool withRoster = true)
    {
        var key = $"r{Interlocked.Increment(ref _refreshes)}";
        (await Kit.PostAsJsonAsync(
            "api/refreshes", new NewRefresh(key, "Test", "UTC", DrivenClock.Today.AddDays(1), 7))).EnsureSuccessStatusCode();
        foreach (var site in new[] { "North", "South" })
            (await Kit.PutAsJsonAsync($"api/refreshes/{key}/sites/{site}", new SiteWanted(site, 2))).EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{key}/technicians/noor",
            new TechnicianWanted("Noor", ["North", "South"], ["daily 08:00-12:00", "daily 13:00-17:00"]))).EnsureSuccessStatusCode();
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{key}/depots/cloud", new DepotWanted("Cloud", "http://127.0.0.1:1/"))).EnsureSuccessStatusCode();
        if (withRoster) (await RosterAsync(key, Roster)).EnsureSuccessStatusCode();
        return key;
    }

    public const string Roster =
        "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North,renew,KB-1,KB-2\nk2,Sol Okafor,South,renew,KB-3,KB-4\nk3,Per "
            + "Lunde,North,issue,,KB-6\n";

    public Task<HttpResponseMessage> RosterAsync(string refresh, string csv, bool dryRun = false) =>
        Kit.PostAsync(
            $"api/refreshes/{refresh}/roster?dryRun={(dryRun ? "true" : "false")}",
            new StringContent(csv, System.Text.Encoding.UTF8, "text/csv"));

    /// <summary>Claims a step as it stands now.</summary>
    public async Task<HttpResponseMessage> ClaimAsync(string id, string step, StepChange change) =>
        await ClaimAsync(id, step, change, (await SwapAsync(id)).Checklist.Version);

    private Task<HttpResponseMessage> ClaimAsync(string id, string step, StepChange change, int version)
    {
        var request = new HttpRequestMessage(
            HttpMethod.Put, $"api/swaps/{id}/checklist/steps/{step}")
        { Content = JsonContent.Create(change) };
        request.Headers.TryAddWithoutValidation("If-Match", $"\"{version}\"");
        return Kit.SendAsync(request);
    }

    /// <summary>Works all open steps, each as its kind wants it, until none is left: an answer may bring more.</summary>
    public async Task WorkAsync(string id, Func<StepSeen, bool> which)
    {
        var list = (await SwapAsync(id)).Checklist;
        while (list.Steps.FirstOrDefault(s => s.State is "open" or "under-way" && s.Kind != "automatic" && which(s)) is { } step)
        {
            StepChange change = (step.Kind, step.State) switch
            {
                ("scan", _) => new("scanned", step.Expects),
                ("choice", _) => new("answered", Value: step.Options![0]),
                ("number", _) => new("answered", Value: $"{step.Most}"),
                ("text", _) => new("answered", Value: "seen"),
                ("timed" or "restart", "open") => new("started"),
                ("again", "open") => new("ran"),
                _ => new("ticked"),
            };
            var answer = await ClaimAsync(id, step.Key, change, list.Version);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, step.Key);
            list = (await answer.Content.ReadFromJsonAsync<ChecklistSeen>(Json))!;
        }
    }

    public async Task<SwapSeen> SwapAsync(string id) => (await Kit.GetFromJsonAsync<SwapSeen>($"api/swaps/{id}", Json))!;

    /// <summary>The ledger's first thousand entries, to be checked.</summary>
    public async Task<List<LedgerEntry>> LedgerAsync(string refresh) =>
        [.. (await Kit.GetFromJsonAsync<Page<LedgerEntrySeen>>($"api/refreshes/{refresh}/ledger?limit=1000", Json))!.Items
            .Select(e => new LedgerEntry(e.Number, e.Json, e.Sha256))];

    public async Task<HttpClient> HandAsync(string refresh, string tag)
    {
        var code = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted(tag))).Content
            .ReadFromJsonAsync<CodeMade>(Json))!;
        var client = Nobody();
        var enrolled = (await (await client.PostAsJsonAsync("api/hand/enrol", new EnrolWanted(code.Code, tag, "host"))).Content
            .ReadFromJsonAsync<Enrolled>(Json))!;
        client.DefaultRequestHeaders.Authorization = new("Bearer", enrolled.Token);
        return client;
    }

    public static async Task<OrderTaken> TakeAsync(HttpClient hand) =>
        (await (await hand.PostAsync("api/hand/orders/next?waitSeconds=10", null)).Content.ReadFromJsonAsync<OrderTaken>(Json))!;

    public Task<HttpResponseMessage> OrderAsync(string swap, OrderWanted wanted) =>
        Kit.PostAsJsonAsync($"api/swaps/{swap}/orders", wanted);

    /// <summary>Gives an order and lets its hand report a result at once.</summary>
    public async Task DoAsync(string swap, string kind, HttpClient hand, HandReport found, DepotFound? depot = null)
    {
        if (kind is not ("verify" or "last-look")) (await OrderAsync(swap, new(kind))).EnsureSuccessStatusCode();
        var order = await TakeAsync(hand);
        order.Work.Name.ShouldBe(kind);
        (await EndAsync(hand, order, found, depot)).EnsureSuccessStatusCode();
    }

    /// <summary>The last batch of an order, in the one try that it takes.</summary>
    public Task<HttpResponseMessage> EndAsync(HttpClient hand, OrderTaken order, HandReport found, DepotFound? depot = null) =>
        hand.PostAsJsonAsync(
            $"api/hand/orders/{order.Id}/reports/1",
            new OrderReport(order.Attempt, Now, null, found.Of(order.Work), depot),
            Json);

    public static HandReport Result(long seen, long arrived, params Snag[] snags) => new(
        [new("Documents", new(seen, seen * 10), new(arrived, arrived * 10), new(seen - arrived, (seen - arrived) * 10))], snags);

    public static async Task<JsonNode> ProblemAsync(HttpResponseMessage response, int status)
    {
        ((int)response.StatusCode).ShouldBe(status, await response.Content.ReadAsStringAsync());
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        return JsonNode.Parse(await response.Content.ReadAsStringAsync())!;
    }

    public async Task<T> WithRecordsAsync<T>(Func<YardDb, Task<T>> work)
    {
        await using var db = await Services.GetRequiredService<IDbContextFactory<YardDb>>().CreateDbContextAsync();
        return await work(db);
    }

    /// <summary>What the database's files hold, byte by byte; empty where they are not ours to read.</summary>
    public virtual string RawRecords() => "";

    public virtual async ValueTask DisposeAsync()
    {
        await _app.DisposeAsync();
        _depot.Dispose();
        GC.SuppressFinalize(this);
    }
}

public sealed class OnSqlite : RunningService
{
    private readonly TempFolder _folder = new();

    protected override string NewDatabase() => $"Data Source={_folder["test.db"]}";

    public override string RawRecords() => string.Concat(Directory.GetFiles(_folder.At, "test.db*").Select(f =>
    {
        using var file = new FileStream(f, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        using var reader = new StreamReader(file, System.Text.Encoding.Latin1);
        return reader.ReadToEnd();
    }));

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        _folder.Dispose();
    }
}

public sealed class OnPostgres : RunningService
{
    private readonly PostgresServer _server = new();

    protected override string NewDatabase() => _server.NewDatabase();

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        Npgsql.NpgsqlConnection.ClearAllPools();
        _server.Dispose();
    }
}
