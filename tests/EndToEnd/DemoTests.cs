using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>The demo as the README says it.</summary>
public sealed class DemoTests
{
    /// <summary>The example's own old computers; and, where all is asked for, a folder of the reader's as one of them, too.</summary>
    public static TheoryData<bool> Inputs => [.. new[] { false, true }.Take(Seeds.Large(1, whole: 2))];

    [Theory, MemberData(nameof(Inputs))]
    public void The_whole_example_runs_without_a_browser_and_every_file_is_accounted_for(bool takesAFolder)
    {
        using var folder = new TempFolder();
        SampleTrees.MakeHostile(folder["home"], 9, 80);
        var before = SampleTrees.Look(folder["home"]);
        var ran = Run.To(
            Path.Combine(Run.Root, "scripts/demo.sh"), ["--once", .. takesAFolder ? new[] { "--input", folder["home"] } : []]);
        ran.Exit.ShouldBe(0, ran.All);
        ran.Out.ShouldContain("24 swaps");
        ran.Out.ShouldContain("0 unexplained");
        ran.Out.ShouldContain("Outcome: every file is accounted for.");
        ran.All.ShouldContain("Wrong computer: KB-9999");
        SampleTrees.Look(folder["home"]).ShouldBe(before, "it is only read");
    }
}
