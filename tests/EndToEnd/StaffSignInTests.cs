using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>Staff sign in through their organisation's identity provider, the one that ships, over the network.</summary>
public sealed partial class StaffSignInTests : IDisposable
{
    private readonly Yard _yard = new();
    private int _port;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task BeginAsync(params string[] provider)
    {
        _port = Ports.Free();
        _yard.More["YARD_IDENTITY_SECRET"] = "between-the-two";
        _yard.Start(
            "yardrelay", "--urls", _yard.Address, "--state", _yard.Folder["state"], "--first", "kit:kestrel-bay-ferries", "--log", "Error",
            "--organisation", $"http://127.0.0.1:{_port}", "--organisation-secret", "between-the-two",
            "--organisation-name", "Kestrel Bay");
        await _yard.UntilAsync(
            async http => (await http.GetAsync(new Uri(_yard.Address + "/health/ready"))).IsSuccessStatusCode, "the service is ready");
        // The provider is away, and then it is there.
        using (var early = new HttpClient { BaseAddress = new(_yard.Address) })
            foreach (var (door, refused) in new[]
            {
                ("organisation/staff", "/?refused=organisation"), ("organisation/sign-in", "/my?failed")
            })
                (await early.GetAsync(door, Cancel)).RequestMessage!.RequestUri!.PathAndQuery.ShouldBe(refused);
        _yard.Start("yardstand", ["identity", "--port", $"{_port}", .. provider]);
        await _yard.UntilAsync(
            async http => (await http.GetAsync(new Uri($"http://127.0.0.1:{_port}/keys"))).IsSuccessStatusCode, "the provider is ready");
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
    }

    [GeneratedRegex("href=\"(/as[^\"]*)\"")]
    private static partial Regex Door();

    /// <summary>Goes to the provider and back as somebody would: where the browser ends, and what it may then.</summary>
    private Task<(string At, JsonNode? Me, HttpClient Browser)> InAsync(string mail, string to = "/plan") =>
        ThroughAsync($"organisation/staff?to={Uri.EscapeDataString(to)}", mail);

