using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>A coordinator's week by command line alone: each answer says what happened and what to do next, as table and as JSON.</summary>
public sealed class CommandLineTests(ServedYard yard) : ByCommandLine(yard), IClassFixture<ServedYard>
{
    private string Roster(string text, string name = "roster.csv") => FileOf(name, text);

    private const string People =
        "person,name,site,room,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,Hall,renew,KB-1,KB-11\nk2,Sol Okafor,North Quay,Desk "
            + "4,renew,KB-2,KB-12\nk3,\"Petrov, Ana\",Lantern Point,Desk 7,second,KB-3,KB-13\nk4,Per Lunde,Lantern "
            + "Point,Crew,issue,,KB-14\n";

    [Fact]
    public void What_is_wrong_with_a_roster_is_said_line_by_line_and_nothing_is_taken()
    {
        var said = Refused(
            "roster",
            "take",
            Roster(People.Replace("renew,KB-2", "refit,KB-1", StringComparison.Ordinal)
                .Replace(",North Quay,Hall", ",,Hall", StringComparison.Ordinal)));
        foreach (var what in new[] { "line 2", "'site'", "line 3", "'kind'", "refit", "second, reimage" })
            said.ShouldContain(what, Case.Insensitive);
        Refused("roster", "take", Folder["nothing.csv"]).ShouldContain("nothing.csv");
        Refused("roster", "take", Roster("person;name\n", "short.csv")).ShouldNotBeEmpty();
        Json("swap", "list").AsArray().ShouldBeEmpty();
    }

    [Fact]
    public void A_roster_is_looked_at_before_it_is_taken()
    {
        var dry = Line("roster", "take", Roster(People), "--dry-run");
        foreach (var said in new[] { "Ida Moreau", "Petrov, Ana", "--dry-run" }) dry.ShouldContain(said);
        Json("swap", "list").AsArray().ShouldBeEmpty();
    }

    [Fact]
    public void A_roster_that_is_taken_again_says_what_is_new_whoever_wrote_the_file()
    {
        ((int?)Json("roster", "take", Roster(People))["added"]).ShouldBe(4);
        var again = Json("roster", "take", Roster("\uFEFF" + People.Replace("\n", "\r\n", StringComparison.Ordinal)));
        ((int?)again["added"], (int?)again["changed"], (int?)again["same"]).ShouldBe((0, 0, 4));
        Line("roster", "take", Roster(People.Replace("Desk 4", "Desk 9", StringComparison.Ordinal))).ShouldContain("Desk 9");
    }

    /// <summary>Two technicians, and a draft in which all four have an appointment.</summary>
    private void Draft()
    {
        Line("roster", "take", Roster(People));
        Technicians(("noor", "Noor Haddad", "North Quay"), ("theo", "Theo Brandt", "Lantern Point"));
        Line("plan", "make", "--steps", "200").ShouldContain("'yardline plan publish' books it");
    }

    [Fact]
    public void A_draft_says_whom_it_affects_and_is_published_once()
    {
        Draft();
        Line("plan", "compare").ShouldContain("Ida Moreau comes in: Mon 7 Dec");
        Line("plan", "publish").ShouldContain("Plan 1 is published: 4 appointments, 0 left out.");
        Refused("plan", "publish").ShouldContain("There is no draft to publish");
    }

    [Fact]
    public void A_visit_is_moved_by_hand_where_it_can_be_and_a_try_says_why_not()
    {
        Draft();
        Try("plan", "move", Swap(1), "2026-12-08 12:00", "--try").Out.ShouldContain("Noor Haddad has no shift from Tue 8 Dec 12:00");
        Refused("plan", "move", Swap(1), "2026-12-08 12:00").ShouldContain("It cannot go there");
        Line("plan", "move", Swap(1), "2026-12-08 09:15").ShouldContain("Ida Moreau: Tue 8 Dec 09:15");
    }

