using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class LandingTests
{
    private static LandingPlan Plan(
        Landing[]? moves = null, string[]? only = null, string[]? first = null, ClashRule clash = ClashRule.Beside,
        params FolderClash[] clashes) =>
        LandingPlan.Create(moves ?? [], only ?? [], first ?? [], clash, clashes).Value;

    private static string[] Files(string folder) =>
        [.. Run.Must("find", folder, "!", "-type", "d", "-printf", "%P\n")
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Order(StringComparer.Ordinal)];

    private static void Stand(Given given, string path, string text, DateTime? modified = null)
    {
        var at = Path.Combine(given.Target, path);
        Directory.CreateDirectory(Path.GetDirectoryName(at)!);
        File.WriteAllText(at, text);
        if (modified is { } when) File.SetLastWriteTimeUtc(at, when);
    }

    [Fact]
    public async Task An_account_lands_in_the_home_of_another_name_and_a_folder_where_it_is_told_to()
    {
        using var given = new Given();
        foreach (var path in new[] { "ida/Desktop/a", "ida/Documents/Old/b", "ida/Documents/c", "per/Desktop/d" }) given.Write(path, path);
        await given.CarryAsync();
        given.Landing = Plan([new("ida", "imoreau", MustStand: true), new("ida/Documents/Old", "imoreau/Archive/2019")]);
        (await given.TryRestoreAsync()).Problem.ShouldBeOfType<TargetUnusable>().Message
            .ShouldContain("Make the account on the new computer first");
        Files(given.Target).ShouldBeEmpty("nothing is restored before the account is there");
        Directory.CreateDirectory(Path.Combine(given.Target, "imoreau"));
        var foreseen = await given.ForeseeAsync();
        foreseen.Folders.Select(f => (f.Folder, f.To, f.New.Files)).ShouldBe([("ida", "imoreau", 3), ("per", "per", 1)]);
        var report = await given.RestoreAsync();
        report.IsWhole.ShouldBeTrue();
        Files(given.Target).ShouldBe(["imoreau/Archive/2019/b", "imoreau/Desktop/a", "imoreau/Documents/c", "per/Desktop/d"]);
        report.Folders.Select(f => (f.Folder, f.InDepot.Files, f.Restored.Files))
            .ShouldBe([("ida", 3, 3), ("per", 1, 1)], "the account goes by the folders of the old computer");
        (await given.RestoreAsync()).Folders.Sum(f => f.Stood.Files).ShouldBe(4, "once more finds all of it there");
    }

    [Fact]
    public async Task A_landing_never_leads_through_a_link_out_of_the_target()
    {
        using var given = new Given();
        given.Write("Documents/a", "a");
        await given.CarryAsync();
        Directory.CreateDirectory(given.Target);
        Directory.CreateDirectory(given["elsewhere"]);
        File.CreateSymbolicLink(Path.Combine(given.Target, "way"), given["elsewhere"]);
        given.Landing = Plan([new("Documents", "way/Documents")]);
        var report = await given.RestoreAsync();
        report.IsWhole.ShouldBeFalse();
        report.Folders.Single().Open.Files.ShouldBe(1);
        Files(given["elsewhere"]).ShouldBeEmpty();
    }

    [Theory]
    [InlineData(ClashRule.Beside, "theirs old", "theirs new", 3)]
    [InlineData(ClashRule.Stay, "theirs old", "theirs new", 0)]
    [InlineData(ClashRule.Newer, "ours", "theirs new", 0)]
    [InlineData(ClashRule.Ours, "ours", "ours", 0)]
    public async Task A_clash_ends_as_its_rule_says_and_the_preview_said_so_before(ClashRule rule, string old, string fresh, int beside)
    {
        using var given = new Given();
        foreach (var name in new[] { "older", "newer", "same", "free", "folder" }) given.Write($"D/{name}", "ours");
        File.CreateSymbolicLink(Path.Combine(given.Source, "D/link"), "older");
        await given.CarryAsync();
        Stand(given, "D/older", "theirs old", new(2020, 1, 1));
        Stand(given, "D/newer", "theirs new", DateTime.UtcNow.AddDays(1));
        Stand(given, "D/same", "ours");
        Stand(given, "D/folder/inside", "a folder is never given up for a file");
        given.Landing = Plan(clash: rule);
        var before = Files(given.Target);
        var foreseen = (await given.ForeseeAsync()).Folders.Single();
        Files(given.Target).ShouldBe(before, "it only looked");
        var report = await given.RestoreAsync();
        var folder = report.Folders.Single();
        (
            foreseen.New + foreseen.Replaced,
            foreseen.Stands,
            foreseen.Beside,
            foreseen.Stayed).ShouldBe((folder.Restored, folder.Stood, folder.Beside, folder.Stayed));
        (folder.Restored + folder.Stood + folder.Beside + folder.Stayed + folder.Open).ShouldBe(folder.InDepot);
        report.IsWhole.ShouldBeTrue();
        File.ReadAllText(Path.Combine(given.Target, "D/older")).ShouldBe(old);
        File.ReadAllText(Path.Combine(given.Target, "D/newer")).ShouldBe(fresh);
        File.ReadAllText(Path.Combine(given.Target, "D/free")).ShouldBe("ours");
        File.Exists(Path.Combine(given.Target, "D/folder/inside")).ShouldBeTrue();
        Files(given.Target).Count(f => f.Contains("(old computer)") && !f.StartsWith("D/folder", StringComparison.Ordinal))
            .ShouldBe(Math.Max(0, beside - 1));
        report.Clashes!.Count(c => c.Replaced).ShouldBe(rule == ClashRule.Ours ? 2 : rule == ClashRule.Newer ? 1 : 0);
        Files(given.Target).ShouldNotContain(f => f.Contains(".yardhand"));
    }

    [Fact]
    public async Task A_folder_may_have_a_clash_rule_of_its_own()
    {
        using var given = new Given();
        given.Write("A/x", "ours");
        given.Write("B/x", "ours");
        await given.CarryAsync();
        Stand(given, "A/x", "theirs");
        Stand(given, "B/x", "theirs");
        given.Landing = Plan(clash: ClashRule.Stay, clashes: new FolderClash("B", ClashRule.Ours));
        await given.RestoreAsync();
        (
            File.ReadAllText(Path.Combine(given.Target, "A/x")),
            File.ReadAllText(Path.Combine(given.Target, "B/x"))).ShouldBe(("theirs", "ours"));
    }

    [Fact]
    public async Task A_part_is_restored_alone_and_what_the_parcel_has_not_is_named()
    {
        using var given = new Given();
        foreach (var path in new[] { "Documents/a", "Documents/Old/b", "Music/c" }) given.Write(path, path);
        await given.CarryAsync();
        given.Landing = Plan(only: ["Documents/Old", "Muzic"]);
        var report = await given.RestoreAsync();
        (report.IsWhole, string.Join(',', report.NotInParcel!)).ShouldBe((false, "Muzic"));
        Files(given.Target).ShouldBe(["Documents/Old/b"]);
        given.Landing = Plan(only: ["Documents/a"]);
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        Files(given.Target).ShouldBe(["Documents/Old/b", "Documents/a"]);
    }

    [Theory, InlineData(21), InlineData(22), InlineData(23)]
    public async Task Whatever_comes_first_all_of_a_hostile_tree_is_there_in_the_end(int seed)
    {
        using var given = new Given();
        SampleTrees.MakeHostile(given.Source, seed, 120);
        // Several names of one file, spread over what comes first and what comes later.
        given.Write("z/one", "one file with three names");
        Directory.CreateDirectory(Path.Combine(given.Source, "a-later"));
        Run.Must("ln", Path.Combine(given.Source, "z/one"), Path.Combine(given.Source, "a-later/two"));
        Run.Must("ln", Path.Combine(given.Source, "z/one"), Path.Combine(given.Source, "z/three"));
        await given.CarryAsync();
        var folders = SampleTrees.Look(given.Source)
            .Where(f => f.Value[0] == 'd' && f.Key.Length > 0 && f.Key.All(char.IsAsciiLetterOrDigit))
            .Select(f => f.Key)
            .Where(f => f != "z")
            .Take(2);
        given.Landing = Plan(first: ["z", .. folders]);
        var report = await given.RestoreAsync();
        report.IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Theory]
    [InlineData(ClashRule.Beside)]
    [InlineData(ClashRule.Stay)]
    [InlineData(ClashRule.Newer)]
    [InlineData(ClashRule.Ours)]
    public async Task Two_places_that_land_on_one_another_keep_both_whatever_the_rule(ClashRule rule)
    {
        using var given = new Given();
        foreach (var path in new[] { "A/letter", "A/deep/log", "A/same", "A/name", "B/letter", "B/deep/log", "B/own", "B/name/x" })
            given.Write(path, "of " + path);
        given.Write("B/same", "of A/same");
        File.CreateSymbolicLink(Path.Combine(given.Source, "A/way"), "letter");
        File.CreateSymbolicLink(Path.Combine(given.Source, "B/way"), "own");
        await given.CarryAsync();
        foreach (var into in new[] { "B", "B/deep" })
            foreach (var first in new[] { Array.Empty<string>(), ["B"] })
            {
                if (Directory.Exists(given.Target)) Directory.Delete(given.Target, recursive: true);
                given.Landing = Plan([new("A", into)], first: first, clash: rule);
                var foreseen = await given.ForeseeAsync();
                var report = await given.RestoreAsync();
                report.IsWhole.ShouldBeTrue();
                // Of a file and a folder that meet, either may come first.
                report.Beside.Count(b => b.Path != "A/name" && !b.Path.EndsWith('/'))
                    .ShouldBe((int)foreseen.Folders.Sum(f => f.Beside.Files), "the preview said so before");
                var texts = Contents(given.Target);
                texts.Except(Contents(given.Source)).ShouldBeEmpty();
                Contents(given.Source).Except(texts).ShouldBeEmpty($"nothing is eaten: A in {into}, first {string.Join(", ", first)}");
                (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
                Contents(given.Target).ShouldBe(texts, "once more finds all of it there");
            }
    }

    private static string[] Contents(string folder) => [.. Files(folder)
        .Select(f => new FileInfo(Path.Combine(folder, f)))
        .Select(f => f.LinkTarget is { } to ? "to " + to : File.ReadAllText(f.FullName))
        .Order(StringComparer.Ordinal)];
}
