using System.Net;
using System.Net.Http.Json;
using System.Text;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

/// <summary>A page from elsewhere cannot have a browser that is signed in change anything, nor sign it in as somebody else.</summary>
public sealed class FromOwnPagesTests(OnSqlite service) : IClassFixture<OnSqlite>
{
    private const string Own = "http://localhost";

    private async Task<string> CookieAsync(string name)
    {
        await service.AccountAsync(name, "coordinator");
        var signedIn = await service.Browser().PostAsJsonAsync("api/sessions", new SignIn(name, RunningService.Password));
        signedIn.EnsureSuccessStatusCode();
        return string.Join("; ", signedIn.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0]));
    }

    private async Task<HttpStatusCode> AskAsync(
        HttpMethod method, string path, HttpContent? content, params (string Name, string? Value)[] said)
    {
        using var request = new HttpRequestMessage(method, path) { Content = content };
        foreach (var (name, value) in said)
            if (value is not null) request.Headers.TryAddWithoutValidation(name, value).ShouldBeTrue();
        return (await service.Nobody().SendAsync(request)).StatusCode;
    }

    [Theory]
    [InlineData("same-origin", null, true)]
    [InlineData("same-origin", Own, true)]
    [InlineData(null, Own, true)]
    [InlineData(null, null, false)]
    [InlineData("none", null, false)]
    [InlineData("same-site", Own, false)]
    [InlineData("cross-site", Own, false)]
    [InlineData("cross-site", null, false)]
    [InlineData(null, "null", false)]
    [InlineData(null, "https://localhost", false)]
    [InlineData(null, "http://localhost:8080", false)]
    [InlineData(null, "http://localhost.elsewhere.example", false)]
    public async Task What_changes_something_by_a_cookie_is_asked_for_by_a_page_of_the_service(string? site, string? origin, bool isDone)
    {
        var (name, refresh) = ($"page-{site}-{origin?.Length}", await service.RefreshAsync());
        var cookie = await CookieAsync(name);
        (string, string?)[] said = [("Cookie", cookie), ("Sec-Fetch-Site", site), ("Origin", origin)];
        (await AskAsync(HttpMethod.Put, $"api/refreshes/{refresh}/sites/East", JsonContent.Create(new SiteWanted("East", 1)), said))
            .ShouldBe(isDone ? HttpStatusCode.OK : HttpStatusCode.Forbidden);
        // Whatever the content says that it is, and where there is none.
        foreach (var kind in new[] { "text/plain", "application/x-www-form-urlencoded", "multipart/form-data" })
            ((await AskAsync(HttpMethod.Post, $"api/refreshes/{refresh}/roster", new StringContent("x", Encoding.UTF8, kind), said))
                == HttpStatusCode.Forbidden).ShouldBe(!isDone, kind);
        ((await AskAsync(HttpMethod.Delete, "api/sessions", null, said)) == HttpStatusCode.Forbidden).ShouldBe(!isDone);
        // Reading is open to all that carries the cookie, which a page elsewhere cannot look at.
        (await AskAsync(HttpMethod.Get, "api/me", null, said)).ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Nobody_is_signed_in_by_a_page_from_elsewhere_and_programs_need_no_page()
    {
        await service.AccountAsync("vic", "auditor");
        JsonContent Secret() => JsonContent.Create(new SignIn("vic", RunningService.Password));
        JsonContent Program() => JsonContent.Create(new NewToken("vic", RunningService.Password, "test"));
        (await AskAsync(HttpMethod.Post, "api/sessions", Secret(), ("Origin", "https://elsewhere.example")))
            .ShouldBe(HttpStatusCode.Forbidden);
        (await AskAsync(HttpMethod.Post, "api/sessions", Secret())).ShouldBe(HttpStatusCode.Forbidden);
        (await AskAsync(HttpMethod.Post, "api/sessions", Secret(), ("Origin", Own))).ShouldBe(HttpStatusCode.OK);
        (await AskAsync(HttpMethod.Post, "api/tokens", Program())).ShouldBe(HttpStatusCode.OK);
        (await AskAsync(HttpMethod.Post, "api/tokens", Program(), ("Sec-Fetch-Site", "cross-site"))).ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task Nothing_of_people_is_kept_by_a_browser_and_its_pages_are_the_services_own()
    {
        var refresh = await service.RefreshAsync();
        foreach (var path in new[] { "api/me", $"api/swaps/{refresh}-0001", "api/no/such" })
        {
            using var answer = await service.Kit.GetAsync(path);
            answer.Headers.CacheControl!.ToString().ShouldBe("no-store", path);
            var policy = answer.Headers.GetValues("Content-Security-Policy").Single();
            foreach (var rule in new[] { "base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'", "object-src 'none'" })
                policy.ShouldContain(rule);
        }
        foreach (var path in new[] { "api/x", "health/x", "health", "metrics", "metrics/x", "openapi/x" })
            (await service.Nobody().GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
    }
}
