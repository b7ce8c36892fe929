using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Trips;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>
/// A parcel over weeks: the tree changes between trips, trips break off, and each whole trip leaves what stands at the source.
/// </summary>
public sealed class ManyTripsTests
{
    /// <summary>A few seeds each time; more when asked for: <c>YARD_SEEDS=500</c>.</summary>
    public static IEnumerable<TheoryDataRow<int, bool>> Seeds =>
        Peers.Seeds.Of(5).SelectMany(s => new[] { new TheoryDataRow<int, bool>(s, false), new TheoryDataRow<int, bool>(s, true) });

    [Theory, MemberData(nameof(Seeds))]
    public async Task After_any_changes_and_trips_that_broke_off_the_parcel_gives_back_just_what_stands_at_the_source(int seed, bool seals)
    {
        using var given = new Given { Seals = seals, Answers = true };
        var random = new Random(seed);
        var tree = new LivingTree(given.Source, seed);
        var whole = given.Depot;
        tree.Change(60);
        for (var round = 0; round < 7; round++)
        {
            tree.Note($"round {round}");
            tree.Change(random.Next(1, 25));
            if (random.Next(2) == 0)
            {
                var left = random.Next(1, 12);
                given.Depot = new DepotThat(whole)
                {
                    BeforeSave = _ => { if (Interlocked.Decrement(ref left) < 0) throw new DepotUnreachableException("x", "gone."); }
                };
                tree.Note("a trip breaks off");
                await Should.ThrowAsync<DepotUnreachableException>(given.TryCarryAsync);
                given.Depot = whole;
                if (random.Next(2) == 0) tree.Change(5);
            }
            var report = await given.CarryAsync();
            report.Snags.ShouldBeEmpty(tree.Story);
            report.Seen.Files.ShouldBe(SampleTrees.Look(given.Source).Values.Count(v => v[0] != 'd'), tree.Story);
            (report.Added + report.Kept).ShouldBe(report.Carried, tree.Story);
            (await given.VerifyAsync()).Damages.ShouldBeEmpty(tree.Story);
            var target = given[$"target{round}"];
            (await given.TryRestoreAsync(target)).Value.IsWhole.ShouldBeTrue(tree.Story);
            SampleTrees.Differences(given.Source, target).ShouldBeEmpty(tree.Story);
        }
    }

    [Theory, InlineData("cloud"), InlineData("apache"), InlineData("samba")]
    public async Task What_changes_its_kind_makes_way_on_a_share_too_and_what_was_deleted_stays_in_the_parcel(string kind)
    {
        using var given = new Given();
        using var folder = new TempFolder();
        await using var cloud = kind == "cloud" ? await CloudShare.StartAsync(new() { Folder = folder.At }) : null;
        using var apache = kind == "apache" ? new ApacheShare() : null;
        using var samba = kind == "samba" ? new SmbShare() : null;
        given.Depot = samba is not null
            ? new YardRelay.Carriage.Depots.Folders.FolderDepot(TreeRoot.Here(samba.Folder))
            : new WebDavDepot(new(cloud?.Address ?? apache!.Address), new());
        foreach (var name in new[] { "odd %41 a*b:c?.", "notes", "notes-old", "photos/2019/a.jpg", "photos/b.jpg", "way" })
            given.Write(name, name);
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        foreach (var file in new[] { "notes", "way" }) File.Delete(Path.Combine(given.Source, file));
        Directory.Delete(Path.Combine(given.Source, "photos"), recursive: true);
        given.Write("notes/today.txt", "today");
        given.Write("photos", "a list of photos");
        File.CreateSymbolicLink(Path.Combine(given.Source, "way"), "notes");
        var report = await given.CarryAsync();
        report.IsWhole.ShouldBeTrue();
        report.Folders.Sum(f => f.Gone.Files).ShouldBe(4);
        (report.Added + report.Kept).ShouldBe(report.Carried);
        var verified = await given.VerifyAsync();
        verified.Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        (await given.CarryAsync()).Folders.Sum(f => f.Gone.Files).ShouldBe(4);
    }

    [Fact]
    public async Task A_trip_with_nothing_new_reads_no_file_again_and_leaves_entries_and_manifest_as_they_are()
    {
        using var given = new Given();
        new LivingTree(given.Source, 99).Change(200);
        await given.CarryAsync();
        await Task.Delay(80, TestContext.Current.CancellationToken);
        await given.CarryAsync();
        string[] kept = ["manifest-sha256.txt", "yard/entries.jsonl"];
        var before = kept.Select(k =>
            (File.ReadAllText(Path.Combine(given.Bag, k)), File.GetLastWriteTimeUtc(Path.Combine(given.Bag, k)))).ToList();
        var saved = new List<string>();
        var depot = given.Depot;
        given.Depot = new DepotThat(depot) { BeforeSave = path => { lock (saved) saved.Add(path); } };
        var report = await given.CarryAsync();
        (report.Added.Files, report.Kept).ShouldBe((0, report.Carried));
        saved.ShouldNotContain(s => s.StartsWith("ida/data", StringComparison.Ordinal));
        kept.Select(k => (File.ReadAllText(Path.Combine(given.Bag, k)), File.GetLastWriteTimeUtc(Path.Combine(given.Bag, k))))
            .ShouldBe(before);
        given.Depot = depot;
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_trip_that_is_stopped_says_so_keeps_what_it_staged_and_frees_the_parcel()
    {
        using var given = new Given();
        for (var i = 0; i < 200; i++) given.Write($"Pictures/{i:000}", new string('x', 9000));
        using var stop = new CancellationTokenSource();
        var saves = 0;
        var depot = given.Depot;
        given.Depot = new DepotThat(depot)
        {
            BeforeSave = path =>
            {
                if (path.Contains("/data/", StringComparison.Ordinal) && Interlocked.Increment(ref saves) == 60) stop.Cancel();
            }
        };
        await Should.ThrowAsync<OperationCanceledException>(() =>
            new Trip(given.Depot, Given.Parcel, new() { JournalFiles = 10 }, new(), ThreadWork.Here)
                .RunAsync(TreeRoot.Here(given.Source), stop.Token));
        Directory.Exists(Path.Combine(given.Bag, "yard/lock")).ShouldBeFalse();
        given.Depot = depot;
        var report = await given.CarryAsync();
        (report.IsWhole, report.Kept.Files).ShouldBe((true, report.Kept.Files));
        report.Kept.Files.ShouldBeGreaterThan(20);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }

    [Fact]
    public async Task Folders_and_names_that_only_differ_in_case_or_form_are_kept_apart_on_a_depot_that_does_not_tell()
    {
        using var given = new Given();
        foreach (var name in new[] { "Plan.txt", "plan.txt", "PLAN.TXT", "Möwe", "Mo\u0308we", "dir/a", "DIR/b" }) given.Write(name, name);
        given.Depot = new DepotThat(given.Depot) { Features = f => f with { TellsCase = false, HoldsAnyName = false } };
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        var stored = SampleTrees.Look(Path.Combine(given.Bag, "data")).Keys.Select(k => k.Normalize().ToUpperInvariant()).ToList();
        stored.Distinct().Count().ShouldBe(stored.Count);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }
}
