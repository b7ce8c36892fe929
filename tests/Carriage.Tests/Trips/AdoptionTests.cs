using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Trips;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class AdoptionTests
{
    private static void Copy(Given given, string at, params string[] names)
    {
        foreach (var name in names)
        {
            var to = Path.Combine(given["depot"], at, name);
            Directory.CreateDirectory(Path.GetDirectoryName(to)!);
            File.Copy(Path.Combine(given.Source, name), to);
        }
    }

    private static async Task<AdoptReport> AdoptAsync(Given given, string folder = "by hand", bool moves = false) =>
        (await new Adoption(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here, moves)
            .RunAsync(DepotPath.Of(folder), TreeRoot.Here(given.Source), TestContext.Current.CancellationToken)).Value;

    /// <summary>Six files at the old computer, four of them copied by hand: one half, one of the same length with another content; and
    /// one that is only in the copy.</summary>
    private static Given CopiedByHand()
    {
        var given = new Given();
        foreach (var name in new[]
        {
            "Documents/a.txt", "Documents/b.txt", "Documents/ü/c.txt", "Pictures/p.jpg", "Pictures/q.jpg", "note"
        })
            given.Write(name, "content of " + name);
        File.SetLastWriteTimeUtc(Path.Combine(given.Source, "Documents/a.txt"), new DateTime(2015, 5, 5, 5, 5, 5, DateTimeKind.Utc));
        Copy(given, "by hand", "Documents/a.txt", "Documents/b.txt", "Documents/ü/c.txt", "Pictures/p.jpg");
        File.WriteAllText(Path.Combine(given["depot"], "by hand/Documents/b.txt"), "half of");
        File.WriteAllText(Path.Combine(given["depot"], "by hand/Pictures/p.jpg"), "CONTENT of Pictures/p.jpg");
        File.WriteAllText(Path.Combine(given["depot"], "by hand/only here"), "x");
        Directory.CreateDirectory(Path.Combine(given["depot"], "by hand/empty"));
        return given;
    }

    [Fact]
    public async Task A_copy_made_by_hand_is_set_against_the_old_computer_folder_by_folder()
    {
        using var given = CopiedByHand();
        var report = await AdoptAsync(given);
        (report.IsWhole, report.Taken.Files).ShouldBe((false, 5));
        report.Folders!.Select(f => (f.Folder, f.There.Files, f.Differs.Files, f.Missing.Files, f.Extra.Files))
            .ShouldBe([(".", 0, 0, 1, 1), ("Documents", 2, 1, 0, 0), ("Pictures", 1, 0, 1, 0)]);
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task A_copy_that_was_taken_in_is_a_parcel_that_is_restored_without_the_old_computer(bool moves)
    {
        using var given = CopiedByHand();
        var report = await AdoptAsync(given, moves: moves);
        (report.Copied is null).ShouldBe(moves);
        Directory.Exists(Path.Combine(given["depot"], "by hand")).ShouldBe(!moves, "only what is moved is gone where it stood");
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.TryRestoreAsync(given["alone"])).Value.IsWhole.ShouldBeTrue();
        File.ReadAllText(Path.Combine(given["alone"], "only here")).ShouldBe("x");
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task What_was_taken_in_comes_back_with_the_times_and_modes_that_it_had(bool moves)
    {
        using var given = CopiedByHand();
        var file = Path.Combine(given["depot"], "by hand/Documents/a.txt");
        var time = new DateTime(2014, 4, 4, 4, 4, 4, DateTimeKind.Utc);
        File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserExecute | UnixFileMode.GroupRead);
        File.SetLastWriteTimeUtc(file, time);
        Directory.SetLastWriteTimeUtc(Path.Combine(given["depot"], "by hand/empty"), time);
        await AdoptAsync(given, moves: moves);
        await given.TryRestoreAsync(given["alone"]);
        var back = Path.Combine(given["alone"], "Documents/a.txt");
        (File.GetLastWriteTimeUtc(back), Directory.GetLastWriteTimeUtc(Path.Combine(given["alone"], "empty"))).ShouldBe((time, time));
        File.GetUnixFileMode(back).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserExecute | UnixFileMode.GroupRead);
    }

    [Fact]
    public async Task Of_a_disk_whose_folders_lie_at_its_top_all_is_taken_but_parcels_and_what_is_the_systems()
    {
        using var given = CopiedByHand();
        foreach (var folder in Directory.GetDirectories(Path.Combine(given["depot"], "by hand")))
            Directory.Move(folder, Path.Combine(given["depot"], Path.GetFileName(folder)));
        Directory.CreateDirectory(Path.Combine(given["depot"], "lost+found"));
        await File.WriteAllTextAsync(Path.Combine(given["depot"], "lost+found/x"), "x", TestContext.Current.CancellationToken);
        await new Trip(given.Depot, DepotPath.Of("sol"), new(), new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken);

        var report = await AdoptAsync(given, "");

        report.Taken.Files.ShouldBe(5);
        report.Parcels.ShouldBe(["sol"]);
        report.Folders!.Select(f => (f.Folder, f.There.Files)).ShouldBe([(".", 0), ("Documents", 2), ("Pictures", 1), ("by hand", 0)]);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await new Adoption(given.Depot, DepotPath.Of("new"), 4, new(), ThreadWork.Here, moves: true)
            .RunAsync(DepotPath.Root, null, TestContext.Current.CancellationToken)).Problem.Code.ShouldBe("adopt.top");
    }

    [Fact]
    public async Task What_was_copied_before_it_broke_off_is_never_lost_though_the_folder_is_gone_since()
    {
        using var given = CopiedByHand();
        var whole = given.Depot;
        given.Depot = new DepotThat(whole)
        {
            BeforeSave = path =>
            {
                if (path.EndsWith("only here", StringComparison.Ordinal)) throw new DepotUnreachableException("x", "gone.");
            }
        };
        await Should.ThrowAsync<DepotUnreachableException>(() => AdoptAsync(given));
        given.Depot = whole;
        var kept = Path.Combine(given.Bag, "data/Documents/a.txt");
        File.Exists(kept).ShouldBeTrue();
        File.Delete(Path.Combine(given["depot"], "by hand/Documents/a.txt"));

        var report = await AdoptAsync(given);

        report.Snags.ShouldHaveSingleItem().Path.ShouldBe("Documents/a.txt");
        (report.IsWhole, File.Exists(kept)).ShouldBe((false, true));
    }

    [Fact]
    public async Task A_folder_that_is_gone_when_its_adoption_is_run_again_takes_nothing_out_of_the_parcel()
    {
        using var given = CopiedByHand();
        var (whole, saves) = (given.Depot, 0);
        given.Depot = new DepotThat(whole)
        {
            BeforeSave = path =>
            {
                if (path.Contains("/data/", StringComparison.Ordinal) && saves++ == 2) throw new DepotUnreachableException("x", "gone.");
            }
        };
        await Should.ThrowAsync<DepotUnreachableException>(() => AdoptAsync(given));
        given.Depot = whole;
        var kept = Directory.GetFiles(Path.Combine(given.Bag, "data"), "*", SearchOption.AllDirectories);
        Directory.Delete(Path.Combine(given["depot"], "by hand"), recursive: true);
        (await new Adoption(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here)
            .RunAsync(DepotPath.Of("by hand"), null, TestContext.Current.CancellationToken)).Problem.Code.ShouldBe("adopt.nothing");
        Directory.GetFiles(Path.Combine(given.Bag, "data"), "*", SearchOption.AllDirectories).ShouldBe(kept, ignoreOrder: true);
    }

    [Fact]
    public async Task What_there_is_no_room_to_copy_is_said_before_anything_is_written()
    {
        using var given = CopiedByHand();
        var whole = given.Depot;
        given.Depot = new DepotThat(whole) { Room = new(20, null) };
        var refused = await new Adoption(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here)
            .RunAsync(DepotPath.Of("by hand"), null, TestContext.Current.CancellationToken);
        (refused.Problem.Code, Directory.Exists(given.Bag)).ShouldBe(("adopt.room", false));
    }

    [Fact]
    public async Task A_trip_brings_just_what_the_copy_lacks_and_sees_another_content_of_the_same_length()
    {
        using var given = CopiedByHand();
        await AdoptAsync(given);
        var trip = await given.CarryAsync();
        (trip.Added.Files, trip.Kept.Files, trip.Folders.Sum(f => f.Gone.Files), trip.IsWhole).ShouldBe((4, 2, 1, true));
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        await Task.Delay(80, TestContext.Current.CancellationToken);
        await given.CarryAsync();
        (await given.CarryAsync()).Added.Files.ShouldBe(0);
    }

    [Fact]
    public async Task A_copy_that_lies_one_folder_too_deep_is_told_and_put_right_by_the_next_trip()
    {
        using var given = new Given();
        foreach (var name in new[] { "Documents/a.txt", "Pictures/p.jpg" }) given.Write(name, name);
        Copy(given, "by hand/ida", "Documents/a.txt", "Pictures/p.jpg");
        var report = await AdoptAsync(given);
        report.TooDeep.ShouldBe([new TooDeep("ida", new(2, 29))]);
        report.IsWhole.ShouldBeFalse();
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Theory, InlineData("folder"), InlineData("cloud")]
    public async Task An_adoption_that_broke_off_at_any_save_goes_on_and_a_parcel_that_stands_is_left_alone(string kind)
    {
        for (var breaks = 0; breaks < 7; breaks++)
        {
            using var given = new Given();
            using var folder = new TempFolder();
            await using var cloud = kind == "cloud" ? await CloudShare.StartAsync(new() { Folder = given["depot"] }) : null;
            if (cloud is not null) given.Depot = new WebDavDepot(new(cloud.Address), new());
            for (var i = 0; i < 9; i++) given.Write($"d/{i}", $"{i}");
            Copy(given, "by hand", [.. Enumerable.Range(0, 9).Select(i => $"d/{i}")]);
            var (whole, left) = (given.Depot, breaks);
            given.Depot = new DepotThat(whole)
            {
                BeforeSave = path =>
                {
                    if (!path.Contains("/lock", StringComparison.Ordinal) && left-- == 0) throw new DepotUnreachableException("x", "gone.");
                }
            };
            await Should.ThrowAsync<DepotUnreachableException>(() => AdoptAsync(given));
            given.Depot = whole;
            (await AdoptAsync(given)).IsWhole.ShouldBeTrue($"after {breaks} saves");
            (await given.VerifyAsync()).Damages.ShouldBeEmpty();
            (await new Adoption(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here)
                .RunAsync(DepotPath.Of("by hand"), null, TestContext.Current.CancellationToken)).Problem.Code
                .ShouldBe("adopt.stands");
        }
    }
}
