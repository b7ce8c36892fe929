using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Checklists;

public sealed class ChecklistTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 9, 0, 0, TimeSpan.Zero);
    private static readonly StepState Open = new StepState.Open();
    private static readonly StepTemplate Tick = new("t", "Tick it", Phase.Swap, new StepWork.Tick(), null, "");
    private static readonly StepTemplate Scan = new("s", "Right old computer", Phase.Swap, new StepWork.Scan(false), null, "");
    private static readonly StepTemplate Auto = new(
        "a", "Staged", Phase.Swap, new StepWork.Automatic(AutomaticFact.StagedAndVerified), null, "");
    private static readonly StepTemplate HandIn = new("h", "Handed in", Phase.HandIn, new StepWork.Tick(), Station.HandedIn, "");

    [Fact]
    public void A_step_that_the_system_can_check_cannot_be_set_by_a_person()
    {
        foreach (var claim in new StepClaim[]
        {
            new StepClaim.Ticked(), new StepClaim.Scanned("KB-1"), new StepClaim.Inapplicable("no"), new StepClaim.Reopened()
        })
            StepRule.Claim(Auto, Open, claim, "KB-1", "Noor", Now).Problem.Code.ShouldBe("step.automatic");
    }

    [Fact]
    public void A_scan_takes_the_expected_tag_alone_and_says_loudly_when_it_is_another()
    {
        StepRule.Claim(Scan, Open, new StepClaim.Scanned(" kb-1187 "), "KB-1187", "Noor", Now).Value
            .ShouldBe(new StepState.Done("Noor", Now));
        var wrong = StepRule.Claim(Scan, Open, new StepClaim.Scanned("KB-1190"), "KB-1187", "Noor", Now).Problem;
        (wrong.Code, wrong.Message.StartsWith("Wrong computer: KB-1190")).ShouldBe(("step.wrong-computer", true));
        StepRule.Claim(Scan, Open, new StepClaim.Ticked(), "KB-1187", "Noor", Now).Problem.Code.ShouldBe("step.kind");
        StepRule.Claim(Scan, Open, new StepClaim.Scanned(""), null, "Noor", Now).IsOk.ShouldBeFalse();
        StepRule.Claim(Tick, Open, new StepClaim.Scanned("x"), null, "Noor", Now).IsOk.ShouldBeFalse();
    }

    [Fact]
    public void Not_applicable_needs_a_reason()
    {
        StepRule.Claim(Tick, Open, new StepClaim.Inapplicable("  "), null, "Noor", Now).Problem.Code.ShouldBe("step.reason");
        StepRule.Claim(Tick, Open, new StepClaim.Inapplicable(" no printer "), null, "Noor", Now).Value
            .ShouldBe(new StepState.NotApplicable("Noor", Now, "no printer"));
        StepRule.Claim(Tick, Open, new StepClaim.Reopened(), null, "Noor", Now).Value.ShouldBe(new StepState.Open());
    }

    [Fact]
    public void A_sign_off_lists_everything_that_is_missing_and_nothing_once_all_is_there()
    {
        List<StepNow> open = [new(Tick, new StepState.Open()), new(Auto, new StepState.Open()), new(HandIn, new StepState.Open())];
        List<FolderAccount> account = [new("Documents", new(10, 100), new(8, 80), default, new(1, 10), new(1, 10), null, default, default)];
        var missing = SignOffRule.Missing(SignOffPart.Technician, SwapKind.Renew, open, account, 1, false, false, true, [], []);
        missing.Count.ShouldBe(5);
        missing.ShouldContain(m => m.Contains("1 file is neither carried nor waived"));
        missing.ShouldContain(m => m.Contains("1 step is open: Tick it."));
        List<StepNow> done = [
            new(Tick, new StepState.Done("Noor", Now)), new(Auto, new StepState.Open()), new(HandIn, new StepState.Open())
        ];
        List<FolderAccount> whole = [new(
            "Documents", new(10, 100), new(9, 90), default, new(1, 10), default, new(9, 90), default, default)];
        SignOffRule.Missing(SignOffPart.Technician, SwapKind.Renew, done, whole, 0, true, true, true, [], []).ShouldBeEmpty();
        SignOffRule.Missing(SignOffPart.Coordinator, SwapKind.Renew, done, whole, 0, true, true, true, [], []).Count.ShouldBe(2);
        SignOffRule.Missing(
            SignOffPart.Technician, SwapKind.Issue, [new(Tick, new StepState.NotApplicable("Noor", Now, "x"))], [], 0, false, false, true,
            [], []).ShouldBeEmpty();
        // A file that vanishes from the sums is unexplained, wherever it vanishes.
        foreach (var leak in new[]
        {
            whole[0] with { Old = new(11, 100) }, whole[0] with { OnNew = new Amount(8, 90) }, whole[0] with { InDepot = new(8, 90) }
        })
            SignOffRule.Missing(SignOffPart.Technician, SwapKind.Renew, done, [leak], 0, true, true, true, [], []).ShouldNotBeEmpty();
    }

    [Fact]
    public void A_template_is_read_in_the_order_of_the_phases_and_fitted_to_the_kind()
    {
        var template = TemplateReader.Read("""
            name: Small
            steps:
              - { key: in, phase: hand-in, title: Store it, kind: tick, marks: handed-in }
              - { key: new, phase: swap, title: Right new computer, kind: scan, expects: new }
              - { key: back, phase: after, title: Restored, kind: automatic, fact: restored-and-verified }
              - { key: told, phase: before, title: Told, kind: tick, marks: told, help: Say when. }
            """).Value;
        string[] For(SwapKind kind) => [.. template.For(new(kind), _ => Open).Select(s => s.Step.Key)];
        For(SwapKind.Renew).ShouldBe(["told", "new", "back", "in"]);
        For(SwapKind.Second).ShouldBe(["told", "new", "back"]);
        For(SwapKind.Leave).ShouldBe(["told", "in"]);
    }

    [Fact]
    public void A_wrong_template_is_refused_with_every_fault_and_its_line()
    {
        var faults = TemplateReader.Read("""
            name: Bad
            colour: red
            steps:
              - { key: A b, phase: before, title: X, kind: tick }
              - { key: ok, phase: later, title: X, kind: tick }
              - { key: ok2, phase: swap, title: X, kind: automatic, fact: guessed }
              - { key: ok3, phase: swap, title: "", kind: tick, marks: moon }
              - { key: early, phase: before, title: X, kind: tick, when: { answers: { late: done } } }
              - { key: late, phase: after, title: X, kind: tick, when: { answers: { moon-step: done } } }
              - { key: odd, phase: swap, title: X, kind: tick, unit: m }
              - { key: one, phase: swap, title: X, kind: choice, options: [yes] }
              - { key: again, phase: swap, title: X, kind: again }
            """).Problems.Select(p => p.Message).ToList();
        foreach (var (line, said) in new[]
        {
            (2, "colour"),
            (4, "A b"),
            (5, "later"),
            (6, "staged-and-verified"),
            (8, "back only"),
            (9, "'moon-step'"),
            (10, "has no 'unit'"),
            (11, "2 to 20"),
            (12, "until"),
            (7, "title"),
            (7, "moon")
        })
            faults.ShouldContain(f => f.StartsWith($"Checklist line {line}:") && f.Contains(said), said);
        TemplateReader.Read("name: [").Problem.Code.ShouldBe("checklist.yaml");
    }

    [Theory]
    [InlineData("aliases that multiply", "checklist.alias")]
    [InlineData("ten thousand brackets", "checklist.depth")]
    [InlineData("a million steps", "checklist.size")]
    [InlineData("fifty thousand short steps", "checklist.size")]
    public void A_template_that_would_explode_is_refused_before_it_does(string what, string code)
    {
        var yaml = what switch
        {
            "aliases that multiply" => "name: x\nkinds: &a [renew, renew]\nsteps: [" + string.Join(", ", Enumerable.Repeat("*a", 50)) + "]",
            "ten thousand brackets" => "name: " + new string('[', 10_000),
            "a million steps" =>
                "name: x\nsteps:\n" + string.Concat(Enumerable.Repeat("  - { key: a, phase: swap, title: t, kind: tick }\n", 1_000_000)),
            _ => "name: x\nsteps:\n" + string.Concat(Enumerable.Repeat("- a\n", 50_000)),
        };
        TemplateReader.Read(yaml).Problem.Code.ShouldBe(code);
    }

    [Fact]
    public void Answers_are_held_to_what_the_step_asks_for()
    {
        static StepTemplate Of(StepWork work) => new("k", "It", Phase.Swap, work, null, "");
        static Result<StepState> Answer(StepWork work, string value) =>
            StepRule.Claim(Of(work), Open, new StepClaim.Answered(value), null, "Noor", Now);
        var number = new StepWork.Number("screens", 0, 6);
        Answer(number, " 2.50 ").Value.ShouldBe(new StepState.Done("Noor", Now, "2.50"));
        foreach (var wrong in new[] { "7", "-1", "two", "", "1e3", "1,5", "NaN" }) Answer(number, wrong).IsOk.ShouldBeFalse(wrong);
        Answer(number, "7").Problem.Message.ShouldContain("0 to 6 screens");
        Answer(new StepWork.Choice(["prints", "none needed"]), "PRINTS").Value.ShouldBe(new StepState.Done("Noor", Now, "prints"));
        Answer(new StepWork.Choice(["prints", "none needed"]), "no").Problem.Message.ShouldContain("prints, none needed");
        Answer(new StepWork.Text(), new string('x', 2001)).IsOk.ShouldBeFalse();
        Answer(new StepWork.Text(), "  ").IsOk.ShouldBeFalse();
        Answer(new StepWork.Tick(), "x").Problem.Code.ShouldBe("step.kind");
        StepRule.Claim(Of(number), Open, new StepClaim.Ticked(), null, "Noor", Now).Problem.Message.ShouldContain("takes a number");
    }

    [Fact]
    public void What_is_run_again_counts_its_runs_and_what_takes_its_time_is_measured()
    {
        var again = Tick with { Work = new StepWork.Again("nothing more goes") };
        StepState state = Open;
        for (var run = 1; run <= 3; run++)
            state = StepRule.Claim(again, state, new StepClaim.Ran(), null, "Noor", Now.AddMinutes(run)).Value;
        state.ShouldBe(new StepState.UnderWay("Noor", Now.AddMinutes(1), 3));
        StepRule.Claim(again, state, new StepClaim.Ticked(), null, "Theo", Now.AddMinutes(9)).Value
            .ShouldBe(new StepState.Done("Theo", Now.AddMinutes(9), null, Now.AddMinutes(1), 4));

        var restart = Tick with { Work = new StepWork.Timed(true) };
        StepRule.Claim(restart, Open, new StepClaim.Ticked(), null, "Noor", Now).Problem.Code.ShouldBe("step.not-started");
        var going = StepRule.Claim(restart, Open, new StepClaim.Started(), null, "Noor", Now).Value;
        StepRule.Claim(restart, going, new StepClaim.Started(), null, "Theo", Now.AddMinutes(1)).Value
            .ShouldBe(going, "started twice is started once");
        StepRule.Claim(restart, going, new StepClaim.Ticked(), null, "Theo", Now.AddMinutes(4)).Value
            .ShouldBe(new StepState.Done("Theo", Now.AddMinutes(4), null, Now));
        going.IsOpen.ShouldBeTrue();
    }

    [Fact]
    public void A_condition_opens_and_shuts_a_step_as_the_facts_and_the_earlier_answers_say()
    {
        var template = TemplateReader.Read("""
            name: Conditions
            steps:
              - { key: screens, phase: swap, title: Screens, kind: number, least: 0, most: 6 }
              - { key: sharp, phase: swap, title: Sharp, kind: tick, when: { answers: { screens: ["2", "3"] } } }
              - { key: why-not, phase: after, title: Why, kind: text, when: { answers: { sharp: not-applicable } } }
              - { key: charts, phase: after, title: Charts, kind: tick, when: { program: "chart*", site: [Workshop, "North *"] } }
              - { key: second, phase: after, title: Both, kind: tick,
                  when: { kind: second, department: Engines, old-model: "*13", new-model: "Gannet*", room: Hall } }
            """).Value;
        List<string> Keys(StepSubject subject, params (string Key, StepState State)[] states) =>
            [.. template.For(subject, s => states.FirstOrDefault(x => x.Key == s.Key).State ?? Open).Select(s => s.Step.Key)];
        var done = new StepState.Done("Noor", Now);
        Keys(new(SwapKind.Renew)).ShouldBe(["screens"]);
        Keys(new(SwapKind.Renew), ("screens", done with { Value = "2" })).ShouldBe(["screens", "sharp"]);
        Keys(
            new(SwapKind.Renew), ("screens", done with { Value = "1" }), ("sharp", new StepState.NotApplicable("Noor", Now, "x"))).ShouldBe(
            ["screens"], "a step that is not there has no answer");
        Keys(
            new(SwapKind.Renew), ("screens", done with { Value = "3" }), ("sharp", new StepState.NotApplicable("Noor", Now, "x"))).ShouldBe(
            [
            "screens", "sharp", "why-not"
        ]);
        Keys(new(SwapKind.Renew, "north quay", Programs: ["Mail", "Chartroom 4"])).ShouldBe(["screens", "charts"]);
        Keys(new(SwapKind.Renew, "Lantern Point", Programs: ["Chartroom 4"])).ShouldBe(["screens"]);
        Keys(new(SwapKind.Second, "x", "Hall", "engines", "Fulmar 13", "Gannet 14")).ShouldBe(["screens", "second"]);
        Keys(new(SwapKind.Renew, "x", "Hall", "engines", "Fulmar 13", "Gannet 14")).ShouldBe(["screens"]);
        template.AsksForPrograms.ShouldBeTrue();
    }

    [Fact]
    public void A_pattern_fits_as_its_plain_meaning_says()
    {
        for (var seed = 0; seed < 2000; seed++)
        {
            var random = new Random(seed);
            string Make(string letters, int most) =>
                string.Concat(Enumerable.Range(0, random.Next(most)).Select(_ => letters[random.Next(letters.Length)]));
            var (pattern, text) = (Make("aB*", 6), Make("Ab", 7));
            var plain = System.Text.RegularExpressions.Regex.IsMatch(
                text,
                "^" + pattern.Replace("*", ".*", StringComparison.Ordinal) + "$",
                System.Text.RegularExpressions.RegexOptions.IgnoreCase | System.Text.RegularExpressions.RegexOptions.CultureInvariant);
            StepCondition.Fits(pattern, text).ShouldBe(plain, $"'{pattern}' and '{text}'");
        }
    }

    [Fact]
    public void A_move_to_another_version_names_each_step_it_changes_and_keeps_answers_that_still_fit()
    {
        static ChecklistTemplate Of(string steps) => TemplateReader.Read("name: T\nsteps:\n" + steps).Value;
        var now = Of("""
              - { key: told, phase: before, title: Told, kind: tick }
              - { key: printer, phase: swap, title: Printer, kind: choice, options: [prints, none] }
              - { key: gone, phase: swap, title: Gone, kind: tick }
              - { key: same, phase: after, title: Same, kind: tick }
            """);
        var then = Of("""
              - { key: told, phase: before, title: Told in time, kind: tick }
              - { key: printer, phase: swap, title: Printer, kind: choice, options: [prints, none, later] }
              - { key: same, phase: after, title: Same, kind: tick }
              - { key: fresh, phase: after, title: Fresh, kind: text }
            """);
        var done = new StepState.Done("Noor", Now, "prints");
        TemplateChange.Between(now, then, new(SwapKind.Renew), key => key is "printer" or "gone" ? done : Open).ShouldBe([
            new("told", "Told in time", StepChangeKind.Reworded, false),
            new("printer", "Printer", StepChangeKind.AsksAnew, true),
            new("fresh", "Fresh", StepChangeKind.Added, false),
            new("gone", "Gone", StepChangeKind.Dropped, true),
        ]);
        TemplateChange.Between(now, now, new(SwapKind.Renew), _ => Open).ShouldBeEmpty();
    }
}
