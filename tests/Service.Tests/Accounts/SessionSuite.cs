using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteSessionTests(OnSqlite service) : SessionSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSessionTests(OnPostgres service) : SessionSuite(service), IClassFixture<OnPostgres>;

/// <summary>Rights end when they end: the next request of a browser, a program or a stream is refused. On every database.</summary>
public abstract class SessionSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    /// <summary>A browser that is signed in by an account; it keeps its cookie by itself.</summary>
    private async Task<HttpClient> BrowserAsync(string name, string password = RunningService.Password)
    {
        var browser = service.Browser();
        browser.DefaultRequestHeaders.UserAgent.ParseAdd("TestBrowser/1.0");
        (await browser.PostAsJsonAsync("api/sessions", new SignIn(name, password))).EnsureSuccessStatusCode();
        (await StatusAsync(browser)).ShouldBe(HttpStatusCode.OK);
        return browser;
    }

    private static async Task<HttpStatusCode> StatusAsync(HttpClient caller) => (await caller.GetAsync("api/me")).StatusCode;

    private async Task PutAsync(string name, string role, string password, params string[] sites) => (await Kit.PutAsJsonAsync(
        $"api/accounts/{name}", new AccountWanted(name, role, password, sites))).EnsureSuccessStatusCode();

    [Fact]
    public async Task Another_role_and_other_sites_count_from_the_next_request_on()
    {
        var refresh = await service.RefreshAsync();
        var program = await service.AccountAsync("mara", "coordinator");
        var browser = await BrowserAsync("mara");
        foreach (var caller in new[] { program, browser })
            (await caller.PutAsJsonAsync($"api/refreshes/{refresh}/sites/East", new SiteWanted("East", 1))).StatusCode
                .ShouldBe(HttpStatusCode.OK);
        await PutAsync("mara", "technician", RunningService.Password, "North");
        foreach (var caller in new[] { program, browser })
        {
            (await caller.PutAsJsonAsync($"api/refreshes/{refresh}/sites/East", new SiteWanted("East", 1))).StatusCode
                .ShouldBe(HttpStatusCode.Forbidden);
            (await caller.PostAsJsonAsync($"api/swaps/{refresh}-0002/orders", new OrderWanted("survey"))).StatusCode
                .ShouldBe(HttpStatusCode.Forbidden, "it is at South");
        }
        await PutAsync("mara", "technician", RunningService.Password, "South");
        (await browser.PostAsJsonAsync($"api/swaps/{refresh}-0002/orders", new OrderWanted("survey"))).StatusCode
            .ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("password")]
    [InlineData("disabled")]
    [InlineData("signed out")]
    [InlineData("removed")]
    public async Task Whoever_is_out_is_out_with_cookie_token_and_stream(string how)
    {
        var (name, refresh) = ($"gone-{how.Replace(' ', '-')}", await service.RefreshAsync());
        var program = await service.AccountAsync(name, "auditor");
        var browser = await BrowserAsync(name);
        using var stream = await browser.GetAsync($"api/refreshes/{refresh}/events", HttpCompletionOption.ResponseHeadersRead);
        stream.EnsureSuccessStatusCode();
        var read = stream.Content.ReadAsStringAsync();
        var end = how switch
        {
            "password" => Kit.PutAsJsonAsync($"api/accounts/{name}", new AccountWanted(name, "auditor", "another-one-now", [])),
            "disabled" => Kit.PutAsJsonAsync($"api/accounts/{name}/use", new AccountUse(true)),
            "removed" => Kit.DeleteAsync($"api/accounts/{name}"),
            _ => Kit.DeleteAsync($"api/accounts/{name}/sessions"),
        };
        (await end).EnsureSuccessStatusCode();
        (await StatusAsync(program), await StatusAsync(browser)).ShouldBe((HttpStatusCode.Unauthorized, HttpStatusCode.Unauthorized));
        await read.WaitAsync(TimeSpan.FromMinutes(2));
        var again = await service.Browser().PostAsJsonAsync("api/sessions", new SignIn(name, RunningService.Password));
        again.StatusCode.ShouldBe(how switch
        {
            "disabled" => HttpStatusCode.Forbidden,
            "signed out" => HttpStatusCode.OK,
            _ => HttpStatusCode.Unauthorized,
        });
    }

    [Fact]
    public async Task A_browser_is_signed_out_twelve_hours_after_its_last_request_and_seven_days_after_it_signed_in()
    {
        await service.AccountAsync("tess", "auditor");
        var browser = await BrowserAsync("tess");
        service.Clock.Jump(TimeSpan.FromHours(12.1));
        (await StatusAsync(browser)).ShouldBe(HttpStatusCode.Unauthorized);
        browser = await BrowserAsync("tess");
        for (var hours = 0; hours < 7 * 24 - 10; hours += 10)
        {
            service.Clock.Jump(TimeSpan.FromHours(10));
            (await StatusAsync(browser)).ShouldBe(HttpStatusCode.OK, $"after {hours + 10} hours");
        }
        service.Clock.Jump(TimeSpan.FromHours(10));
        (await StatusAsync(browser)).ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Signed_out_a_cookie_or_token_opens_nothing_though_somebody_kept_it()
    {
        var program = await service.AccountAsync("ovid", "auditor");
        (await program.DeleteAsync("api/sessions/current")).EnsureSuccessStatusCode();
        (await StatusAsync(program)).ShouldBe(HttpStatusCode.Unauthorized);
        var signedIn = await service.Browser().PostAsJsonAsync("api/sessions", new SignIn("ovid", RunningService.Password));
        var kept = service.Browser();
        var cookie = signedIn.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("yardrelay=", StringComparison.Ordinal));
        kept.DefaultRequestHeaders.Add("Cookie", cookie.Split(';')[0]);
        (await StatusAsync(kept)).ShouldBe(HttpStatusCode.OK);
        (await kept.DeleteAsync("api/sessions/current")).EnsureSuccessStatusCode();
        (await StatusAsync(kept)).ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task People_see_where_they_are_signed_in_end_one_or_all_others_and_change_their_own_password()
    {
        var program = await service.AccountAsync("wim", "auditor");
        var (one, two) = (await BrowserAsync("wim"), await BrowserAsync("wim"));
        async Task<List<SessionSeen>> SeenAsync(HttpClient caller) =>
            (await caller.GetFromJsonAsync<List<SessionSeen>>("api/sessions", RunningService.Json))!;
        var seen = await SeenAsync(one);
        (seen.Count, seen.Count(s => s.IsBrowser), seen.Count(s => s.Label == "TestBrowser/1.0")).ShouldBe((3, 2, 2));
        var other = (await SeenAsync(two)).Single(s => s.IsThis);
        await RunningService.ProblemAsync(await Kit.DeleteAsync($"api/sessions/{other.Id}"), 404);
        await RunningService.ProblemAsync(await one.DeleteAsync("api/sessions/0"), 404);
        (await one.DeleteAsync($"api/sessions/{other.Id}")).EnsureSuccessStatusCode();
        (await StatusAsync(two)).ShouldBe(HttpStatusCode.Unauthorized);
        await RunningService.ProblemAsync(await one.PutAsJsonAsync("api/me/password", new PasswordChange("wrong", "quite-another")), 403);
        (await StatusAsync(program)).ShouldBe(HttpStatusCode.OK);
        (await one.PutAsJsonAsync("api/me/password", new PasswordChange(RunningService.Password, "quite-another")))
            .EnsureSuccessStatusCode();
        (await StatusAsync(program), await StatusAsync(one)).ShouldBe((HttpStatusCode.Unauthorized, HttpStatusCode.OK));
        two = await BrowserAsync("wim", "quite-another");
        (await two.DeleteAsync("api/sessions")).EnsureSuccessStatusCode();
        (await StatusAsync(one), await StatusAsync(two)).ShouldBe((HttpStatusCode.Unauthorized, HttpStatusCode.OK));
    }

    [Fact]
    public async Task Coordinators_see_all_accounts_and_shut_nobody_out_of_their_own()
    {
        await service.AccountAsync("lise", "auditor");
        (await Kit.PutAsJsonAsync("api/accounts/lise/use", new AccountUse(true))).EnsureSuccessStatusCode();
        var seen = (await Kit.GetFromJsonAsync<List<AccountSeen>>("api/accounts", RunningService.Json))!.Single(a => a.Name == "lise");
        (seen.Role, seen.Sessions, seen.DisabledAt is not null).ShouldBe(("auditor", 0, true));
        (await Kit.PutAsJsonAsync("api/accounts/lise/use", new AccountUse(false))).EnsureSuccessStatusCode();
        (await StatusAsync(await service.AsAsync("lise"))).ShouldBe(HttpStatusCode.OK);
        await RunningService.ProblemAsync(await Kit.PutAsJsonAsync("api/accounts/kit/use", new AccountUse(true)), 409);
        await RunningService.ProblemAsync(await Kit.DeleteAsync("api/accounts/kit"), 409);
        await RunningService.ProblemAsync(await Kit.DeleteAsync("api/accounts/nobody-of-that-name"), 404);
    }
}
