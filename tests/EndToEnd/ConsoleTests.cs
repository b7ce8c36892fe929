using Microsoft.Playwright;
using YardRelay.Peers;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>The console in headless Chromium against the running service, and the command line beside it.</summary>
public sealed class ConsoleTests(RunningYard yard, Chromium chromium) : IClassFixture<RunningYard>, IAsyncDisposable
{
    private static readonly string Axe = File.ReadAllText(Path.Combine(Run.Root, "console/node_modules/axe-core/axe.min.js"));
    private static readonly string[] Pages =
    [
        "/", "/swaps", "/swaps/spring-0001", "/swaps/spring-0003", "/swaps/spring-0004", "/round", "/yard", "/follow-ups", "/told",
        "/told/texts", "/old-computers", "/plan", "/plan/outlook", "/plan/history", "/plan/sheets", "/roster", "/capacity",
        "/checklists", "/snags", "/swaps/spring-0001/report", "/ready", "/refresh", "/refresh/new", "/history", "/hands", "/accounts",
        "/no/such/page"
    ];
    private readonly Contexts _contexts = new(chromium);

    private async Task<IPage> SignInAsync(string name, ColorScheme scheme = ColorScheme.Light, int width = 1280)
    {
        var context = await _contexts.OpenAsync(new()
        {
            BaseURL = yard.Address,
            ColorScheme = scheme,
            ViewportSize = new() { Width = width, Height = 800 },
            ReducedMotion = ReducedMotion.Reduce
        });
        context.SetDefaultTimeout(Browsers.Patience);
        var page = await context.NewPageAsync();
        await page.GotoAsync("/");
        await page.GetByLabel("Name").FillAsync(name);
        await page.Locator("input[type=password]").FillAsync("kestrel-bay-ferries");
        await page.Keyboard.PressAsync("Enter");
        await page.GetByRole(AriaRole.Navigation).WaitForAsync();
        return page;
    }

    /// <summary>Asks for all rules, or for those that are named.</summary>
    internal static async Task NoAxeViolationsAsync(IPage page, string where, params string[] rules)
    {
        if (!await page.EvaluateAsync<bool>("() => 'axe' in window"))
            // As a function without an answer: the library itself would come back through the wire, all of it.
            await page.EvaluateAsync($"() => {{ {Axe}\n}}");
        var found = await page.EvaluateAsync<string[]>(
            "async rules => (await axe.run(rules.length ? { runOnly: rules } : {})).violations.map(v => v.id + ': ' + v.nodes.map("
                + "n => n.html.slice(0, 160) + ' ' + (n.failureSummary ?? '')).join(' | '))",
            rules);
        found.ShouldBeEmpty(where);
    }

    [Fact]
    public async Task A_wrong_password_is_said_and_what_was_typed_stays()
    {
        var page = await (await _contexts.OpenAsync(new() { BaseURL = yard.Address })).NewPageAsync();
        await page.GotoAsync("/swaps");
        await page.GetByLabel("Name").FillAsync("kit");
        await page.Locator("input[type=password]").FillAsync("wrong");
        await page.Keyboard.PressAsync("Enter");
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("Name or password is wrong.");
        await Expect(page.GetByLabel("Name")).ToHaveValueAsync("kit");
        await NoAxeViolationsAsync(page, "sign in");
    }

    [Fact]
    public async Task A_page_that_is_opened_by_its_address_is_drawn_when_it_has_come_and_not_when_a_time_is_over()
    {
        var page = await SignInAsync("kit");
        // No time of a second or more is ever over here.
        await page.AddInitScriptAsync(
            "{ const set = window.setTimeout; window.setTimeout = (f, ms, ...more) => ms >= 1000 ? 0 : set(f, ms, ...more) }");
        foreach (var path in Pages)
        {
            await page.GotoAsync(path);
            await Expect(page.GetByRole(AriaRole.Navigation)).ToBeVisibleAsync();
        }
    }

