using System.Globalization;
using System.IO.Compression;
using System.Text.Json.Nodes;
using Microsoft.Playwright;
using YardRelay.Peers;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>A person's own page in headless Chromium, reached by the link that a coordinator made.</summary>
public sealed class PersonPageTests(RunningYard yard, Chromium chromium) : IClassFixture<RunningYard>, IAsyncDisposable
{
    private readonly Contexts _contexts = new(chromium);

    private string Link(string swap) => yard.Line("person", "link", swap, "--hand-over").Split('\n')[0].Trim();

    private async Task<IPage> OpenAsync(string link, int width = 390, ColorScheme scheme = ColorScheme.Light)
    {
        var context = await _contexts.OpenAsync(new()
        {
            ViewportSize = new() { Width = width, Height = 844 },
            ColorScheme = scheme,
            ReducedMotion = ReducedMotion.Reduce,
            Locale = "en-GB"
        });
        context.SetDefaultTimeout(Browsers.Patience);
        var page = await context.NewPageAsync();
        await page.GotoAsync(link);
        return page;
    }

    [Fact]
    public async Task The_page_is_accessible_in_both_languages_at_phone_width_and_zoomed_in_four_times()
    {
        // 320 pixels are what a screen of 1280 has at 400 %.
        foreach (var (width, scheme) in new[] { (320, ColorScheme.Light), (390, ColorScheme.Dark), (1280, ColorScheme.Light) })
            foreach (var swap in new[] { "spring-0001", "spring-0002", "spring-0004" })
            {
                var page = await OpenAsync(Link(swap), width, scheme);
                await page.GetByRole(AriaRole.Heading, new() { Name = "Hello " }).WaitForAsync();
                foreach (var (language, heading) in new[] { ("de", "Guten Tag, "), ("en", "Hello ") })
                {
                    await page.GetByLabel(language == "de" ? "Language" : "Sprache").SelectOptionAsync(language);
                    await page.GetByRole(AriaRole.Heading, new() { Name = heading }).WaitForAsync();
                    await page.EvaluateAsync("() => document.querySelectorAll('details').forEach(d => d.open = true)");
                    (await page.EvaluateAsync<string>("() => document.documentElement.lang")).ShouldBe(language);
                    await ConsoleTests.NoAxeViolationsAsync(page, $"{swap} {width} {scheme} {language}");
                    (await page.EvaluateAsync<int>("() => document.documentElement.scrollWidth - document.documentElement.clientWidth"))
                        .ShouldBeLessThanOrEqualTo(0, $"{swap} at {width}");
                }
                await page.Context.CloseAsync();
            }
    }

