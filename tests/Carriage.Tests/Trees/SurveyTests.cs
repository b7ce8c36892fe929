using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trees;

public sealed class SurveyTests
{
    [Fact]
    public void A_survey_counts_what_find_counts_folder_by_folder_and_reads_no_file()
    {
        using var folder = new TempFolder();
        SampleTrees.MakeHostile(folder["Documents"], 5, 120);
        SampleTrees.MakeHostile(folder["Pictures"], 6, 80);
        File.WriteAllText(folder["beside.txt"], "12345");
        folder.Make("Empty");
        Run.Must("mkfifo", folder["Documents/pipe"]);
        var accessed = Run.Must("find", folder.At, "-type", "f", "-printf", "%P %A@\n");
        var progress = new Odometer();
        var inventory = new Survey(progress, TimeProvider.System).Run(folder.At, TestContext.Current.CancellationToken).Value;
        Run.Must("find", folder.At, "-type", "f", "-printf", "%P %A@\n").ShouldBe(accessed);
        inventory.Folders.Select(f => f.Folder).ShouldBe([".", "Documents", "Empty", "Pictures"]);
        foreach (var found in inventory.Folders)
        {
            var at = found.Folder == "." ? folder.At : folder[found.Folder];
            long Count(params string[] more) => Run.Must("find", [at, "-mindepth", "1", .. found.Folder == "." ? new[] { "-maxdepth", "1" } : [], .. more, "-printf", "%s\\n"]).Split('\n', StringSplitOptions.RemoveEmptyEntries).Length;
            found.Files.Files.ShouldBe(Count("!", "-type", "d"), found.Folder);
            found.Links.ShouldBe(Count("-type", "l"), found.Folder);
            if (found.Folder != ".") found.Folders.ShouldBe(Count("-type", "d") + 1, found.Folder);
            found.Files.Bytes.ShouldBe(Run.Must("find", [at, .. found.Folder == "." ? new[] { "-maxdepth", "1" } : [], "-type", "f", "-printf", "%s\\n"]).Split('\n', StringSplitOptions.RemoveEmptyEntries).Sum(long.Parse), found.Folder);
        }
        (progress.Files, progress.Bytes).ShouldBe((inventory.Total.Files, inventory.Total.Bytes));
        inventory.LargestBytes.ShouldBe(9_000_001);
        inventory.FreeBytes!.Value.ShouldBeInRange(1, inventory.DiskBytes!.Value);
        new Survey(new(), TimeProvider.System).Run(folder["nothing"], TestContext.Current.CancellationToken).Problem.ShouldBeOfType<SourceUnusable>();
    }

    [Fact]
    public void Of_values_per_folder_each_path_finds_its_own()
    {
        var sums = new PerFolder<List<string>>();
        string[] paths = ["a/1", "a/2", "b/1", "beside", "a/3", "c/", "ab/1"];
        foreach (var path in paths) sums.Of(path).Add(path);
        sums.All.Select(a => (a.Key, string.Join(',', a.Value))).ShouldBe([(".", "beside"), ("a", "a/1,a/2,a/3"), ("ab", "ab/1"), ("b", "b/1"), ("c", "c/")]);
    }
}
