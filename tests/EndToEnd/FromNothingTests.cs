using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>
/// An empty service in headless Chromium: a coordinator gets from nothing to a published plan without leaving the browser.
/// </summary>
public sealed class FromNothingTests(Chromium chromium) : IDisposable
{
    private const string Roster =
        "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\nk2,Sol Okafor,North Quay,renew,KB-2,KB-12\n";

    private readonly Yard _yard = new();

    private async Task<IPage> SignInAsync(Contexts contexts)
    {
        var context = await contexts.OpenAsync(new()
        {
            BaseURL = _yard.Address,
            Locale = "en-GB",
            TimezoneId = "Europe/London",
            ViewportSize = new() { Width = 1280, Height = 800 },
            ReducedMotion = ReducedMotion.Reduce,
        });
        context.SetDefaultTimeout(Browsers.Patience);
        var page = await context.NewPageAsync();
        await page.GotoAsync("/");
        await page.GetByLabel("Name").FillAsync("kit");
        await page.Locator("input[type=password]").FillAsync("kestrel-bay-ferries");
        await page.Keyboard.PressAsync("Enter");
        return page;
    }

    private static ILocator Part(IPage page, string name) =>
        page.GetByRole(AriaRole.Listitem).Filter(new() { Has = page.GetByText(name, new() { Exact = true }) });

    private static Task IsThereAsync(IPage page, string name) =>
        Expect(Part(page, name).GetByText("done", new() { Exact = true })).ToHaveCountAsync(1);

    [Fact]
    public async Task From_an_empty_service_to_a_published_plan_in_the_browser_alone()
    {
        await _yard.StartServiceAsync();
        await using var contexts = new Contexts(chromium);
        var page = await SignInAsync(contexts);
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "Begin with a refresh" })).ToBeVisibleAsync();
        await ConsoleTests.NoAxeViolationsAsync(page, "first page");
        // Only a name must be typed; the key is made from it, the days and the zone are those of this device.
        await Expect(page.GetByRole(AriaRole.Button, new() { Name = "Make it" })).ToBeDisabledAsync();
        await page.GetByLabel("Name").FillAsync("Winter at Kestrel Bay");
        await page.GetByLabel("First day").FillAsync($"{DateTime.UtcNow.AddDays(1):yyyy-MM-dd}");
        await page.GetByLabel("Last day").FillAsync($"{DateTime.UtcNow.AddDays(15):yyyy-MM-dd}");
        await page.GetByRole(AriaRole.Button, new() { Name = "Make it" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "Winter at Kestrel Bay" })).ToBeVisibleAsync();
        await Expect(page.GetByText("Europe/London").First).ToBeVisibleAsync();
        await Expect(page.GetByRole(AriaRole.Button, new() { Name = "Make a first plan" })).ToBeDisabledAsync();
        await Expect(page.GetByText("as soon as people are there", new() { Exact = true })).ToBeVisibleAsync();

        await page.GetByRole(AriaRole.Button, new() { Name = "Take a list… People and computers" }).ClickAsync();
        await page.Locator("input[type=file]").First.SetInputFilesAsync(
            new FilePayload { Name = "people.csv", MimeType = "text/csv", Buffer = System.Text.Encoding.UTF8.GetBytes(Roster) });
        await page.GetByRole(AriaRole.Button, new() { Name = "Take it", Exact = true }).ClickAsync();
        await Expect(page.GetByText("Ida Moreau").First).ToBeVisibleAsync();

        await page.GetByRole(AriaRole.Link, new() { Name = "Refresh", Exact = true }).ClickAsync();
        await IsThereAsync(page, "People and computers");
        await page.GetByLabel("Name", new() { Exact = true }).FillAsync("Noor Haddad");
        await page.GetByRole(AriaRole.Button, new() { Name = "Add", Exact = true }).ClickAsync();
        await IsThereAsync(page, "Technicians");

        await page.GetByRole(AriaRole.Button, new() { Name = "Choose… Where files go" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Set it, and try it" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Done", Exact = true }).ClickAsync();
        await IsThereAsync(page, "Where files go");
        await ConsoleTests.NoAxeViolationsAsync(page, "set-up");

        await page.GetByRole(AriaRole.Button, new() { Name = "Make a first plan" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Make a draft", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Dialog).GetByRole(AriaRole.Button, new() { Name = "Publish", Exact = true }).ClickAsync();
        await Expect(page.GetByText("Ida Moreau").First).ToBeVisibleAsync();
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "winter-at-kestrel-bay");
        _yard.Line("plan", "show").ShouldContain("Noor Haddad");
        _yard.Line("ready").ShouldContain("no hand", Case.Insensitive);
        _yard.Line("refresh", "set-up").ShouldContain("2 of 2 swaps have a time");

        // Another refresh: the one that was used last is shown again, and a swap's address shows its own.
        await page.GetByLabel("Refresh", new() { Exact = true }).SelectOptionAsync(new SelectOptionValue { Label = "New refresh…" });
        await page.GetByLabel("Name").FillAsync("Spring");
        await page.GetByRole(AriaRole.Button, new() { Name = "Make it" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "Spring", Exact = true })).ToBeVisibleAsync();
        await page.GotoAsync("/");
        await Expect(page.GetByLabel("Refresh", new() { Exact = true })).ToHaveValueAsync("spring");
        await page.GotoAsync("/swaps/winter-at-kestrel-bay-0001");
        await Expect(page.GetByLabel("Refresh", new() { Exact = true })).ToHaveValueAsync("winter-at-kestrel-bay");
    }

    public void Dispose() => _yard.Dispose();
}
