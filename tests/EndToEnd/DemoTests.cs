using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>The demo as the README says it.</summary>
public sealed class DemoTests
{
    [Fact]
    public void The_whole_example_runs_without_a_browser_and_every_file_is_accounted_for()
    {
        var ran = Run.To(Path.Combine(Run.Root, "scripts/demo.sh"), "--once");
        ran.Exit.ShouldBe(0, ran.All);
        ran.Out.ShouldContain("24 swaps");
        ran.Out.ShouldContain("0 unexplained");
        ran.Out.ShouldContain("Outcome: every file is accounted for.");
        ran.All.ShouldContain("Wrong computer: KB-9999");
    }

    [Fact]
    public void Any_folder_can_be_one_persons_old_computer_and_is_only_read()
    {
        using var folder = new TempFolder();
        SampleTrees.MakeHostile(folder["home"], 9, 80);
        var before = SampleTrees.Look(folder["home"]);
        var good = Run.To(Path.Combine(Run.Root, "scripts/demo.sh"), "--once", "--input", folder["home"]);
        good.Exit.ShouldBe(0, good.All);
        SampleTrees.Look(folder["home"]).ShouldBe(before);
    }
}
