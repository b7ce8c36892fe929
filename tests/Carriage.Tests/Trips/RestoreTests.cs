using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class RestoreTests
{
    [Fact]
    public async Task Two_names_of_one_link_are_two_names_of_one_link_again_however_often_it_is_restored()
    {
        using var given = new Given();
        given.Write("a.txt", "a");
        File.CreateSymbolicLink(Path.Combine(given.Source, "first"), "a.txt");
        Run.Must("ln", Path.Combine(given.Source, "first"), Path.Combine(given.Source, "second"));
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.CarryAsync()).Added.Files.ShouldBe(0, "nothing changed");
        for (var run = 0; run < 2; run++)
        {
            var report = await given.RestoreAsync();
            (report.IsWhole, report.Beside.Count).ShouldBe((true, 0));
            Inode("second").ShouldBe(Inode("first"));
            new FileInfo(Path.Combine(given.Target, "second")).LinkTarget.ShouldBe("a.txt");
        }

        string Inode(string name) => Run.To("stat", "-c", "%i", Path.Combine(given.Target, name)).Out;
    }

    [Fact]
    public async Task Of_two_restores_into_one_place_the_second_is_refused_and_the_first_is_whole()
    {
        using var given = new Given();
        for (var i = 0; i < 9; i++) given.Write($"{i}.txt", $"{i}");
        await given.CarryAsync();
        var (plain, second) = (given.Depot, (Task<Result<RestoreReport>>?)null);
        given.Depot = new DepotThat(plain)
        {
            BeforeOpen = path =>
            {
                if (second is not null || !path.Contains("/data/", StringComparison.Ordinal)) return;
                var other = new Restore(plain, Given.Parcel, 4, new(), ThreadWork.Here, LandingPlan.Original, given.Keys);
                second = other.RunAsync(TreeRoot.Here(given.Target), TestContext.Current.CancellationToken);
                second.GetAwaiter().GetResult();
            }
        };

        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();

        (await second!).Problem.ShouldBeOfType<TargetBusy>();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        given.Depot = plain;
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue("once it is over, the place is free");
    }

    [Fact]
    public async Task What_stands_stays_untouched_and_a_clash_is_kept_beside_also_when_restored_again()
    {
        using var given = new Given();
        given.Write("Documents/letter.txt", "from the old computer");
        given.Write("Documents/same.txt", "same");
        given.Write("Music/song.ogg", "song");
        File.CreateSymbolicLink(Path.Combine(given.Source, "way"), "Documents");
        await given.CarryAsync();
        Directory.CreateDirectory(Path.Combine(given.Target, "Documents"));
        File.WriteAllText(Path.Combine(given.Target, "Documents/letter.txt"), "stands here");
        File.WriteAllText(Path.Combine(given.Target, "Documents/same.txt"), "same");
        File.WriteAllText(Path.Combine(given.Target, "Music"), "a file where a folder should be");
        File.WriteAllText(Path.Combine(given.Target, "way"), "a file where a link should be");
        var before = SampleTrees.Look(given.Target);
        for (var round = 0; round < 2; round++)
        {
            var report = await given.RestoreAsync();
            report.IsWhole.ShouldBeTrue();
            report.Folders.ShouldAllBe(f => f.InDepot == f.Restored + f.Stood + f.Beside + f.Open);
            report.Beside.Select(b => (b.Path, b.As)).ShouldBe(
                [("Documents/letter.txt", "letter (old computer).txt"), ("Music/", "Music (old computer)"), ("way", "way (old computer)")],
                ignoreOrder: true);
            var after = SampleTrees.Look(given.Target);
            foreach (var name in new[] { "", "Documents/letter.txt", "Documents/same.txt", "Music", "way" })
                after[name].ShouldBe(before[name]);
            File.ReadAllText(Path.Combine(given.Target, "Documents/letter (old computer).txt")).ShouldBe("from the old computer");
            File.ReadAllText(Path.Combine(given.Target, "Music (old computer)/song.ogg")).ShouldBe("song");
            after.Keys.ShouldNotContain(k => k.Contains(".yardhand"));
            after.Count.ShouldBe(10);
        }
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task Killed_between_clearing_up_and_setting_the_roots_time_it_still_sets_it(bool stood)
    {
        using var given = new Given();
        given.Write("a.txt", "a");
        File.SetLastWriteTimeUtc(given.Source, new(2020, 2, 2, 2, 2, 2, DateTimeKind.Utc));
        await given.CarryAsync();
        Directory.CreateDirectory(given.Target);
        if (stood) File.WriteAllText(Path.Combine(given.Target, "b.txt"), "b");
        File.SetLastWriteTimeUtc(given.Target, new(2019, 1, 1, 1, 1, 1, DateTimeKind.Utc));
        using var stop = new CancellationTokenSource();
        var stops = new DepotThat(given.Depot)
        {
            BeforeOpen = path => { if (path.EndsWith("/data/a.txt", StringComparison.Ordinal)) stop.Cancel(); }
        };
        await Should.ThrowAsync<OperationCanceledException>(new Restore(stops, Given.Parcel, 1, new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Target), stop.Token));
        // What a kill leaves right after our folder has gone.
        Directory.Delete(Directory.GetDirectories(given.Target, ".yardhand-*").ShouldHaveSingleItem(), recursive: true);
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        File.ReadAllText(Path.Combine(given.Target, "a.txt")).ShouldBe("a");
        Directory.GetLastWriteTimeUtc(given.Target).Year.ShouldBe(stood ? 2019 : 2020);
        Run.Must("getfattr", "-d", "-m", "-", given.Target).ShouldBeEmpty();
    }

    /// <summary>Restored once; then the person works on, and the old computer brings something more.</summary>
    private static async Task<Given> WorkedOnAsync()
    {
        var given = new Given();
        foreach (var name in new[] { "Documents/a.txt", "Documents/b.txt", "Mail/box" }) given.Write(name, "first " + name);
        await given.CarryAsync();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        File.WriteAllText(Path.Combine(given.Target, "Documents/a.txt"), "worked on at the new computer");
        File.Delete(Path.Combine(given.Target, "Mail/box"));
        given.Write("Documents/b.txt", "changed at the old computer");
        given.Write("Pictures/new.jpg", "new");
        await given.CarryAsync();
        return given;
    }

    [Fact]
    public async Task A_restore_after_a_later_trip_brings_what_is_new_and_keeps_what_the_person_did_meanwhile()
    {
        using var given = await WorkedOnAsync();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        foreach (var (name, content) in new[]
        {
            ("Documents/a.txt", "worked on at the new computer"),
            ("Documents/a (old computer).txt", "first Documents/a.txt"),
            ("Documents/b.txt", "first Documents/b.txt"),
            ("Documents/b (old computer).txt", "changed at the old computer"),
            ("Mail/box", "first Mail/box"),
            ("Pictures/new.jpg", "new")
        })
            File.ReadAllText(Path.Combine(given.Target, name)).ShouldBe(content, name);
    }

    [Fact]
    public async Task A_restore_counts_what_came_what_stood_and_what_lies_beside()
    {
        using var given = await WorkedOnAsync();
        (await given.RestoreAsync()).Folders.Select(f => (f.Folder, f.Restored.Files, f.Stood.Files, f.Beside.Files))
            .ShouldBe([("Documents", 0, 0, 2), ("Mail", 1, 0, 0), ("Pictures", 1, 0, 0)]);
    }

    [Fact]
    public async Task A_restore_that_is_run_again_changes_nothing_what_lies_beside_is_known_again()
    {
        using var given = await WorkedOnAsync();
        await given.RestoreAsync();
        var before = SampleTrees.Look(given.Target);
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Look(given.Target).ShouldBe(before);
    }

    [Fact]
    public async Task Nothing_is_written_through_a_link_that_stands_in_the_target()
    {
        using var given = new Given();
        using var outside = new TempFolder();
        given.Write("Documents/letter.txt", "letter");
        await given.CarryAsync();
        Directory.CreateDirectory(given.Target);
        File.CreateSymbolicLink(Path.Combine(given.Target, "Documents"), outside.At);
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        Directory.GetFileSystemEntries(outside.At).ShouldBeEmpty();
        File.ReadAllText(Path.Combine(given.Target, "Documents (old computer)/letter.txt")).ShouldBe("letter");
    }

    [Theory]
    [InlineData("{\"path\":\"../out.txt\",\"kind\":\"file\",", "")]
    [InlineData("{\"path\":\"/tmp/out.txt\",\"kind\":\"file\",", "")]
    [InlineData("{\"path\":\"in.txt\",\"name\":\"../out.txt\",\"kind\":\"file\",", "")]
    [InlineData(
        "{\"path\":\"door/out.txt\",\"kind\":\"file\",",
        "{\"path\":\"door\",\"kind\":\"link\",\"target\":\"OUTSIDE\",\"mode\":\"0777\",\"modified\":\"1.000000000\"}\n")]
    public async Task A_parcel_made_by_hand_that_points_outside_its_folder_writes_nothing_there(string entry, string before)
    {
        using var given = new Given();
        using var outside = new TempFolder();
        given.Write("good.txt", "good");
        await given.CarryAsync();
        var entries = Path.Combine(given.Bag, "yard/entries.jsonl");
        File.AppendAllText(
            entries,
            before.Replace("OUTSIDE", outside.At, StringComparison.Ordinal) + entry
                + $"\"mode\":\"0644\",\"modified\":\"1.000000000\",\"bytes\":4,\"sha256\":\""
                + $"{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData("evil"u8))}\"}}\n");
        foreach (var name in new[] { "in.txt", "door/out.txt", "../out.txt" })
        {
            var at = Path.Combine(given.Bag, "data", name);
            Directory.CreateDirectory(Path.GetDirectoryName(at)!);
            File.WriteAllText(at, "evil");
        }
        var report = await given.RestoreAsync();
        (await given.VerifyAsync()).IsWhole.ShouldBeFalse();
        Directory.GetFileSystemEntries(outside.At).ShouldBeEmpty();
        File.Exists(given["out.txt"]).ShouldBeFalse();
        File.Exists("/tmp/out.txt").ShouldBeFalse();
        File.ReadAllText(Path.Combine(given.Target, "good.txt")).ShouldBe("good");
        if (before.Length == 0) report.IsWhole.ShouldBeFalse();
    }

    [Fact]
    public async Task A_manifest_that_names_a_tag_file_or_leaves_the_bag_is_wrong()
    {
        using var given = new Given();
        given.Write("good.txt", "good");
        await given.CarryAsync();
        foreach (var line in new[] { "bagit.txt", "data/../yard/parcel.json", "/etc/passwd", "../x" })
        {
            var manifest = Path.Combine(given.Bag, "manifest-sha256.txt");
            var whole = File.ReadAllText(manifest);
            File.AppendAllText(manifest, $"{new string('a', 64)}  {line}\n");
            (await given.VerifyAsync()).Damages.ShouldContain(
                d => d.Kind == DamageKind.Wrong && d.Path == "manifest-sha256.txt" && d.Reason.Contains("data/"), line);
            File.WriteAllText(manifest, whole);
        }
    }

    [Fact]
    public async Task A_file_that_the_depot_no_longer_gives_back_is_damage_and_no_half_of_it_lands()
    {
        using var given = new Given();
        given.Write("Documents/a.txt", "aaaa");
        given.Write("Documents/b.txt", "bbbb");
        await given.CarryAsync();
        File.WriteAllText(Path.Combine(given.Bag, "data/Documents/a.txt"), "AAAA");
        var report = await given.RestoreAsync();
        report.Damages.ShouldBe([new Damage(DamageKind.Changed, "data/Documents/a.txt", "Its content is not what was staged.")]);
        report.Folders.Single(f => f.Folder == "Documents").Open.ShouldBe(new Amount(1, 4));
        Directory.GetFiles(given.Target, "*", SearchOption.AllDirectories).ShouldBe([Path.Combine(given.Target, "Documents/b.txt")]);
    }

    [Fact]
    public async Task A_file_deleted_at_the_source_is_not_restored()
    {
        using var given = new Given();
        given.Write("a.txt", "a");
        given.Write("b.txt", "b");
        await given.CarryAsync();
        File.Delete(Path.Combine(given.Source, "a.txt"));
        await given.CarryAsync();
        await given.RestoreAsync();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }
}
