using Microsoft.Playwright;
using YardRelay.Peers;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>
/// People reach their own page through their organisation's identity provider, in headless Chromium with the one that ships.
/// </summary>
public sealed class OrganisationTests(Chromium chromium) : IDisposable
{
    private readonly Yard _yard = new();

    [Fact]
    public async Task Whoever_the_organisation_vouches_for_reaches_their_own_page_and_nobody_else_does()
    {
        var port = Ports.Free();
        _yard.More["YARD_IDENTITY_SECRET"] = "between-the-two";
        _yard.Start(
            "yardstand", "identity", "--port", $"{port}", "--person", "Ida@kestrelbay.example", "eve@kestrelbay.example", "--unverified",
            "sol@kestrelbay.example");
        _yard.Start(
            "yardrelay", "--urls", _yard.Address, "--state", _yard.Folder["state"], "--first", "kit:kestrel-bay-ferries", "--log", "Error",
            "--organisation", $"http://127.0.0.1:{port}", "--organisation-secret", "between-the-two");
        await _yard.UntilAsync(
            async http => (await http.GetAsync(new Uri(_yard.Address + "/health/ready"))).IsSuccessStatusCode, "the service is ready");
        await File.WriteAllTextAsync(
            _yard.Folder["roster.csv"],
            "person,name,mail,site,kind,old_tag,new_tag\nk1,Ida Moreau,ida@kestrelbay.example,North Quay,renew,KB-1,KB-11\nk2,Sol "
                + "Okafor,sol@kestrelbay.example,North Quay,renew,KB-2,KB-12\n",
            TestContext.Current.CancellationToken);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        _yard.Line("roster", "take", _yard.Folder["roster.csv"]);

        await using var contexts = new Contexts(chromium);
        async Task<IPage> SignInAsync(string mail)
        {
            var context = await contexts.OpenAsync(new() { ViewportSize = new() { Width = 390, Height = 844 }, Locale = "en-GB" });
            context.SetDefaultTimeout(Browsers.Patience);
            var page = await context.NewPageAsync();
            await page.GotoAsync(_yard.Address + "/my");
            await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "This page is shut" })).ToBeVisibleAsync();
            await ConsoleTests.NoAxeViolationsAsync(page, "the doors of a page");
            await page.GetByRole(AriaRole.Link, new() { Name = "Sign in with your organisation" }).ClickAsync();
            await page.GetByRole(AriaRole.Link, new() { Name = mail }).ClickAsync();
            return page;
        }

        var ida = await SignInAsync("Ida@kestrelbay.example");
        await Expect(ida.GetByRole(AriaRole.Heading, new() { Name = "Hello Ida Moreau" })).ToBeVisibleAsync();
        ida.Url.ShouldEndWith("/my");
        _yard.Line("person", "links", "spring-0001").ShouldContain("their organisation");
        _yard.Line("ledger", "show").ShouldContain("signed in by their organisation");
        // Nobody of whom nothing is known here, and nobody whose address the organisation has not verified.
        foreach (var mail in new[] { "eve@kestrelbay.example", "sol@kestrelbay.example" })
            await Expect((await SignInAsync(mail))
                .GetByRole(AriaRole.Heading, new() { Name = "Nothing is planned for you here" })).ToBeVisibleAsync();
        _yard.Line("person", "refused").ShouldContain("organisation");
        // It is a link like any other: withdrawn, the page is shut. And an answer made up by somebody opens nothing.
        _yard.Line("person", "withdraw", "spring-0001").ShouldContain("1 link is withdrawn");
        await ida.ReloadAsync();
        await Expect(ida.GetByRole(AriaRole.Heading, new() { Name = "This page is shut" })).ToBeVisibleAsync();
        await ida.GotoAsync(_yard.Address + "/organisation/signed-in?code=made-up&state=made-up");
        await Expect(ida.GetByRole(AriaRole.Heading, new() { Name = "Your organisation could not sign you in" })).ToBeVisibleAsync();
    }

    public void Dispose() => _yard.Dispose();
}
