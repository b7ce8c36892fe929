using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.Playwright;
using YardRelay.Peers;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>A technician at a desk where the network is down, in headless Chromium with the wire cut.</summary>
public sealed class OfflineTests(RunningYard yard, Chromium chromium) : IClassFixture<RunningYard>
{
    [Fact]
    public async Task Without_a_network_the_round_and_its_checklists_are_there_steps_wait_and_what_conflicts_is_decided()
    {
        yard.Line("account", "set", "noor", "--name", "Noor Haddad", "--role", "technician", "--site", "North Quay", "Lantern Point");
        using var wire = new CutWire(new Uri(yard.Address).Port);
        await using var contexts = new Contexts(chromium);
        var context = await contexts.OpenAsync(new()
        {
            BaseURL = wire.Address,
            ViewportSize = new() { Width = 390, Height = 844 },
            ReducedMotion = ReducedMotion.Reduce
        });
        context.SetDefaultTimeout(Browsers.Patience);
        var page = await context.NewPageAsync();
        await page.GotoAsync("/");
        await page.GetByLabel("Name").FillAsync("noor");
        await page.Locator("input[type=password]").FillAsync("kestrel-bay-ferries");
        await page.Keyboard.PressAsync("Enter");
        await page.GetByRole(AriaRole.Navigation).WaitForAsync();
        await page.EvaluateAsync("() => navigator.serviceWorker.ready")
            .WaitAsync(TimeSpan.FromMinutes(5), TestContext.Current.CancellationToken);
        // Seen once with a network, and by then everything of today is on the device.
        await page.GotoAsync("/round");
        await page.GetByRole(AriaRole.Link, new() { Name = "Work its checklist" }).WaitForAsync();
        const string All =
            "async () => { const cache = await caches.open('yard-answers'); const paths = (await cache.keys()).map(k => new "
                + "URL(k.url).pathname); return ['me', 'refreshes', 'swaps/spring-0001', 'swaps/spring-0002', "
                + "'swaps/spring-0004'].every(p => paths.includes('/api/' + p)) }";
        for (var tries = 0; !await page.EvaluateAsync<bool>(All); tries++)
        {
            tries.ShouldBeLessThan(100, "the round's checklists are not taken along");
            await page.WaitForTimeoutAsync(200);
        }

        wire.Cut();
        await page.GotoAsync("/round");
        await Expect(page.GetByText("No live connection")).ToBeVisibleAsync();
        await page.GotoAsync("/swaps/spring-0002");
        await page.GetByRole(AriaRole.Heading, new() { Name = "Sol Okafor" }).WaitForAsync();
        var checklist = page.GetByRole(AriaRole.Region, new() { Name = "Checklist" });
        foreach (var step in new[] { "Person has been told when and what", "Unwanted programs and background activity are off" })
            await checklist.GetByRole(AriaRole.Button, new() { Name = step }).First.ClickAsync();
        await checklist.GetByRole(AriaRole.Button, new() { NameRegex = new("open: Person says") }).First.ClickAsync();
        await Expect(checklist.GetByText("not sent yet")).ToHaveCountAsync(3);
        await Expect(page.GetByText("No network. 3 steps on this device wait to be sent")).ToBeVisibleAsync();
        // A wrong computer is refused without a network, too.
        await checklist.GetByRole(AriaRole.Button, new() { Name = "Right old computer" }).First.ClickAsync();
        await page.GetByRole(AriaRole.Dialog).GetByRole(AriaRole.Textbox).FillAsync("KB-9");
        await page.Keyboard.PressAsync("Enter");
        await Expect(page.GetByRole(AriaRole.Dialog).GetByRole(AriaRole.Alert)).ToContainTextAsync("Wrong computer");
        await page.Keyboard.PressAsync("Escape");
        // The page may be closed meanwhile: what was said outlives it.
        await page.ReloadAsync();
        await Expect(page.GetByText("No network. 3 steps")).ToBeVisibleAsync();

        // A colleague at a desk with a network does one of the same steps, and one more.
        yard.Line("step", "set", "spring-0002", "ready", "programs-closed");
        wire.Mend();
        var conflict = page.GetByRole(AriaRole.Group, new() { NameRegex = new("^Not sent: Person says") });
        await Expect(conflict).ToContainTextAsync("A colleague dealt with this step meanwhile.");
        await Expect(conflict).ToContainTextAsync("Theirs: kit");
        await Expect(page.GetByText("wait to be sent")).ToHaveCountAsync(0);
        await conflict.GetByRole(AriaRole.Button, new() { Name = "Put mine over it" }).ClickAsync();
        await Expect(conflict).ToHaveCountAsync(0);
        // Decided is not yet sent.
        await Expect(page.GetByText("not sent yet")).ToHaveCountAsync(0);
        var shown = yard.Line("swap", "show", "spring-0002");
        Regex.Count(shown, @"Noor Haddad \d\d:\d\d").ShouldBe(3, shown);
        shown.ShouldContain("kit", Case.Sensitive);
        // Nothing twice, nothing lost, and each with the time when it was done.
        var history = yard.Line("ledger", "show");
        Regex.Count(history, "Noor Haddad: Person has been told when and what").ShouldBe(1, history);
        yard.Line("ledger", "check");

        // Who signs out without a network leaves nothing to whoever comes next; the service hears of it when there is one.
        wire.Cut();
        await page.GetByRole(AriaRole.Button, new() { Name = "More", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Sign out" }).ClickAsync();
        await Expect(page.Locator("input[type=password]")).ToBeVisibleAsync();
        await page.GotoAsync("/swaps/spring-0002");
        await Expect(page.Locator("input[type=password]")).ToBeVisibleAsync();
        (await page.EvaluateAsync<bool>("() => caches.has('yard-answers')")).ShouldBeFalse();
        SignedInAt("noor").ShouldBe(1);
        wire.Mend();
        await page.ReloadAsync();
        for (var tries = 0; SignedInAt("noor") > 0; tries++)
        {
            tries.ShouldBeLessThan(100, "the service does not hear of it");
            await page.WaitForTimeoutAsync(200);
        }
    }

    private int SignedInAt(string name) => JsonNode.Parse(yard.Line("account", "list", "--json"))!.AsArray()
        .Single(a => (string?)a!["name"] == name)!["sessions"]!.GetValue<int>();
}