    [Fact]
    public async Task A_person_does_with_the_keyboard_what_is_theirs_and_nothing_that_is_said_runs_as_markup()
    {
        var link = Link("spring-0002");
        var page = await OpenAsync(link);
        await page.GetByRole(AriaRole.Heading, new() { Name = "Hello Sol Okafor" }).WaitForAsync();
        page.Url.ShouldEndWith("/my");
        // A file that did not come along is named here, to the person.
        await Expect(page.GetByText("Documents/print-queue")).ToBeVisibleAsync();
        // The first answer is slow: what was ticked meanwhile stays ticked, before it comes and after it.
        var held = new TaskCompletionSource();
        await page.RouteAsync("**/api/person/steps/*", async route =>
        {
            var answer = await route.FetchAsync();
            await held.Task;
            await route.FulfillAsync(new() { Response = answer });
        }, new() { Times = 1 });
        var noted = page.GetByRole(AriaRole.Checkbox, new() { Name = "My licences" });
        var named = page.GetByRole(AriaRole.Checkbox, new() { Name = "All that I know of" });
        await noted.FocusAsync();
        await page.Keyboard.PressAsync("Space");
        await page.Keyboard.PressAsync("Tab");
        await page.Keyboard.PressAsync("Space");
        await Expect(noted).ToBeCheckedAsync();
        await Expect(named).ToBeCheckedAsync();
        await page.RunAndWaitForResponseAsync(() => Task.FromResult(held.TrySetResult()),
            response => response.Url.EndsWith("/noted", StringComparison.Ordinal));
        await Expect(page.GetByText("You are ready.")).ToBeVisibleAsync();
        await Expect(noted).ToBeCheckedAsync();
        await Expect(named).ToBeCheckedAsync();
        await page.GetByLabel("Your question").FocusAsync();
        await page.Keyboard.TypeAsync("Is <img src=x onerror=document.title='run'> kept?");
        await page.Keyboard.PressAsync("Tab");
        await page.Keyboard.PressAsync("Enter");
        // Sent, the field is empty for the next; what was asked stands below it.
        await Expect(page.GetByLabel("Your question")).ToHaveValueAsync("");
        await Expect(page.GetByText("Is <img src=x onerror=document.title='run'> kept?")).ToBeVisibleAsync();
        (await page.TitleAsync()).ShouldBe("Your new computer");
        yard.Line("follow-up", "list").ShouldContain("Sol Okafor asks: Is <img src=x");
        yard.Line("swap", "show", "spring-0002").ShouldContain("Sol Okafor");
        // What was typed outlives a lost network, and is not lost by it.
        await page.GetByLabel("Your question").FillAsync("And my bookmarks?");
        await page.Context.SetOfflineAsync(true);
        await page.GetByRole(AriaRole.Button, new() { Name = "Send" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("stays here");
        await Expect(page.GetByLabel("Your question")).ToHaveValueAsync("And my bookmarks?");
        await page.Context.SetOfflineAsync(false);
        await page.GetByRole(AriaRole.Button, new() { Name = "Send" }).ClickAsync();
        await Expect(page.GetByLabel("Your question")).ToHaveValueAsync("");
        // The same link on another device opens nothing, and is counted.
        var other = await OpenAsync(link);
        await Expect(other.GetByRole(AriaRole.Heading, new() { Name = "This link opens nothing" })).ToBeVisibleAsync();
        await ConsoleTests.NoAxeViolationsAsync(other, "a link that opens nothing");
        yard.Line("person", "refused").ShouldContain("opened on another device");
        // Withdrawn, the page is shut where it is open.
        yard.Line("person", "withdraw", "spring-0002").ShouldContain("withdrawn");
        await page.ReloadAsync();
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "This page is shut" })).ToBeVisibleAsync();
    }

    [Fact]
    public async Task A_person_signs_that_all_is_there_and_sees_it_said()
    {
        yard.WorkSteps("spring-0001");
        yard.Line("step", "set", "spring-0001", "old-tag", "--tag", "KB-1");
        yard.Line("step", "set", "spring-0001", "new-tag", "--tag", "KB-11");
        yard.Line("swap", "sign-off", "spring-0001");
        var page = await OpenAsync(Link("spring-0001"));
        await page.GetByRole(AriaRole.Button, new() { Name = "All my things are there" }).ClickAsync();
        await page.GetByLabel("Your name").FillAsync("Ida Moreau");
        await page.Keyboard.PressAsync("Enter");
        await Expect(page.GetByText("that all is there. Thank you.")).ToBeVisibleAsync();
        yard.Line("ledger", "show").ShouldMatch(@"Ida Moreau \(by a link that \w+ handed over\) signed off on their own page");
    }

    [Fact]
    public async Task A_person_waits_for_a_day_and_gets_it_and_sees_what_is_kept_about_them()
    {
        yard.Line("choosing", "set", "--until-hours", "2");
        var latest = JsonNode.Parse(yard.Line("swap", "list", "--json"))!.AsArray()
            .Where(s => s!["appointment"] is not null)
            .MaxBy(s => (DateTimeOffset)s!["appointment"]!["start"]!)!;
        var page = await OpenAsync(Link((string)latest["id"]!));
        await page.GetByRole(AriaRole.Checkbox, new() { Name = "I would exchange my time." }).FocusAsync();
        await page.Keyboard.PressAsync("Space");
        await Expect(page.GetByRole(AriaRole.Checkbox, new() { Name = "I would exchange my time." })).ToBeCheckedAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Choose another time" }).ClickAsync();
        await page.GetByText("None of these suits").ClickAsync();
        await ConsoleTests.NoAxeViolationsAsync(page, "waiting for a time");
        // Two days on, in the afternoon: free, so that whoever waits longest has it within seconds.
        var wanted = ((DateTimeOffset)latest["appointment"]!["start"]!).AddDays(2);
        await page.GetByLabel("Day", new() { Exact = true }).FillAsync($"{wanted:yyyy-MM-dd}");
        await page.GetByLabel("When on that day").SelectOptionAsync("afternoon");
        await page.GetByRole(AriaRole.Button, new() { Name = "Wait for it" }).ClickAsync();
        await Expect(page.Locator(".big")).ToContainTextAsync(
            wanted.ToString("dddd d MMMM", CultureInfo.InvariantCulture));
        yard.Line("ledger", "show").ShouldContain("waited for");
        await page.GetByText("Look at what that is").ClickAsync();
        await Expect(page.GetByText("What happened, and who did it")).ToBeVisibleAsync();
        var download = await page.RunAndWaitForDownloadAsync(() =>
            page.GetByRole(AriaRole.Link, new() { Name = "Take a copy" }).ClickAsync());
        using (var zip = ZipFile.OpenRead(await download.PathAsync())) zip.GetEntry("person.json").ShouldNotBeNull();
        await page.GetByRole(AriaRole.Button, new() { Name = "Ask for it to be erased" }).ClickAsync();
        await Expect(page.GetByText("You have asked for it to be erased.")).ToBeVisibleAsync();
        yard.Line("follow-up", "list").ShouldContain("asks that what is kept about them is erased");
        yard.Line("person", "kept", (string)latest["id"]!).ShouldContain("It cannot be erased yet");
    }

    public ValueTask DisposeAsync() => _contexts.DisposeAsync();
}
