using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>A coordinator's week by command line alone: each answer says what happened and what to do next, as table and as JSON.</summary>
public sealed class CommandLineTests : IAsyncLifetime
{
    private readonly Yard _yard = new();

    public async ValueTask InitializeAsync()
    {
        await _yard.StartServiceAsync();
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
    }

    private JsonNode Json(params string[] args) => JsonNode.Parse(_yard.Line([.. args, "--json"]))!;

    private string Roster(string text, string name = "roster.csv")
    {
        File.WriteAllText(_yard.Folder[name], text);
        return _yard.Folder[name];
    }

    private const string People =
        "person,name,site,room,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,Hall,renew,KB-1,KB-11\nk2,Sol Okafor,North Quay,Desk "
            + "4,renew,KB-2,KB-12\nk3,\"Petrov, Ana\",Lantern Point,Desk 7,second,KB-3,KB-13\nk4,Per Lunde,Lantern "
            + "Point,Crew,issue,,KB-14\n";

    [Fact]
    public void A_roster_is_looked_at_corrected_taken_and_taken_again()
    {
        var file = Roster(People.Replace("renew,KB-2", "refit,KB-1", StringComparison.Ordinal)
            .Replace(",North Quay,Hall", ",,Hall", StringComparison.Ordinal));
        var refused = _yard.TryLine("roster", "take", file);
        refused.Exit.ShouldBe(1);
        foreach (var said in new[] { "line 2", "'site'", "line 3", "'kind'", "refit", "second, reimage" })
            refused.Err.ShouldContain(said, Case.Insensitive);
        Json("swap", "list").AsArray().ShouldBeEmpty();
        var dry = _yard.Line("roster", "take", Roster(People), "--dry-run");
        foreach (var said in new[] { "Ida Moreau", "Petrov, Ana", "--dry-run" }) dry.ShouldContain(said);
        Json("swap", "list").AsArray().ShouldBeEmpty();
        ((int?)Json("roster", "take", Roster(People))["added"]).ShouldBe(4);
        var again = Json("roster", "take", Roster("\uFEFF" + People.Replace("\n", "\r\n", StringComparison.Ordinal)));
        ((int?)again["added"], (int?)again["changed"], (int?)again["same"]).ShouldBe((0, 0, 4));
        var moved = _yard.Line("roster", "take", Roster(People.Replace("Desk 4", "Desk 9", StringComparison.Ordinal)));
        moved.ShouldContain("Desk 9");
        _yard.TryLine("roster", "take", _yard.Folder["nothing.csv"]).Err.ShouldContain("nothing.csv");
        _yard.TryLine("roster", "take", Roster("person;name\n", "short.csv")).Exit.ShouldBe(1);
    }