    private async Task<(string At, JsonNode? Me, HttpClient Browser)> ThroughAsync(string from, string mail)
    {
        var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = new(_yard.Address)
        };
        var page = await browser.GetAsync(from, Cancel);
        var door = Door().Matches(await page.Content.ReadAsStringAsync(Cancel))
            .Select(m => WebUtility.HtmlDecode(m.Groups[1].Value))
            .Single(d => Uri.UnescapeDataString(d).EndsWith("mail=" + mail, StringComparison.Ordinal));
        var back = await browser.GetAsync(new Uri($"http://127.0.0.1:{_port}{door}"), Cancel);
        var me = await browser.GetAsync("api/me", Cancel);
        return (
            back.RequestMessage!.RequestUri!.PathAndQuery,
            me.IsSuccessStatusCode ? JsonNode.Parse(await me.Content.ReadAsStringAsync(Cancel)) : null,
            browser);
    }

    private static string[] Keys(JsonNode? list) => [.. list!.AsArray().Select(k => (string)k!)];

    [Fact]
    public async Task Groups_say_what_staff_may_and_what_they_open_changes_for_all_at_once()
    {
        await BeginAsync(
            "--person", "kit@kestrelbay.example", "noor.haddad@kestrelbay.example", "lea@kestrelbay.example", "eve@kestrelbay.example",
            "--group", "noor.haddad@kestrelbay.example=IT North", "noor.haddad@kestrelbay.example=IT South",
            "lea@kestrelbay.example=IT lead",
            "kit@kestrelbay.example=IT North", "eve@kestrelbay.example=Everybody", "--second", "lea@kestrelbay.example");
        // Nothing opens by itself.
        (await InAsync("lea@kestrelbay.example")).ShouldSatisfyAllConditions(
            r => r.At.ShouldBe("/plan?refused=organisation.no-group"), r => r.Me.ShouldBeNull());
        _yard.Line("staff-group", "set", "IT North", "--role", "technician", "--site", "North Quay");
        _yard.Line("staff-group", "set", "IT South", "--role", "technician", "--site", "South Pier", "--for-refresh", "spring");
        _yard.Line("staff-group", "set", "IT lead", "--role", "coordinator");
        var (at, noor, browser) = await InAsync("noor.haddad@kestrelbay.example");
        (at, (string)noor!["name"]!, (string)noor["shown"]!, (string)noor["role"]!, (bool)noor["isSecond"]!).ShouldBe(
            ("/plan", "noor.haddad", "Noor Haddad", "technician", false));
        (Keys(noor["sites"]), Keys(noor["refreshes"])).ShouldSatisfyAllConditions(
            k => k.Item1.ShouldBe(["North Quay", "South Pier"]), k => k.Item2.ShouldBeEmpty());
        (await InAsync("eve@kestrelbay.example")).At.ShouldBe("/plan?refused=organisation.no-group");
        // Whoever is called as somebody here is somebody else.
        var (_, other, _) = await InAsync("kit@kestrelbay.example");
        ((string)other!["name"]!, (string)other["role"]!).ShouldBe(("kit-2", "technician"));
        var lea = await InAsync("lea@kestrelbay.example", "//evil.example/");
        (lea.At, (string)lea.Me!["role"]!, (bool)lea.Me["isSecond"]!).ShouldBe(("/", "coordinator", true));

        // From the next request on.
        _yard.Line("staff-group", "set", "IT North", "--role", "technician", "--site", "East Dock");
        Keys(JsonNode.Parse(await browser.GetStringAsync("api/me", Cancel))!["sites"]).ShouldBe(["East Dock", "South Pier"]);
        _yard.Line("staff-group", "remove", "IT North", "--yes");
        _yard.Line("staff-group", "remove", "IT South", "--yes");
        (await browser.GetAsync("api/me", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await InAsync("noor.haddad@kestrelbay.example")).At.ShouldBe("/plan?refused=organisation.no-group");
        // Nobody shuts themselves out; an account of the organisation gets no password and no other rights; disabled, it stays out.
        (await SendAsync(HttpMethod.Delete, lea.Browser, "api/staff-groups/IT%20lead")).ShouldBe(HttpStatusCode.Conflict);
        ((bool)lea.Me["isOfOrganisation"]!).ShouldBeTrue();
        _yard.TryLine("account", "set", "lea", "--name", "Lea", "--role", "auditor").All.ShouldContain("by the organisation");
        _yard.Line("account", "disable", "lea");
        (await lea.Browser.GetAsync("api/me", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await InAsync("lea@kestrelbay.example")).At.ShouldBe("/plan?refused=account.disabled");
        using var program = new HttpClient { BaseAddress = new(_yard.Address) };
        (await program.PostAsJsonAsync("api/tokens", new { name = "noor.haddad", password = "", label = "a" }, Cancel)).StatusCode
            .ShouldBe(HttpStatusCode.Unauthorized);
        _yard.Line("account", "list").ShouldContain("by the organisation");
    }

    private async Task<HttpStatusCode> SendAsync(HttpMethod method, HttpClient browser, string path)
    {
        using var request = new HttpRequestMessage(method, path);
        request.Headers.Add("Origin", _yard.Address);
        return (await browser.SendAsync(request, Cancel)).StatusCode;
    }

    [Fact]
    public async Task A_token_that_is_not_the_providers_for_this_service_and_this_moment_lets_nobody_in()
    {
        string[] lies = ["nonce", "issuer", "audience", "expired", "unsigned", "otherKey"];
        static string Of(string lie) => $"{lie.ToLowerInvariant()}@kestrelbay.example";
        await BeginAsync([
            "--person", "lea@kestrelbay.example", .. lies.Select(Of),
            "--group", "lea@kestrelbay.example=IT lead", .. lies.Select(l => $"{Of(l)}=IT lead"),
            "--lie", .. lies.Select(l => $"{Of(l)}={l}")
        ]);
        _yard.Line("staff-group", "set", "IT lead", "--role", "coordinator");
        await File.WriteAllTextAsync(
            _yard.Folder["roster.csv"],
            "person,name,mail,site,kind,old_tag,new_tag\n"
                + string.Concat(lies.Select((l, i) => $"k{i},Person {l},{Of(l)},North Quay,renew,KB-{i},KB-{i}1\n")),
            Cancel);
        _yard.Line("roster", "take", _yard.Folder["roster.csv"]);
        foreach (var lie in lies)
        {
            var (at, me, _) = await InAsync(Of(lie));
            (at, me).ShouldBe(("/plan?refused=organisation", null), lie);
            // Nor to a page of their own.
            (await ThroughAsync("organisation/sign-in", Of(lie))).At.ShouldBe("/my?failed", lie);
        }
        (await InAsync("lea@kestrelbay.example")).At.ShouldBe("/plan", "the same without a lie");
        _yard.Line("account", "list").ShouldNotContain("unsigned");
    }

    public void Dispose() => _yard.Dispose();
}