    [Fact]
    public void Who_was_taken_out_is_told_that_nothing_stands_in_the_way_and_comes_back_by_undo()
    {
        Draft();
        Line("plan", "take-out", Swap(2));
        Line("plan", "why", Swap(2)).ShouldContain("No rule stands in its way: Noor Haddad can do it on Mon 7 Dec");
        Line("plan", "undo");
        Line("plan", "why", Swap(2)).ShouldContain("has an appointment");
    }

    [Fact]
    public void On_the_morning_on_which_somebody_is_ill_only_their_visits_change()
    {
        Draft();
        Line("plan", "move", Swap(1), "2026-12-08 09:15");
        Line("plan", "publish");
        ((int?)Json("plan", "what-if", "away noor 2026-12-07..2026-12-11", "--seconds", "0.2")["after"]!["leftOut"]).ShouldBe(2);
        Line("technician", "away", "noor", "2026-12-08");
        Line("plan", "make", "--steps", "500");
        Json("plan", "compare")["changes"]!.AsArray().Select(c => (string?)c!["swap"]).ShouldBe([Swap(1)]);
        Line("plan", "publish");
        Line("plan", "history").ShouldContain("past");
    }

    [Fact]
    public void A_plan_is_handed_out_as_calendar_table_and_workbook_and_by_a_feed()
    {
        Draft();
        Line("plan", "publish");
        Line("plan", "outlook", "--runs", "200").ShouldContain("of 200 runs all is done by the last day");
        foreach (var form in new[] { "ics", "csv", "xlsx" }) Line("plan", "export", Folder[$"plan.{form}"], "--technician", "theo");
        File.ReadAllText(Folder["plan.ics"]).ShouldContain("TZID:Europe/London");
        File.ReadAllLines(Folder["plan.csv"]).Length.ShouldBe(3);
        Line("plan", "subscribe", "--technician", "theo").ShouldContain("/api/feeds/");
    }

    [Fact]
    public void Swaps_are_changed_together_by_what_finds_them()
    {
        Line("roster", "take", Roster(People));
        Line("estimate", "show", Swap(1)).ShouldContain("from a typical size, as it is not surveyed yet");
        Line("swap", "edit", "find:Hall", "--weight", "8").ShouldContain("1 swap changed");
        Line("wave", "set", "first", "--name", "First", "--from", "2026-12-07", "--until", "2026-12-08");
        Line("swap", "edit", "all", "--wave", "first").ShouldContain("4 swaps changed");
        Line("wave", "list").ShouldContain("First 2026-12-07 2026-12-08 4");
    }

    [Fact]
    public void A_spreadsheet_with_columns_of_its_own_is_matched_by_guess_and_by_hand()
    {
        var own = Roster("Staff no;Full name;Location;Shelf\nk1;Ida Moreau;North Quay;KB-1\n", "own.csv");
        Refused("roster", "take", own).ShouldContain("needs an old computer");
        Line("roster", "match", "Shelf=new_tag");
        var dry = Try("roster", "take", own, "--dry-run");
        foreach (var said in new[] { "'Staff no' is read as person, by guess", "old_tag", "1 faults" }) dry.Out.ShouldContain(said);
        Line("roster", "match", "Shelf=old_tag");
        Line("roster", "take", Roster(
            "Staff no;Full name;Location;Shelf;Kind;New tag\nk1;Ida Moreau;North Quay;KB-1;renew;KB-2\n", "good.csv"))
            .ShouldContain("Taking 1.");
    }

    [Fact]
    public void A_taking_is_undone()
    {
        Line("roster", "take", Roster(People));
        Line("roster", "takings").ShouldContain("can be undone");
        Line("roster", "undo", "1").ShouldContain("4 swaps taken out");
        Json("swap", "list").AsArray().ShouldBeEmpty();
    }

    [Fact]
    public void The_empty_roster_that_is_given_out_is_taken_as_it_is()
    {
        Line("roster", "template", Folder["blank.xlsx"]);
        Try("roster", "take", Folder["blank.xlsx"]).Exit.ShouldBe(0);
    }