    [Fact]
    public void A_plan_is_looked_at_changed_by_hand_asked_about_published_and_handed_out()
    {
        _yard.Line("roster", "take", Roster(People));
        foreach (var (key, name, site) in new[] { ("noor", "Noor Haddad", "North Quay"), ("theo", "Theo Brandt", "Lantern Point") })
            _yard.Line("technician", "set", key, "--name", name, "--site", site, "--shift", "08:00-12:00", "12:45-16:30");
        _yard.Line("plan", "make", "--steps", "200").ShouldContain("'yardline plan publish' books it");
        _yard.Line("plan", "compare").ShouldContain("Ida Moreau comes in: Mon 7 Dec");
        _yard.TryLine("plan", "move", "spring-0001", "2026-12-08 12:00", "--try").Out
            .ShouldContain("Noor Haddad has no shift from Tue 8 Dec 12:00");
        var broken = _yard.TryLine("plan", "move", "spring-0001", "2026-12-08 12:00");
        (broken.Exit, broken.Err.Contains("It cannot go there")).ShouldBe((1, true), broken.All);
        _yard.Line("plan", "move", "spring-0001", "2026-12-08 09:15").ShouldContain("Ida Moreau: Tue 8 Dec 09:15");
        _yard.Line("plan", "take-out", "spring-0002");
        _yard.Line("plan", "why", "spring-0002").ShouldContain("No rule stands in its way: Noor Haddad can do it on Mon 7 Dec");
        _yard.Line("plan", "undo");
        _yard.Line("plan", "why", "spring-0002").ShouldContain("has an appointment");
        _yard.Line("plan", "publish").ShouldContain("Plan 1 is published: 4 appointments, 0 left out.");
        _yard.TryLine("plan", "publish").Err.ShouldContain("There is no draft to publish");

        // The morning on which Noor is ill.
        ((int?)Json("plan", "what-if", "away noor 2026-12-07..2026-12-11", "--seconds", "0.2")["after"]!["leftOut"]).ShouldBe(2);
        _yard.Line("technician", "away", "noor", "2026-12-08");
        _yard.Line("plan", "make", "--steps", "500");
        Json("plan", "compare")["changes"]!.AsArray().Select(c => (string?)c!["swap"]).ShouldBe(["spring-0001"]);
        _yard.Line("plan", "publish");
        _yard.Line("plan", "history").ShouldContain("past");
        _yard.Line("plan", "outlook", "--runs", "200").ShouldContain("of 200 runs all is done by the last day");
        foreach (var form in new[] { "ics", "csv", "xlsx" })
            _yard.Line("plan", "export", _yard.Folder[$"plan.{form}"], "--technician", "theo");
        File.ReadAllText(_yard.Folder["plan.ics"]).ShouldContain("TZID:Europe/London");
        File.ReadAllLines(_yard.Folder["plan.csv"]).Length.ShouldBe(3);
        _yard.Line("plan", "subscribe", "--technician", "theo").ShouldContain("/api/feeds/");
        _yard.Line("estimate", "show", "spring-0001").ShouldContain("from a typical size, as it is not surveyed yet");
        _yard.Line("estimate", "set", "kind", "renew", "--unattended", "90");
        _yard.Line("estimate", "show", "spring-0001").ShouldContain("90 unattended");
        _yard.Line("swap", "edit", "find:Hall", "--weight", "8").ShouldContain("1 swap changed");
        _yard.Line("wave", "set", "first", "--name", "First", "--from", "2026-12-07", "--until", "2026-12-08");
        _yard.Line("swap", "edit", "all", "--wave", "first").ShouldContain("4 swaps changed");
        Flat(_yard.Line("wave", "list")).ShouldContain("First 2026-12-07 2026-12-08 4");
    }

    [Fact]
    public void A_spreadsheet_with_columns_of_its_own_is_matched_taken_and_undone()
    {
        var own = Roster("Staff no;Full name;Location;Shelf\nk1;Ida Moreau;North Quay;KB-1\n", "own.csv");
        _yard.TryLine("roster", "take", own).Err.ShouldContain("needs an old computer");
        _yard.Line("roster", "match", "Shelf=new_tag");
        var dry = _yard.TryLine("roster", "take", own, "--dry-run");
        foreach (var said in new[] { "'Staff no' is read as person, by guess", "old_tag", "1 faults" }) dry.Out.ShouldContain(said);
        _yard.Line("roster", "match", "Shelf=old_tag");
        var good = Roster("Staff no;Full name;Location;Shelf;Kind;New tag\nk1;Ida Moreau;North Quay;KB-1;renew;KB-2\n", "good.csv");
        _yard.Line("roster", "take", good).ShouldContain("Taking 1.");
        _yard.Line("roster", "takings").ShouldContain("can be undone");
        _yard.Line("roster", "undo", "1").ShouldContain("1 swaps taken out");
        Json("swap", "list").AsArray().ShouldBeEmpty();
        _yard.Line("roster", "template", _yard.Folder["blank.xlsx"]);
        _yard.TryLine("roster", "take", _yard.Folder["blank.xlsx"]).Exit.ShouldBe(0);
    }

