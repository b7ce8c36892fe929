using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

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
        var inventory = new Survey(progress, ThreadWork.Here)
            .Run(TreeRoot.Here(folder.At), TestContext.Current.CancellationToken).Value;
        Run.Must("find", folder.At, "-type", "f", "-printf", "%P %A@\n").ShouldBe(accessed);
        inventory.Folders.Select(f => f.Folder).ShouldBe([".", "Documents", "Empty", "Pictures"]);
        foreach (var found in inventory.Folders)
        {
            var at = found.Folder == "." ? folder.At : folder[found.Folder];
            long Count(params string[] more) =>
                Run.Must("find", [
                    at, "-mindepth", "1", .. found.Folder == "." ? new[] { "-maxdepth", "1" } : [], .. more, "-printf", "%s\\n"
                ])
                    .Split('\n', StringSplitOptions.RemoveEmptyEntries).Length;
            found.Files.Files.ShouldBe(Count("!", "-type", "d"), found.Folder);
            found.Links.ShouldBe(Count("-type", "l"), found.Folder);
            if (found.Folder != ".") found.Folders.ShouldBe(Count("-type", "d") + 1, found.Folder);
            found.Files.Bytes.ShouldBe(
                Run.Must("find", [at, .. found.Folder == "." ? new[] { "-maxdepth", "1" } : [], "-type", "f", "-printf", "%s\\n"])
                    .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                    .Sum(long.Parse),
                found.Folder);
        }
        (progress.Files, progress.Bytes).ShouldBe((inventory.Total.Files, inventory.Total.Bytes));
        inventory.LargestBytes.ShouldBe(9_000_001);
        inventory.FreeBytes!.Value.ShouldBeInRange(1, inventory.DiskBytes!.Value);
        new Survey(new(), ThreadWork.Here)
            .Run(TreeRoot.Here(folder["nothing"]), TestContext.Current.CancellationToken).Problem.ShouldBeOfType<SourceUnusable>();
    }

    [Fact]
    public void A_home_is_told_by_its_places_with_what_runs_and_is_installed_and_each_file_once()
    {
        using var folder = new TempFolder();
        var home = folder.Make("ida");
        void Write(string path, int bytes)
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(home, path))!);
            File.WriteAllBytes(Path.Combine(home, path), new byte[bytes]);
        }

        Write("Schreibtisch/note", 5);
        Write("Cloud/._sync_12.db", 1);
        Write("Cloud/here", 7);
        Write("odd\nname/x", 3);
        Write(".cache/c", 11);
        using (var big = File.Create(Path.Combine(home, "Cloud/elsewhere"))) big.SetLength(1 << 20);
        Directory.CreateDirectory(Path.Combine(home, ".config"));
        File.WriteAllText(Path.Combine(home, ".config/user-dirs.dirs"), "XDG_DESKTOP_DIR=\"$HOME/Schreibtisch\"\n");
        using var open = File.OpenRead(Path.Combine(home, "Cloud/here"));
        using var other = System.Diagnostics.Process.Start(new System.Diagnostics.ProcessStartInfo(
            "tail", ["-f", Path.Combine(home, "Schreibtisch/note")])
        { RedirectStandardOutput = true })!;
        try
        {
            Inventory found;
            var began = System.Diagnostics.Stopwatch.StartNew();
            do found = new Survey(new(), ThreadWork.Here).Run(TreeRoot.Here(home), TestContext.Current.CancellationToken).Value;
            while (found.Computer.Running.Count == 0 && began.Elapsed < TimeSpan.FromSeconds(10));
            found.Computer.Places.Select(p => (p.Kind, p.Name, p.Path, p.Files, p.ByNameOnly)).ShouldBe([
                (PlaceKind.Folder, "Desktop", "Schreibtisch", new(1, 5), default), (
                    PlaceKind.Settings, "Other settings", ".config", new(1, found.Computer.Places[1].Files.Bytes), default),
                (PlaceKind.Cloud, "Folder kept in step with a cloud", "Cloud", new(3, 8 + (1 << 20)), Amount.File(1 << 20)),
                (PlaceKind.Clutter, "Caches", ".cache", new(1, 11), default),
                (PlaceKind.Unusual, "Other folder", "odd%0Aname", new(1, 3), default)]);
            found.Computer.Total.ShouldBe(found.Total);
            found.Computer.Running.ShouldBe([new("tail", 1)], "this program's own open file is not somebody else's");
        }
        finally
        {
            other.Kill();
            other.WaitForExit();
        }

        File.WriteAllText(
            home + ".computer.json", """{"programs":[{"name":"Berth Planner","version":"6.2","source":"shipped list"}],"running":[]}""");
        new Survey(new(), ThreadWork.Here)
            .Run(TreeRoot.Here(home), TestContext.Current.CancellationToken).Value.Computer.Programs
            .ShouldBe([new("Berth Planner", "6.2", "shipped list")]);
    }

    [Fact]
    public void Of_values_per_folder_each_path_finds_its_own()
    {
        var sums = new PerFolder<List<string>>();
        string[] paths = ["a/1", "a/2", "b/1", "beside", "a/3", "c/", "ab/1"];
        foreach (var path in paths) sums.Of(path).Add(path);
        sums.All.Select(a => (a.Key, string.Join(',', a.Value))).ShouldBe([
            (".", "beside"), ("a", "a/1,a/2,a/3"), ("ab", "ab/1"), ("b", "b/1"), ("c", "c/")
        ]);
    }
}
