using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Tests.Checklists;

public sealed class ChecklistTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 9, 0, 0, TimeSpan.Zero);
    private static readonly StepTemplate Tick = new("t", "Tick it", Phase.Swap, new StepWork.Tick(), null, "");
    private static readonly StepTemplate Scan = new("s", "Right old computer", Phase.Swap, new StepWork.Scan(false), null, "");
    private static readonly StepTemplate Auto = new("a", "Staged", Phase.Swap, new StepWork.Automatic(AutomaticFact.StagedAndVerified), null, "");
    private static readonly StepTemplate HandIn = new("h", "Handed in", Phase.HandIn, new StepWork.Tick(), Station.HandedIn, "");

    [Fact]
    public void A_step_that_the_system_can_check_cannot_be_set_by_a_person()
    {
        foreach (var claim in new StepClaim[] { new StepClaim.Ticked(), new StepClaim.Scanned("KB-1"), new StepClaim.Inapplicable("no"), new StepClaim.Reopened() })
            StepRule.Claim(Auto, claim, "KB-1", "Noor", Now).Problem.Code.ShouldBe("step.automatic");
    }

    [Fact]
    public void A_scan_takes_the_expected_tag_alone_and_says_loudly_when_it_is_another()
    {
        StepRule.Claim(Scan, new StepClaim.Scanned(" kb-1187 "), "KB-1187", "Noor", Now).Value.ShouldBe(new StepState.Done("Noor", Now));
        var wrong = StepRule.Claim(Scan, new StepClaim.Scanned("KB-1190"), "KB-1187", "Noor", Now).Problem;
        (wrong.Code, wrong.Message.StartsWith("Wrong computer: KB-1190")).ShouldBe(("step.wrong-computer", true));
        StepRule.Claim(Scan, new StepClaim.Ticked(), "KB-1187", "Noor", Now).Problem.Code.ShouldBe("step.kind");
        StepRule.Claim(Scan, new StepClaim.Scanned(""), null, "Noor", Now).IsOk.ShouldBeFalse();
        StepRule.Claim(Tick, new StepClaim.Scanned("x"), null, "Noor", Now).IsOk.ShouldBeFalse();
    }

    [Fact]
    public void Not_applicable_needs_a_reason()
    {
        StepRule.Claim(Tick, new StepClaim.Inapplicable("  "), null, "Noor", Now).Problem.Code.ShouldBe("step.reason");
        StepRule.Claim(Tick, new StepClaim.Inapplicable(" no printer "), null, "Noor", Now).Value.ShouldBe(new StepState.NotApplicable("Noor", Now, "no printer"));
        StepRule.Claim(Tick, new StepClaim.Reopened(), null, "Noor", Now).Value.ShouldBe(new StepState.Open());
    }

    [Fact]
    public void A_sign_off_lists_everything_that_is_missing_and_nothing_once_all_is_there()
    {
        List<StepNow> open = [new(Tick, new StepState.Open()), new(Auto, new StepState.Open()), new(HandIn, new StepState.Open())];
        List<FolderAccount> account = [new("Documents", new(10, 100), new(8, 80), default, new(1, 10), new(1, 10), null, default, default)];
        var missing = SignOffRule.Missing(SignOffPart.Technician, SwapKind.Renew, open, account, 1, false, false, true, []);
        missing.Count.ShouldBe(5);
        missing.ShouldContain(m => m.Contains("1 file is neither carried nor waived"));
        missing.ShouldContain(m => m.Contains("1 step is open: Tick it."));
        List<StepNow> done = [new(Tick, new StepState.Done("Noor", Now)), new(Auto, new StepState.Open()), new(HandIn, new StepState.Open())];
        List<FolderAccount> whole = [new("Documents", new(10, 100), new(9, 90), default, new(1, 10), default, new(9, 90), default, default)];
        SignOffRule.Missing(SignOffPart.Technician, SwapKind.Renew, done, whole, 0, true, true, true, []).ShouldBeEmpty();
        SignOffRule.Missing(SignOffPart.Coordinator, SwapKind.Renew, done, whole, 0, true, true, true, []).Count.ShouldBe(2);
        SignOffRule.Missing(SignOffPart.Technician, SwapKind.Issue, [new(Tick, new StepState.NotApplicable("Noor", Now, "x"))], [], 0, false, false, true, []).ShouldBeEmpty();
        // A file that vanishes from the sums is unexplained, wherever it vanishes.
        foreach (var leak in new[] { whole[0] with { Old = new(11, 100) }, whole[0] with { OnNew = new Amount(8, 90) }, whole[0] with { InDepot = new(8, 90) } })
            SignOffRule.Missing(SignOffPart.Technician, SwapKind.Renew, done, [leak], 0, true, true, true, []).ShouldNotBeEmpty();
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
        template.For(SwapKind.Renew).Select(s => s.Key).ShouldBe(["told", "new", "back", "in"]);
        template.For(SwapKind.Second).Select(s => s.Key).ShouldBe(["told", "new", "back"]);
        template.For(SwapKind.Leave).Select(s => s.Key).ShouldBe(["told", "in"]);
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
            """).Problems.Select(p => p.Message).ToList();
        foreach (var (line, said) in new[] { (2, "colour"), (4, "A b"), (5, "later"), (6, "staged-and-verified"), (7, "title"), (7, "moon") }) faults.ShouldContain(f => f.StartsWith($"Checklist line {line}:") && f.Contains(said), said);
        TemplateReader.Read("name: [").Problem.Code.ShouldBe("checklist.yaml");
    }
}