    [Fact]
    public void A_plan_is_made_shown_and_says_why_somebody_is_left_out()
    {
        _yard.Line("roster", "take", Roster(People));
        _yard.TryLine("plan", "make", "--steps", "50").All.ShouldContain("technician");
        _yard.Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "daily 08:00-18:00");
        var plan = Json("plan", "make", "--steps", "200", "--seed", "3");
        (plan["appointments"]!.AsArray().Count, plan["leftOut"]!.AsArray().Count).ShouldBe((2, 2));
        plan["leftOut"]!.AsArray().ShouldAllBe(l => ((string)l!["because"]!).Contains("nobody serves Lantern Point"));
        var shown = _yard.Line("plan", "show");
        foreach (var said in new[] { "Ida Moreau", "Noor Haddad", "08:00", "Let one technician serve Lantern Point" })
            Flat(shown).ShouldContain(said);
        _yard.Line("site", "set", "North Quay", "--name", "North Quay", "--benches", "0");
        _yard.TryLine("plan", "make", "--steps", "50").Err
            .ShouldContain("North Quay has swaps but no bench. Give it at least one with 'yardline site set'.");
        foreach (var wrong in new string[][]
        {
            ["plan", "make", "--steps", "-4"],
            ["technician", "set", "x", "--name", "X", "--shift", "whenever"],
            ["site", "set", "S", "--name", "S", "--benches", "many"],
            ["refresh", "make", "UPPER", "--name", "x", "--starts", "2026-12-01", "--zone", "UTC"],
            ["refresh", "make", "ok", "--name", "x", "--starts", "2026-12-01", "--zone", "Mars/North"]
        })
            _yard.TryLine(wrong).Exit.ShouldBeOneOf(1, 2);
    }

    [Fact]
    public void A_plan_in_steps_is_the_same_on_one_core_and_on_many()
    {
        var instance = Path.Combine(Run.Root, "bench/plan-instances/mid-1.json");
        string[] Solve(string to) =>
            [Run.Bin("yardline"), "plan", "solve", instance, "--out", _yard.Folder[to], "--steps", "4000", "--seed", "11"];
        Run.Must("taskset", ["-c", "0", .. Solve("one.json")]);
        Run.Must("env", Solve("many.json"));
        File.ReadAllText(_yard.Folder["one.json"]).ShouldBe(File.ReadAllText(_yard.Folder["many.json"]));
    }

    // A table breaks its cells to fit; read again as running text.
    private static string Flat(string table) => string.Join(' ', table.Split([' ', '\n', '│', '|'], StringSplitOptions.RemoveEmptyEntries));

    [Fact]
    public void A_checklist_is_worked_and_refuses_what_is_not_true()
    {
        _yard.Line("roster", "take", Roster(People));
        _yard.TryLine("swap", "sign-off", "spring-0001", "--as", "technician").Err.ShouldContain("not staged");
        _yard.Line("step", "set", "spring-0001", "told", "ready").ShouldContain("2 of 29 steps are dealt with");
        var wrong = _yard.TryLine("step", "set", "spring-0001", "old-tag", "--tag", "KB-2");
        (wrong.Exit, wrong.Err.Contains("Wrong computer: KB-2")).ShouldBe((1, true));
        _yard.TryLine("step", "set", "spring-0001", "staged").Err.ShouldContain("checked by the system");
        _yard.TryLine("step", "set", "spring-0001", "no-such-step").Exit.ShouldBe(1);
        _yard.Line("step", "set", "spring-0001", "old-tag", "--tag", "kb-1");
        var checklist = Json("swap", "show", "spring-0001")["checklist"]!;
        checklist["steps"]!.AsArray().Count(s => (string?)s!["state"] == "done").ShouldBe(3);
        var template = Roster("""
            name: Short
            kinds: [renew]
            steps:
              - key: told
                phase: before
                title: Told
              - key: told
                phase: nowhere
                title: Twice
            """, "bad.yaml");
        var bad = _yard.TryLine("checklist", "add", template);
        bad.Exit.ShouldBe(1);
        foreach (var said in new[] { "told", "nowhere" }) bad.Err.ShouldContain(said);
        // Printed, changed, looked at, kept: the swap is asked before it moves.
        var text = _yard.Line("checklist", "print", "change of computer");
        var changed = Roster(
            text.Replace("options: [prints, none needed]", "options: [prints, none needed, comes later]", StringComparison.Ordinal),
            "changed.yaml");
        _yard.Line("step", "set", "spring-0001", "printer", "--answer", "prints");
        Flat(_yard.Line("checklist", "look", changed, "--kind", "renew")).ShouldContain("screens: 2 or 3");
        _yard.Line("checklist", "add", changed).ShouldContain("version 2");
        foreach (var said in new[] { "not moved yet", "asks anew, was dealt with" })
            Flat(_yard.Line("swap", "checklist", "spring-0001")).ShouldContain(said);
        _yard.Line("swap", "checklist", "spring-0001", "--move").ShouldContain("version 2: moved");
        Flat(_yard.Line("swap", "show", "spring-0001")).ShouldContain("○ Printer");
    }

    [Fact]
    public void Accounts_have_the_rights_of_their_role_and_no_others()
    {
        _yard.Line("roster", "take", Roster(People));
        _yard.Line("account", "set", "wren", "--name", "Wren Ashby", "--role", "auditor");
        var wren = new Dictionary<string, string> { ["YARDLINE_CONFIG"] = _yard.Folder["wren.json"], ["YARD_PASSWORD"] = "kestrel-bay" };
        Ran As(params string[] args) => Run.With(wren, Run.Bin("yardline"), args);
        As("today").Err.ShouldContain("yardline sign-in");
        As("sign-in", _yard.Address, "--name", "wren").Exit.ShouldBe(0);
        As("swap", "list").Out.ShouldContain("Ida Moreau");
        As("ledger", "check").Exit.ShouldBe(0);
        foreach (var args in new string[][]
        {
            ["roster", "take", Roster(People)],
            ["plan", "make"],
            ["step", "set", "spring-0001", "told"],
            ["hand", "code", "KB-1"],
            ["swap", "order", "survey"]
        })
        {
            var refused = As(args);
            (
                refused.Exit,
                refused.Err.Contains("may not", StringComparison.Ordinal)
                    || refused.Err.Contains(
                        "coordinator", StringComparison.Ordinal)).ShouldBe((1, true), $"{string.Join(' ', args)}: {refused.All}");
        }
        File.GetUnixFileMode(_yard.Folder["wren.json"]).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite, "a token is its owner's");
        _yard.TryLine("account", "set", "x", "--name", "X", "--role", "captain").Exit.ShouldBe(1);
    }

    [Fact]
    public void The_history_is_shown_checked_and_its_head_is_kept_outside()
    {
        _yard.Line("roster", "take", Roster(People));
        var whole = _yard.Line("ledger", "check");
        var head = whole.Split('\n', StringSplitOptions.RemoveEmptyEntries)[^1].Trim();
        head.ShouldMatch("^[0-9]+:[0-9a-f]{64}$");
        _yard.Line("site", "set", "North Quay", "--name", "North Quay", "--benches", "3");
        _yard.Line("ledger", "check", "--head", head).ShouldContain("The ledger is whole");
        _yard.TryLine("ledger", "check", "--head", head.Replace(':', '0') + ":" + new string('0', 64)).Exit.ShouldBe(1);
        _yard.Line("ledger", "show").ShouldContain("North Quay has 3 benches");
        Json("ledger", "show").AsArray().Count.ShouldBe(int.Parse(head.Split(':')[0]) + 1);
    }

    public ValueTask DisposeAsync()
    {
        _yard.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public void Two_spreadsheets_become_a_published_plan_for_three_hundred_and_a_sick_morning_breaks_few_promises()
    {
        using var folder = new TempFolder();
        string[] sites = ["North Quay", "Lantern Point", "Gull Rock", "Heron Slip", "Workshop"];
        File.WriteAllText(
            folder["people.csv"],
            "Staff no;Name;Location;Asset tag;New asset tag\n"
                + string.Concat(Enumerable.Range(0, 300).Select(i => $"s{i:000};Person {i:000};{sites[i % 5]};OLD-{i:000};NEW-{i:000}\n")));
        File.WriteAllText(
            folder["technicians.csv"],
            "Name;Sites\nNoor Haddad;North Quay\nTheo Brandt;Lantern Point\nVera Lindqvist;Gull Rock\nOle Sand;Heron Slip\nMia Falk;\n");
        var first = DateOnly.FromDateTime(DateTime.UtcNow.AddDays(7));
        while (first.DayOfWeek != DayOfWeek.Monday) first = first.AddDays(1);
        string Line(params string[] words) => _yard.Line([.. words, "--refresh", "two-sheets"]);
        _yard.Line("refresh", "make", "two-sheets", "--name", "Two sheets", "--starts", $"{first:yyyy-MM-dd}", "--days", "26");
        Line("roster", "take", folder["people.csv"]).ShouldContain("300 rows: 300 added");
        Line("technician", "take", folder["technicians.csv"]).ShouldContain("5 added");
        Line("plan", "make", "--steps", "20000").ShouldContain("300 appointments, 0 left out");
        Line("plan", "publish").ShouldContain("300 appointments");
        var plan = JsonNode.Parse(Line("plan", "show", "--json"))!;
        var theirs = plan["appointments"]!.AsArray()
            .Where(a => (string?)a!["technician"] == "noor-haddad")
            .GroupBy(a => ((string)a!["start"]!)[..10])
            .MaxBy(g => g.Count())!;
        Line("technician", "away", "noor-haddad", theirs.Key);
        Line("plan", "make", "--steps", "20000").ShouldContain("300 appointments, 0 left out");
        var compared = JsonNode.Parse(Line("plan", "compare", "--json"))!;
        compared["changes"]!.AsArray().Count.ShouldBeInRange(
            theirs.Count(), 30, "those of the one who is ill, and few beside them: nine tenths of all promises stand");
        Line("plan", "publish").ShouldContain("300 appointments");
    }
}
