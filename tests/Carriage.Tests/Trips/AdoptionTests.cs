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

    private static async Task<AdoptReport> AdoptAsync(Given given, string folder = "by hand") =>
        (await new Adoption(given.Depot, Given.Parcel, 4, new(), ThreadWork.Here)
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

    [Fact]
    public async Task A_copy_that_was_taken_in_is_a_parcel_that_is_restored_without_the_old_computer()
    {
        using var given = CopiedByHand();
        await AdoptAsync(given);
        Directory.Exists(Path.Combine(given["depot"], "by hand")).ShouldBeFalse();
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.TryRestoreAsync(given["alone"])).Value.IsWhole.ShouldBeTrue();
        File.ReadAllText(Path.Combine(given["alone"], "only here")).ShouldBe("x");
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