    [Fact]
    public void A_plan_says_why_somebody_is_left_out()
    {
        Line("roster", "take", Roster(People));
        Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "daily 08:00-18:00");
        var plan = Json("plan", "make", "--steps", "200", "--seed", "3");
        (plan["appointments"]!.AsArray().Count, plan["leftOut"]!.AsArray().Count).ShouldBe((2, 2));
        plan["leftOut"]!.AsArray().ShouldAllBe(l => ((string)l!["because"]!).Contains("nobody serves Lantern Point"));
        var shown = Line("plan", "show");
        foreach (var said in new[] { "Ida Moreau", "Noor Haddad", "08:00", "Let one technician serve Lantern Point" })
            shown.ShouldContain(said);
    }

    [Fact]
    public void What_a_plan_lacks_is_said_with_how_to_give_it()
    {
        Line("roster", "take", Roster(People));
        Try("plan", "make", "--steps", "50").All.ShouldContain("technician");
        Technicians(("noor", "Noor Haddad", "North Quay"));
        Line("site", "set", "North Quay", "--name", "North Quay", "--benches", "0");
        Refused("plan", "make", "--steps", "50")
            .ShouldContain("North Quay has swaps but no bench. Give it at least one with 'yardline site set'.");
    }

    [Theory]
    [InlineData("plan", "make", "--steps", "-4")]
    [InlineData("technician", "set", "x", "--name", "X", "--shift", "whenever")]
    [InlineData("site", "set", "S", "--name", "S", "--benches", "many")]
    [InlineData("refresh", "make", "UPPER", "--name", "x", "--starts", "2026-12-01", "--zone", "UTC")]
    [InlineData("refresh", "make", "ok", "--name", "x", "--starts", "2026-12-01", "--zone", "Mars/North")]
    [InlineData("account", "set", "x", "--name", "X", "--role", "captain")]
    public void Wrong_words_are_refused(params string[] words) => Try(words).Exit.ShouldBeOneOf(1, 2);

    [Theory]
    [InlineData("--benches takes a whole number, such as 4, not 'many'.", "site", "set", "S", "--name", "S", "--benches", "many")]
    [InlineData("--room-gb takes a number, such as 2.5, not 'much'.", "depot", "set", "d", "--room-gb", "much")]
    [InlineData("--from takes a day, such as 2026-11-26, not 'soon'.", "wave", "set", "w", "--from", "soon")]
    [InlineData("--holds takes nothing, wipe or signOff, not 'no'.", "follow-up", "open", "s-1", "words", "--holds", "no")]
    public void What_is_no_value_is_said_in_words_and_not_by_a_type(string said, params string[] words)
    {
        var ran = Try(words);
        (ran.Exit, ran.Err.Split('\n')[0].Trim()).ShouldBe((2, said));
    }

    [Fact]
    public void A_plan_in_steps_is_the_same_on_one_core_and_on_many()
    {
        var instance = Path.Combine(Run.Root, "bench/plan-instances/mid-1.json");
        string[] Solve(string to) =>
            [Run.Bin("yardline"), "plan", "solve", instance, "--out", Folder[to], "--steps", "4000", "--seed", "11"];
        Run.Must("taskset", ["-c", "0", .. Solve("one.json")]);
        Run.Must("env", Solve("many.json"));
        File.ReadAllText(Folder["one.json"]).ShouldBe(File.ReadAllText(Folder["many.json"]));
    }

    [Fact]
    public void A_checklist_is_worked_and_refuses_what_is_not_true()
    {
        Line("roster", "take", Roster(People));
        Refused("swap", "sign-off", Swap(1), "--as", "technician").ShouldContain("not staged");
        Line("step", "set", Swap(1), "told", "ready").ShouldContain("2 of 29 steps are dealt with");
        Refused("step", "set", Swap(1), "old-tag", "--tag", "KB-2").ShouldContain("Wrong computer: KB-2");
        Refused("step", "set", Swap(1), "staged").ShouldContain("checked by the system");
        Refused("step", "set", Swap(1), "no-such-step").ShouldContain("no-such-step");
        Line("step", "set", Swap(1), "old-tag", "--tag", "kb-1");
        Json("swap", "show", Swap(1))["checklist"]!["steps"]!.AsArray().Count(s => (string?)s!["state"] == "done").ShouldBe(3);
    }

    [Fact]
    public void All_that_is_wrong_with_a_checklist_is_said_at_once()
    {
        var said = Refused("checklist", "add", FileOf("bad.yaml", """
            name: Short
            kinds: [renew]
            steps:
              - key: told
                phase: before
                title: Told
              - key: told
                phase: nowhere
                title: Twice
            """));
        foreach (var what in new[] { "told", "nowhere" }) said.ShouldContain(what);
    }

    [Fact]
    public void A_checklist_is_printed_changed_and_kept_and_a_swap_is_asked_before_it_moves_to_it()
    {
        Line("roster", "take", Roster(People));
        var changed = FileOf("changed.yaml", Printed("checklist", "print", "change of computer")
            .Replace("options: [prints, none needed]", "options: [prints, none needed, comes later]", StringComparison.Ordinal));
        Line("step", "set", Swap(1), "printer", "--answer", "prints");
        Line("checklist", "look", changed, "--kind", "renew").ShouldContain("screens: 2 or 3");
        Line("checklist", "add", changed).ShouldContain("version 2");
        foreach (var said in new[] { "not moved yet", "asks anew, was dealt with" }) Line("swap", "checklist", Swap(1)).ShouldContain(said);
        Line("swap", "checklist", Swap(1), "--move").ShouldContain("version 2: moved");
        Line("swap", "show", Swap(1)).ShouldContain("○ Printer");
    }

    [Fact]
    public void Accounts_have_the_rights_of_their_role_and_no_others()
    {
        Line("roster", "take", Roster(People));
        Line("account", "set", "wren", "--name", "Wren Ashby", "--role", "auditor");
        var wren = new Dictionary<string, string> { ["YARDLINE_CONFIG"] = Folder["wren.json"], ["YARD_PASSWORD"] = "kestrel-bay-ferries" };
        Ran As(params string[] args) => LineWithin.Run(wren, args);
        As("today").Err.ShouldContain("yardline sign-in");
        As("sign-in", Address, "--name", "wren", "--refresh", Swap(1)[..^5]).Exit.ShouldBe(0);
        File.GetUnixFileMode(Folder["wren.json"]).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite, "a token is its owner's");
        As("swap", "list").Out.ShouldContain("Ida Moreau");
        As("ledger", "check").Exit.ShouldBe(0);
        foreach (var args in new string[][]
        {
            ["roster", "take", Folder["roster.csv"]], ["plan", "make"], ["step", "set", Swap(1), "told"], ["hand", "code", "KB-1"],
            ["swap", "order", "survey", "--all"]
        })
        {
            var refused = As(args);
            refused.Exit.ShouldBe(1, $"{string.Join(' ', args)}: {refused.All}");
            refused.Err.ShouldMatch("may not|coordinator");
        }
    }

    [Fact]
    public void Signed_out_here_or_by_a_coordinator_a_command_line_opens_nothing_and_forgets_no_other()
    {
        File.WriteAllText(Folder["ada"], "kestrel-bay-ferries\nnothing else counts\n");
        Line("account", "set", "ada", "--name", "Ada Lind", "--role", "auditor", "--new-password-file", Folder["ada"]);
        var config = Folder["ada.json"];
        var ada = new Dictionary<string, string> { ["YARDLINE_CONFIG"] = config };
        Ran As(params string[] args) => LineWithin.Run(ada, args);
        void SignIn() =>
            As("sign-in", Address, "--name", "ada", "--refresh", Swap(1)[..^5], "--password-file", Folder["ada"]).Exit.ShouldBe(0);
        SignIn();
        As("session", "list").Out.ShouldContain("this one");
        var token = JsonNode.Parse(File.ReadAllText(config))!["token"]!.GetValue<string>();
        As("sign-out").Exit.ShouldBe(0);
        File.ReadAllText(config).ShouldNotContain(token);
        As("session", "list").Err.ShouldContain("not signed in");
        SignIn();
        var kept = new Dictionary<string, string>(ada) { ["YARD_SERVICE"] = Address, ["YARD_TOKEN"] = token };
        LineWithin.Run(kept, "session", "list").Err.ShouldContain("sign-in");
        var again = LineWithin.Run(kept, "sign-out");
        (again.Exit, again.Out).ShouldBe((0, "You were signed out already.\n"));
        As("session", "list").Exit.ShouldBe(0, "another token was meant");
        Line("account", "disable", "ada").ShouldContain("signed out everywhere");
        As("session", "list").Exit.ShouldBe(1);
        As("sign-in", Address, "--name", "ada", "--password-file", Folder["ada"]).Err.ShouldContain("disabled");
        As("sign-in", Address, "--name", "ada", "--password-file", Folder["no-such"]).Err.ShouldContain("cannot be read");
        As("sign-in", "http://yard.kestrelbay.example", "--name", "ada").Err.ShouldContain("--in-clear");
        Line("account", "list").ShouldContain("disabled since");
        Line("account", "remove", "ada", "--yes").ShouldContain("removed");
    }

    [Fact]
    public void The_history_is_shown_checked_and_its_head_is_kept_outside()
    {
        Line("roster", "take", Roster(People));
        var (head, key) = Printed("ledger", "check").Split('\n', StringSplitOptions.RemoveEmptyEntries) is [.., var h, var k]
            ? (h.Trim(), k.Trim())
            : ("", "");
        head.ShouldMatch("^[0-9]+:[0-9a-f]{64}$");
        Line("site", "set", "North Quay", "--name", "North Quay", "--benches", "3");
        Line("ledger", "check", "--head", head, "--key", key).ShouldContain("The ledger is whole");
        Line("ledger", "check", "--service", "--key", key).ShouldContain("The ledger is whole");
        Try("ledger", "check", "--key", new string('0', 32)).Err.ShouldContain("the one that was kept is");
        Try("ledger", "check", "--head", head.Replace(':', '0') + ":" + new string('0', 64)).Exit.ShouldBe(1);
        Line("ledger", "show").ShouldContain("North Quay has 3 benches");
        Json("ledger", "show").AsArray().Count.ShouldBe(int.Parse(head.Split(':')[0]) + 1);
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
        string In(params string[] words) => Line([.. words, "--refresh", "two-sheets"]);
        Line("refresh", "make", "two-sheets", "--name", "Two sheets", "--starts", $"{first:yyyy-MM-dd}", "--days", "26");
        In("roster", "take", folder["people.csv"]).ShouldContain("300 rows: 300 added");
        In("technician", "take", folder["technicians.csv"]).ShouldContain("5 added");
        In("plan", "make", "--steps", "20000").ShouldContain("300 appointments, 0 left out");
        In("plan", "publish").ShouldContain("300 appointments");
        var plan = Json("plan", "show", "--refresh", "two-sheets");
        var theirs = plan["appointments"]!.AsArray()
            .Where(a => (string?)a!["technician"] == "noor-haddad")
            .GroupBy(a => ((string)a!["start"]!)[..10])
            .MaxBy(g => g.Count())!;
        In("technician", "away", "noor-haddad", theirs.Key);
        In("plan", "make", "--steps", "20000").ShouldContain("300 appointments, 0 left out");
        var compared = Json("plan", "compare", "--refresh", "two-sheets");
        compared["changes"]!.AsArray().Count.ShouldBeInRange(
            theirs.Count(), 30, "those of the one who is ill, and few beside them: nine tenths of all promises stand");
        In("plan", "publish").ShouldContain("300 appointments");
    }
}
