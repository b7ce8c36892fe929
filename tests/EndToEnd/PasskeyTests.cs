using System.Text.RegularExpressions;
using Microsoft.Playwright;
using YardRelay.Peers;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>
/// A passkey in headless Chromium, with an authenticator that the browser plays: added, shown at the next sign-in, and letting the command
/// line in, which cannot show one.
/// </summary>
public sealed partial class PasskeyTests(Chromium chromium) : IDisposable
{
    private const string Password = "kestrel-bay-ferries";
    private readonly Yard _yard = new();

    [GeneratedRegex(@"/let-in/([A-Z]{4}-[A-Z]{4})")]
    private static partial Regex Code();

    // No browser keeps passkeys for a bare address.
    private string At(string path) => _yard.Address.Replace("127.0.0.1", "localhost", StringComparison.Ordinal) + path;

    private static async Task<IPage> PageAsync(Contexts contexts)
    {
        var context = await contexts.OpenAsync(new() { ViewportSize = new() { Width = 390, Height = 844 }, Locale = "en-GB" });
        context.SetDefaultTimeout(Browsers.Patience);
        var page = await context.NewPageAsync();
        var session = await context.NewCDPSessionAsync(page);
        await session.SendAsync("WebAuthn.enable");
        await session.SendAsync("WebAuthn.addVirtualAuthenticator", new()
        {
            ["options"] = new Dictionary<string, object>
            {
                ["protocol"] = "ctap2",
                ["transport"] = "internal",
                ["hasResidentKey"] = true,
                ["hasUserVerification"] = true,
                ["isUserVerified"] = true,
                ["automaticPresenceSimulation"] = true
            }
        });
        return page;
    }

    private static async Task PasswordAsync(IPage page)
    {
        await page.GetByLabel("Name", new() { Exact = true }).FillAsync("kit");
        await page.GetByRole(AriaRole.Textbox, new() { Name = "Password" }).FillAsync(Password);
        await page.GetByRole(AriaRole.Button, new() { Name = "Sign in", Exact = true }).ClickAsync();
    }

    [Fact]
    public async Task A_passkey_is_added_shown_and_lets_the_command_line_in()
    {
        await _yard.StartServiceAsync();
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        await using var contexts = new Contexts(chromium);
        var page = await PageAsync(contexts);
        await page.GotoAsync(At("/me"));
        await PasswordAsync(page);
        await page.GetByLabel("What it lies on").FillAsync("My phone");
        await page.GetByRole(AriaRole.Textbox, new() { Name = "Your password, once more" }).FillAsync(Password);
        await page.GetByRole(AriaRole.Button, new() { Name = "Add a passkey" }).ClickAsync();
        await Expect(page.GetByText("shown this once.")).ToBeVisibleAsync();
        await ConsoleTests.NoAxeViolationsAsync(page, "passkeys and codes");
        // The command line was in by the password alone, and is out.
        _yard.TryLine("refresh", "list").All.ShouldContain("sign-in");

        var line = _yard.Start("yardline", "sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        await _yard.UntilAsync(_ => Task.FromResult(Code().IsMatch(_yard.Said)), "the command line shows a code");
        await page.GotoAsync(At(Code().Match(_yard.Said).Value));
        await Expect(page.GetByText(Code().Match(_yard.Said).Groups[1].Value)).ToBeVisibleAsync();
        await ConsoleTests.NoAxeViolationsAsync(page, "a program asks");
        await page.GetByRole(AriaRole.Button, new() { Name = "Let it in as me" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Status)).ToContainTextAsync("It is in, as you");
        await line.WaitForExitAsync(TestContext.Current.CancellationToken);
        line.ExitCode.ShouldBe(0, _yard.Said);
        _yard.Line("refresh", "second", "on").ShouldContain("shows a passkey, too");
        _yard.Line("account", "list").ShouldContain("kit");

        await page.GetByRole(AriaRole.Button, new() { Name = "More", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Sign out" }).ClickAsync();
        await PasswordAsync(page);
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "Your passkey" })).ToBeVisibleAsync();
        await ConsoleTests.NoAxeViolationsAsync(page, "asked for a passkey");
        await page.GetByRole(AriaRole.Button, new() { Name = "Show my passkey" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Link, new() { Name = "Today" })).ToBeVisibleAsync();
        await page.GotoAsync(At("/accounts"));
        await Expect(page.GetByLabel("Whoever works in Spring shows a passkey, too")).ToBeCheckedAsync();
        await ConsoleTests.NoAxeViolationsAsync(page, "accounts");
    }

    public void Dispose() => _yard.Dispose();
}