    [Fact]
    public async Task No_page_has_an_axe_violation_in_light_in_dark_and_at_phone_width_and_none_scrolls_sideways()
    {
        var page = await SignInAsync("kit");
        foreach (var path in Pages)
        {
            await page.GotoAsync(path);
            foreach (var width in new[] { 1280, 390 })
            {
                await page.SetViewportSizeAsync(width, 800);
                await page.GetByRole(AriaRole.Navigation).WaitForAsync();
                await page.Locator("h1").First.WaitForAsync();
                await Expect(page.Locator(".coming")).ToHaveCountAsync(0);
                // All else is the same in the dark, which is colours only.
                await NoAxeViolationsAsync(page, $"{path} {width}");
                await page.EmulateMediaAsync(new() { ColorScheme = ColorScheme.Dark });
                await NoAxeViolationsAsync(page, $"{path} {width} in the dark", "color-contrast");
                await page.EmulateMediaAsync(new() { ColorScheme = ColorScheme.Light });
                (await page.EvaluateAsync<int>("() => document.documentElement.scrollWidth - document.documentElement.clientWidth"))
                    .ShouldBeLessThanOrEqualTo(0, $"{path} at {width}");
            }
        }
    }

    [Fact]
    public async Task Today_says_what_needs_somebody_and_leads_there()
    {
        var page = await SignInAsync("kit");
        await Expect(page.GetByText("as things stand")).ToBeVisibleAsync();
        var needs = page.GetByRole(AriaRole.Region, new() { Name = "Needs you now" });
        await Expect(needs.GetByText("print-queue").First).ToBeVisibleAsync();
        await page.GetByRole(AriaRole.Region, new() { Name = "Visits of the day" })
            .GetByRole(AriaRole.Link, new() { Name = "Ida Moreau" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "Ida Moreau" })).ToBeVisibleAsync();
        await Expect(page.GetByText("Noor Haddad,").First).ToBeVisibleAsync();
    }

    [Fact]
    public async Task Swaps_are_found_by_keys_alone()
    {
        var page = await SignInAsync("wren");
        await Expect(page.GetByText("as things stand")).ToBeVisibleAsync();
        await page.Keyboard.PressAsync("/");
        await page.Keyboard.TypeAsync("petrov");
        await page.Keyboard.PressAsync("Enter");
        await Expect(page.GetByRole(AriaRole.Row)).ToHaveCountAsync(2);
        await page.GetByRole(AriaRole.Searchbox).FillAsync("");
        await Expect(page.GetByRole(AriaRole.Row)).ToHaveCountAsync(5);
        await page.GetByRole(AriaRole.Grid).FocusAsync();
        foreach (var key in new[] { "ArrowDown", "ArrowDown", "Enter" }) await page.Keyboard.PressAsync(key);
        await Expect(page.GetByRole(AriaRole.Heading, new() { Name = "Per Lunde" })).ToBeVisibleAsync();
        await Expect(page.GetByRole(AriaRole.Button, new() { Name = "Order…" })).ToHaveCountAsync(0);
    }

    [Fact]
    public async Task A_snag_is_waived_with_a_reason_and_the_swap_staged_without_a_reload()
    {
        var page = await SignInAsync("kit");
        await page.GotoAsync("/swaps/spring-0002");
        // From the step that waits for it, without leaving the checklist.
        await page.GetByRole(AriaRole.Region, new() { Name = "Checklist" })
            .GetByRole(AriaRole.Button, new() { Name = "Waive…" }).ClickAsync();
        var waive = page.GetByRole(AriaRole.Button, new() { Name = "Waive", Exact = true });
        await Expect(waive).ToBeDisabledAsync();
        await page.GetByLabel("Why is it not needed?").FillAsync("A print queue has <b>no</b> content");
        await waive.ClickAsync();
        await Expect(page.GetByText("A print queue has <b>no</b> content").First).ToBeVisibleAsync();
        await Expect(page.GetByText("explained")).ToBeVisibleAsync();
        await Expect(page.GetByRole(AriaRole.Button, new() { Name = "Restore to the new computer" }).First).ToBeVisibleAsync();
    }

    [Fact]
    public async Task Two_people_work_one_checklist_by_keys_see_each_other_at_once_and_sign_off()
    {
        var (kit, noor) = (await SignInAsync("kit"), await SignInAsync("noor", width: 390));
        foreach (var page in new[] { kit, noor }) await page.GotoAsync("/swaps/spring-0001");
        var told = kit.GetByRole(AriaRole.Button, new() { Name = "Person has been told" }).First;
        await told.FocusAsync();
        await kit.Keyboard.PressAsync("Enter");
        await Expect(noor.GetByRole(AriaRole.Button, new() { NameRegex = new("done: Person has been told") })).ToBeVisibleAsync();
        ILocator Step(IPage page, string begins) => page.GetByRole(AriaRole.Button, new() { NameRegex = new(begins) });
        foreach (var step in new[] { "Person says that everything", "Programs are closed", "New computer stands" })
        {
            await Step(noor, $"open: {step}").ClickAsync();
            await Expect(Step(noor, $"done: {step}")).ToBeVisibleAsync();
        }
        // What takes its time is started and ended, by two people; what is run again counts its runs; an answer brings the step that it
        // asks for.
        await Step(noor, "open: New computer restarts clean").ClickAsync();
        await Step(kit, "under way: New computer restarts clean").ClickAsync();
        await Expect(Step(noor, "done: New computer restarts clean")).ToBeVisibleAsync();
        await Step(noor, "open: Temporary files").ClickAsync();
        await noor.GetByRole(AriaRole.Button, new() { Name = "Ran it, not there yet" }).ClickAsync();
        await Expect(Step(kit, "under way: Temporary files are cleared.*1 run, not yet")).ToBeVisibleAsync();
        await Step(kit, "open: Screens at the desk").ClickAsync();
        await kit.GetByLabel("How many screens").FillAsync("7");
        await kit.Keyboard.PressAsync("Enter");
        await Expect(kit.GetByRole(AriaRole.Dialog).GetByText("outside 0 to 6 screens")).ToBeVisibleAsync();
        await kit.GetByLabel("How many screens").FillAsync("2");
        await kit.Keyboard.PressAsync("Enter");
        await Expect(Step(noor, "open: Screens are in order")).ToBeVisibleAsync();
        await Step(noor, "open: Printer").ClickAsync();
        await noor.GetByRole(AriaRole.Button, new() { Name = "none needed" }).ClickAsync();
        await Expect(Step(kit, "done: Printer")).ToContainTextAsync("none needed");
        await NoAxeViolationsAsync(kit, "a checklist under way");
        yard.WorkSteps("spring-0001");
        await noor.GetByRole(AriaRole.Button, new() { NameRegex = new("open: Right old computer") }).ClickAsync();
        await noor.GetByLabel("Tag on the computer").FillAsync("KB-9");
        await noor.Keyboard.PressAsync("Enter");
        await Expect(noor.GetByRole(AriaRole.Dialog).GetByText("Wrong computer: KB-9")).ToBeVisibleAsync();
        await Expect(noor.GetByLabel("Tag on the computer")).ToHaveValueAsync("KB-9");
        await noor.GetByLabel("Tag on the computer").FillAsync("KB-1");
        await noor.Keyboard.PressAsync("Enter");
        await Expect(noor.GetByRole(AriaRole.Dialog)).ToHaveCountAsync(0);
        await kit.GetByRole(AriaRole.Button, new() { NameRegex = new("open: Right new computer") }).FocusAsync();
        await kit.Keyboard.PressAsync("n");
        await kit.GetByLabel("Why does it not apply?").FillAsync("label is inside the case");
        await kit.Keyboard.PressAsync("Tab");
        await kit.GetByRole(AriaRole.Button, new() { Name = "Does not apply", Exact = true }).ClickAsync();
        await noor.GetByRole(AriaRole.Button, new() { Name = "Sign off as technician" }).ClickAsync();
        await Expect(kit.GetByText("Technician signed off:")).ToBeVisibleAsync();
        await noor.GetByRole(AriaRole.Button, new() { Name = "Open again…" }).ClickAsync();
        await noor.GetByLabel("Why is it opened again?").FillAsync("the printer is another one");
        await noor.GetByRole(AriaRole.Button, new() { Name = "Open again", Exact = true }).ClickAsync();
        await Expect(kit.GetByText("Technician signed off:")).ToHaveCountAsync(0);
        await noor.GetByRole(AriaRole.Button, new() { Name = "Sign off as technician" }).ClickAsync();
        await Expect(kit.GetByRole(AriaRole.Link, new() { Name = "What was signed" })).ToBeVisibleAsync();
        yard.TryLine("swap", "sign-off", "spring-0001", "--as", "coordinator").Err.ShouldContain("2 steps are open");
        yard.Line("step", "set", "spring-0001", "signed-out", "handed-in");
        await kit.GetByRole(AriaRole.Button, new() { Name = "Sign off as coordinator" }).ClickAsync();
        await Expect(noor.GetByText("Coordinator signed off:")).ToBeVisibleAsync();
        yard.Line("ledger", "check").ShouldContain("The ledger is whole");
    }

    [Fact]
    public async Task A_coordinator_repairs_the_plan_by_keys_takes_a_move_back_and_publishes()
    {
        var page = await SignInAsync("kit");
        await page.GetByRole(AriaRole.Link, new() { Name = "Plan", Exact = true }).ClickAsync();
        await Expect(page.GetByText("published by Kit", new() { Exact = false })).ToBeVisibleAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Plan again" }).ClickAsync();
        await Expect(page.GetByText("not booked yet", new() { Exact = false })).ToBeVisibleAsync(new() { Timeout = Browsers.Patience });
        var days = page.GetByRole(AriaRole.Listbox, new() { Name = "Days of the refresh" }).GetByRole(AriaRole.Option);
        await days.Nth(2).ClickAsync();
        await Expect(page.GetByText("no visits")).ToBeVisibleAsync();
        // Found at once, and gone to.
        await page.Keyboard.PressAsync("/");
        await page.Keyboard.TypeAsync("Per Lun");
        await page.Keyboard.PressAsync("Enter");
        var card = page.GetByRole(AriaRole.Region, new() { Name = "Visit of Per Lunde" });
        await Expect(card).ToContainTextAsync("How long it takes");
        var visit = page.Locator("[data-visit='spring-0004']");
        var before = await visit.GetAttributeAsync("aria-label");
        await visit.FocusAsync();
        await page.Keyboard.PressAsync("m");
        for (var step = 0; step < 28; step++) await page.Keyboard.PressAsync("ArrowRight");
        await Expect(page.Locator(".trial")).ToContainTextAsync("fits");
        await page.Keyboard.PressAsync("Enter");
        await Expect(visit).Not.ToHaveAttributeAsync("aria-label", before!);
        await page.Keyboard.PressAsync("u");
        await Expect(visit).ToHaveAttributeAsync("aria-label", before!);
        // What breaks a rule is said while it is held, and not done.
        await visit.FocusAsync();
        await page.Keyboard.PressAsync("m");
        for (var step = 0; step < 60; step++) await page.Keyboard.PressAsync("ArrowRight");
        await Expect(page.Locator(".trial")).ToContainTextAsync("no shift");
        await page.Keyboard.PressAsync("Escape");
        await Expect(visit).ToHaveAttributeAsync("aria-label", before!);
        await card.GetByRole(AriaRole.Button, new() { Name = "Take out" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Region, new() { Name = "Left out" })).ToContainTextAsync("Per Lunde");
        await page.GetByRole(AriaRole.Button, new() { Name = "Undo" }).ClickAsync();
        await Expect(visit).ToBeVisibleAsync();
        await page.Keyboard.PressAsync("p");
        await page.GetByRole(AriaRole.Dialog).GetByRole(AriaRole.Button, new() { Name = "Publish" }).ClickAsync();
        await Expect(page.GetByText("published by Kit", new() { Exact = false })).ToBeVisibleAsync();
    }

    [Fact]
    public async Task A_visit_is_dragged_to_another_hour_and_stays_there()
    {
        yard.Line("plan", "make", "--steps", "50");
        var page = await SignInAsync("kit");
        await page.GotoAsync("/plan");
        var visit = page.Locator(".plan-board .block").Last;
        var id = await visit.GetAttributeAsync("data-visit");
        var box = (await visit.BoundingBoxAsync())!;
        await page.Mouse.MoveAsync(box.X + 12, box.Y + 10);
        await page.Mouse.DownAsync();
        await page.Mouse.MoveAsync(box.X + 60, box.Y + 12, new() { Steps = 4 });
        await page.Mouse.MoveAsync(box.X + 320, box.Y + 10, new() { Steps = 12 });
        await Expect(page.Locator(".trial")).ToContainTextAsync("fits");
        await page.Mouse.UpAsync();
        var moved = page.Locator($"[data-visit='{id}']");
        await Expect(moved).Not.ToHaveClassAsync(new System.Text.RegularExpressions.Regex("lifted"));
        await page.WaitForFunctionAsync(
            $"() => document.querySelector(\"[data-visit='{id}']\").getBoundingClientRect().x > "
                + $"{(box.X + 200).ToString(System.Globalization.CultureInfo.InvariantCulture)}");
        yard.Line("plan", "drop", "--yes");
    }

    [Fact]
    public async Task A_roster_is_looked_at_its_columns_matched_taken_and_undone_in_the_console_and_a_technician_added()
    {
        await File.WriteAllTextAsync(
            yard.Folder["own.csv"], "Staff no;Full name;Location;Kind;Shelf;New tag\nk90;Rosa Winter;North Quay;renew;KB-90;KB-91\n");
        var page = await SignInAsync("kit");
        await page.GetByRole(AriaRole.Link, new() { Name = "Roster" }).ClickAsync();
        await page.Locator("input[type=file]").SetInputFilesAsync(yard.Folder["own.csv"]);
        await Expect(page.GetByText("needs an old computer", new() { Exact = false })).ToBeVisibleAsync();
        await Expect(page.GetByRole(AriaRole.Button, new() { Name = "Nothing to take" })).ToBeDisabledAsync();
        await page.GetByLabel("Read 'Shelf' as").SelectOptionAsync("old_tag");
        await Expect(page.GetByText("Rosa Winter", new() { Exact = false }).First).ToBeVisibleAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Take it" }).ClickAsync();
        await Expect(page.GetByText("1 added, 0 changed, 0 the same", new() { Exact = false })).ToBeVisibleAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Undo taking" }).ClickAsync();
        await Expect(page.GetByText("it was undone already", new() { Exact = false })).ToBeVisibleAsync();

        await page.GetByRole(AriaRole.Link, new() { Name = "Capacity" }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Add a technician" }).ClickAsync();
        var form = page.GetByRole(AriaRole.Dialog);
        await form.GetByLabel("Name").FillAsync("Theo Brandt");
        await form.GetByRole(AriaRole.Combobox, new() { Name = "Sites" }).ClickAsync();
        await page.GetByRole(AriaRole.Option, new() { Name = "North Quay" }).ClickAsync();
        await form.GetByRole(AriaRole.Button, new() { Name = "As text" }).First.ClickAsync();
        await form.GetByRole(AriaRole.Textbox, new() { Name = "Shifts" }).FillAsync("08:00-12:00\n11:00-13:00");
        await form.GetByRole(AriaRole.Button, new() { Name = "Save" }).ClickAsync();
        await Expect(form.GetByRole(AriaRole.Alert)).ToContainTextAsync("overlap");
        await Expect(form.GetByLabel("Name")).ToHaveValueAsync("Theo Brandt");
        await form.GetByRole(AriaRole.Button, new() { Name = "Close" }).Or(form.Locator(".mantine-Modal-close")).First.ClickAsync();
    }

    [Fact]
    public void The_command_line_prints_tables_for_people_and_JSON_for_machines_and_says_what_to_do_next()
    {
        yard.Line("today").ShouldContain("as things stand");
        yard.Line("swap", "list", "ida").ShouldContain("●");
        System.Text.Json.Nodes.JsonNode.Parse(yard.Line("swap", "list", "--json"))!.AsArray().Count.ShouldBe(4);
        var wrong = yard.TryLine("swap", "show", "spring-0099");
        (wrong.Exit, wrong.Err.Contains("There is no swap 'spring-0099'")).ShouldBe((1, true));
        yard.TryLine("ledger", "check", "--head", "5:" + new string('a', 64)).Err.ShouldContain("Entry 5");
        yard.TryLine("ledger", "check", "--head", "nonsense").Exit.ShouldBe(1);
        yard.TryLine("nonsense").Exit.ShouldBe(2);
        Run.With(new Dictionary<string, string> { ["YARDLINE_CONFIG"] = yard.Folder["none.json"] }, Run.Bin("yardline"), "today").Err
            .ShouldContain("yardline sign-in");
        Run.With(
            new Dictionary<string, string> { ["YARD_SERVICE"] = "http://127.0.0.1:9", ["YARD_TOKEN"] = "x" },
            Run.Bin("yardline"),
            "refresh",
            "list").Exit
            .ShouldBe(3);
        var plan = Run.To(
            Run.Bin("yardline"),
            "plan",
            "solve",
            Path.Combine(Run.Root, "bench/plan-instances/tiny-1.json"),
            "--out",
            yard.Folder["plan.json"],
            "--steps",
            "50");
        (plan.Exit, File.ReadAllText(yard.Folder["plan.json"]).Contains("\"placed\"")).ShouldBe((0, true), plan.All);
        foreach (var command in new[]
        {
            "today", "swap list", "roster take", "plan make", "plan solve", "step set", "snag waive", "hand code", "ledger check",
            "checklist add", "depot set", "technician set", "site set", "account set", "refresh make", "plan what-if", "plan move",
            "plan publish", "estimate show", "closure calendar", "delivery set", "wave set", "swap edit", "roster match"
        })
            Run.To(Run.Bin("yardline"), [.. command.Split(' '), "--help"]).Out
                .ShouldContain("\nExamples\n  yardline ", Case.Sensitive, command);
    }

    public ValueTask DisposeAsync() => _contexts.DisposeAsync();
}
