using System.Text.Json;
using YardRelay.Core.Carrying;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class CarryListTripTests
{
    private static CarryList List(params (string Path, string? Reason)[] rules) =>
        CarryList.Create(
            [.. rules.Select(r => new CarryRule(r.Path, r.Reason is null, r.Reason ?? "", "Ida"))],
            [new("*.tmp", "temporary files")],
            ["Pictures/Ships"],
            []).Value;

    private static void Fill(Given given)
    {
        foreach (var path in new[]
        {
            "Documents/a.txt",
            "Documents/b.tmp",
            "Downloads/x.iso",
            "Downloads/deep/y.iso",
            "Downloads/Keep/z.txt",
            "Pictures/Ships/db.tmp",
            "Pictures/c.jpg",
            "loose"
        })
            given.Write(path, path);
    }

    [Fact]
    public async Task A_line_that_finds_nothing_is_told_with_each_trip()
    {
        using var given = new Given();
        given.Write("Documents/letter.odt", "letter");
        given.Write("Documents/Old/note~", "old");
        given.CarryList = CarryList.Create(
            [new("Documents/Old", false, "not wanted", "kit"), new("Document/Private", false, "private", "kit")],
            [new("*~", "left by an editor"), new("*.bak", "copies")],
            [],
            ["Documents", "Desktop"]).Value;
        (await given.CarryAsync()).IdleLines.ShouldBe(
            ["Document/Private", "Desktop", "*~", "*.bak"], "what lies in Old stays by another line");
        given.Write("Documents/letter.odt~", "letter");
        (await given.CarryAsync()).IdleLines.ShouldBe(["Document/Private", "Desktop", "*.bak"]);
    }

    [Fact]
    public async Task Of_only_some_that_come_along_one_at_least_has_to_be_there()
    {
        using var given = new Given();
        Fill(given);
        given.CarryList = CarryList.Everything.Only(["Dokuments"]).Value;
        (await given.TryCarryAsync()).Problem.ShouldBeOfType<NothingChosen>().Message.ShouldContain("'Dokuments'");
        Directory.Exists(given.Bag).ShouldBeFalse();
        given.CarryList = CarryList.Everything.Only(["Dokuments", "Pictures"]).Value;
        var trip = await given.CarryAsync();
        (trip.Carried.Files, trip.IdleLines.Single()).ShouldBe((2, "Dokuments"));
    }

    [Fact]
    public async Task A_removable_disk_is_carried_where_it_bears_its_label_which_stays_there_itself()
    {
        using var given = new Given { SourceLabel = "KB disk 3" };
        given.Write("letter", "a letter");
        (await given.TryCarryAsync()).Problem.Message.ShouldContain("no disk labelled 'KB disk 3' is there");
        Directory.Exists(given.Bag).ShouldBeFalse();
        FolderDepot.Label(TreeRoot.Here(given.Source), "KB disk 3").ShouldBeNull();
        var trip = await given.CarryAsync();
        (trip.Carried.Files, trip.LeftOut.Files, trip.IsWhole).ShouldBe((1, 1, true));
        given.Write(FolderDepot.LabelFile, "KB disk 4\n");
        (await given.TryCarryAsync()).Problem.Message.ShouldContain("labelled 'KB disk 4', not 'KB disk 3'");
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task Without_a_list_what_a_survey_calls_clutter_stays_with_the_same_words_and_counts(bool seals)
    {
        using var given = new Given { Seals = seals, Places = PlaceRules.Standard };
        foreach (var path in new[]
        {
            "Documents/a", ".cache/thumbs/b", ".cache/c", ".mozilla/firefox/x.default/prefs.js", ".mozilla/firefox/x.default/cache2/d",
            ".thunderbird/y.default/prefs.js", ".thunderbird/y.default/startupCache/e", ".local/share/Trash/files/f",
            "OneDrive/only here"
        })
            given.Write(path, path);
        var found = new Survey(new(), ThreadWork.Here).Run(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken).Value;
        var trip = await given.CarryAsync();
        trip.Reasons!.Select(r => (r.Reason, r.Files)).ShouldBe(
            found.Computer.Places.Where(p => p.IsLeftOut).Select(p => ($"{p.Name}: {p.Proof}", p.Files))
                .OrderBy(p => p.Item1, StringComparer.Ordinal));
        (trip.LeftOut.Files, trip.Carried.Files, trip.IsWhole).ShouldBe((4, 5, true), "what is in a library or a cloud comes with it");
        // A new cache stays, too, and nothing is carried anew.
        given.Write(".cache/new", "x");
        trip = await given.CarryAsync();
        (trip.LeftOut.Files, trip.Added.Files).ShouldBe((5, 0));
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        Directory.Exists(Path.Combine(given.Target, ".cache")).ShouldBeFalse();
        File.Exists(Path.Combine(given.Target, "OneDrive/only here")).ShouldBeTrue();
    }

    [Fact]
    public async Task What_is_left_out_is_counted_by_folder_and_reason_and_the_sum_holds()
    {
        using var given = new Given();
        Fill(given);
        given.CarryList = List(("Downloads", "not needed, says Ida"), ("Downloads/Keep", null), ("loose", "old"));
        var report = await given.CarryAsync();
        report.IsWhole.ShouldBeTrue();
        foreach (var folder in report.Folders) (folder.Carried + folder.LeftOut + folder.Open).ShouldBe(folder.Seen, folder.Folder);
        report.Folders.Select(f => (f.Folder, f.Seen.Files, f.Carried.Files, f.LeftOut.Files))
            .ShouldBe([(".", 1, 0, 1), ("Documents", 2, 1, 1), ("Downloads", 3, 1, 2), ("Pictures", 2, 2, 0)]);
        report.Reasons!.Select(r => (r.Reason, r.Files)).ShouldBe([
            ("not needed, says Ida", new Amount(2, "Downloads/x.iso".Length + "Downloads/deep/y.iso".Length)),
            ("old", Amount.File(5)),
            ("temporary files", Amount.File("Documents/b.tmp".Length))
        ]);
        Run.Must("find", Path.Combine(given.Bag, "data"), "-type", "f", "-printf", "%P\n")
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Order(StringComparer.Ordinal)
            .ShouldBe(["Documents/a.txt", "Downloads/Keep/z.txt", "Pictures/Ships/db.tmp", "Pictures/c.jpg"]);
        // The parcel itself can tell what stayed and why.
        JsonDocument.Parse(File.ReadAllText(Path.Combine(given.Bag, "yard/account.json"))).RootElement
            .GetProperty("leftOut").GetArrayLength()
            .ShouldBe(3);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        var restored = await given.RestoreAsync();
        restored.IsWhole.ShouldBeTrue();
        Directory.Exists(Path.Combine(given.Target, "Downloads/deep")).ShouldBeFalse();
        File.ReadAllText(Path.Combine(given.Target, "Downloads/Keep/z.txt")).ShouldBe("Downloads/Keep/z.txt");
    }

    [Fact]
    public async Task A_decision_may_change_between_trips_either_way()
    {
        using var given = new Given();
        Fill(given);
        await given.CarryAsync();
        given.CarryList = List(("Downloads", "not needed"));
        var second = await given.CarryAsync();
        var downloads = second.Folders.Single(f => f.Folder == "Downloads");
        (
            downloads.Seen.Files,
            downloads.Carried.Files,
            downloads.LeftOut.Files,
            downloads.Gone.Files).ShouldBe((3, 0, 3, 3), "what the parcel has of it stays there, counted apart");
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.CarryAsync()).Folders.Single(f => f.Folder == "Downloads").ShouldBe(downloads, "the same list again changes nothing");
        await given.RestoreAsync();
        Directory.Exists(Path.Combine(given.Target, "Downloads")).ShouldBeFalse("what was left out since is not restored");
        given.CarryList = CarryList.Everything;
        var third = await given.CarryAsync();
        third.Folders.Single(f => f.Folder == "Downloads").Carried.Files.ShouldBe(3);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        Directory.Delete(given.Target, recursive: true);
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_folder_that_stays_may_be_shut_and_is_no_snag()
    {
        using var given = new Given();
        Fill(given);
        Run.Must("mkfifo", Path.Combine(given.Source, "Downloads/pipe"));
        (await given.CarryAsync()).Snags.Count.ShouldBe(1);
        given.CarryList = List(("Downloads", "not needed"));
        var report = await given.CarryAsync();
        report.Snags.ShouldBeEmpty();
        report.Folders.Single(f => f.Folder == "Downloads").LeftOut.Files.ShouldBe(4);
    }

    [Theory, InlineData(11), InlineData(12), InlineData(13)]
    public async Task A_hostile_tree_is_accounted_for_under_any_list(int seed)
    {
        using var given = new Given();
        SampleTrees.MakeHostile(given.Source, seed, 120);
        var random = new Random(seed);
        var all = SampleTrees.Look(given.Source).Keys.Where(k => k.Length > 0 && !k.Any(char.IsControl) && k.All(char.IsAscii)).ToList();
        CarryRule Rule(int i) => new(all[random.Next(all.Count)].Trim('/'), random.Next(3) == 0, "why", "");
        given.CarryList = CarryList.Create(
            [.. Enumerable.Range(0, 12).Select(Rule).DistinctBy(r => r.Path).Where(r => CarryList.Create([r], [], [], []).IsOk)],
            [new("*e*", "by its name")],
            [],
            []).Value;
        var report = await given.CarryAsync();
        report.LeftOut.Files.ShouldBeGreaterThan(0);
        foreach (var folder in report.Folders) (folder.Carried + folder.LeftOut + folder.Open).ShouldBe(folder.Seen, folder.Folder);
        report.Seen.Files.ShouldBe(SampleTrees.Look(given.Source).Values.Count(v => v[0] != 'd'));
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        var restored = await given.RestoreAsync();
        restored.IsWhole.ShouldBeTrue();
        restored.Folders.Sum(f => f.InDepot.Files).ShouldBe(report.Carried.Files);
    }
}
