using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class TripTests
{
    [Theory, InlineData(1), InlineData(2), InlineData(3), InlineData(4), InlineData(5), InlineData(6)]
    public async Task A_tree_with_everything_that_file_systems_allow_comes_out_as_it_went_in(int seed)
    {
        using var given = new Given();
        SampleTrees.MakeHostile(given.Source, seed, 140);
        var carried = await given.CarryAsync();
        carried.Snags.ShouldBeEmpty();
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        carried.Seen.Files.ShouldBe(SampleTrees.Look(given.Source).Values.Count(v => v[0] != 'd'));
        var (kept, again) = (carried.Seen.Files, await given.CarryAsync());
        // What is fresher than the clock tells is read again; nothing may be staged twice or lost.
        (again.Added.Files + again.Kept.Files).ShouldBe(kept);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }

    [Theory, InlineData("cloud"), InlineData("apache"), InlineData("ssh")]
    public async Task The_same_tree_goes_over_a_share_and_back(string kind)
    {
        using var given = new Given();
        SampleTrees.MakeHostile(given.Source, 7, 80);
        using var folder = new TempFolder();
        await using var cloud = kind == "cloud" ? await CloudShare.StartAsync(new() { Folder = folder.At }) : null;
        using var apache = kind == "apache" ? new ApacheShare() : null;
        using var ssh = kind == "ssh" ? new SshShare() : null;
        given.Depot = ssh is not null
            ? new SftpDepot(new(ssh.Address), new() { KeyFile = ssh.KeyFile, HostKey = ssh.HostKey })
            : new WebDavDepot(new(cloud?.Address ?? apache!.Address), new());
        (await given.CarryAsync()).Snags.ShouldBeEmpty();
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task A_trip_that_was_stopped_inside_a_large_file_goes_on_there_unless_the_file_changed(bool changes)
    {
        using var given = new Given();
        var bytes = new byte[30_000_000];
        new Random(3).NextBytes(bytes);
        File.WriteAllBytes(Path.Combine(given.Source, "film.mov"), bytes);
        var (gate, odometer, cancel) = (
            new RateGate(ThreadWork.Here) { BytesPerSecond = 40_000_000 }, new Odometer(), TestContext.Current.CancellationToken);
        using (var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel))
        {
            var trip = new Trip(new LimitedDepot(given.Depot, gate), Given.Parcel, new(), odometer, ThreadWork.Here)
                .RunAsync(TreeRoot.Here(given.Source), stop.Token);
            while (odometer.Bytes < 12_000_000) await Task.Delay(5, cancel);
            await stop.CancelAsync();
            await Should.ThrowAsync<OperationCanceledException>(trip);
        }
        var aside = Directory.GetFiles(Path.Combine(given.Bag, "yard/aside"))
            .Single(f => Path.GetFileName(f).StartsWith("on-", StringComparison.Ordinal));
        new FileInfo(aside).Length.ShouldBeInRange(1_000_000, 29_999_999);
        if (changes) using (var file = File.OpenWrite(Path.Combine(given.Source, "film.mov"))) file.WriteByte((byte)(bytes[0] + 1));
        (gate.BytesPerSecond, var sent) = (null, 0L);
        given.Depot = new DepotThat(given.Depot) { Sends = read => sent += read };
        var report = await given.CarryAsync();
        (report.Snags.Count, report.Added).ShouldBe((0, new Amount(1, 30_000_000)));
        // What is sent anew is what was not there, or all of what is another file now.
        sent.ShouldBeInRange(changes ? 30_000_000 : 1, changes ? 30_100_000 : 29_000_000);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        Directory.Exists(Path.Combine(given.Bag, "yard/aside")).ShouldBeFalse();
    }

    [Fact]
    public async Task A_second_trip_carries_only_what_is_new_or_changed_and_counts_apart_what_was_deleted()
    {
        using var given = new Given();
        for (var i = 0; i < 30; i++) given.Write($"Documents/{i:00}.txt", $"text {i}");
        given.Write("top.txt", "beside");
        await given.CarryAsync();
        await Task.Delay(80, TestContext.Current.CancellationToken);
        (await given.CarryAsync()).Kept.Files.ShouldBe(31);
        File.WriteAllText(Path.Combine(given.Source, "Documents/03.txt"), "TEXT 3");
        given.Write("Documents/new.txt", "new");
        File.Delete(Path.Combine(given.Source, "Documents/05.txt"));
        File.SetUnixFileMode(Path.Combine(given.Source, "Documents/07.txt"), UnixFileMode.UserRead);
        await Task.Delay(80, TestContext.Current.CancellationToken);
        var third = await given.CarryAsync();
        third.Added.Files.ShouldBe(2);
        third.Kept.Files.ShouldBe(29);
        third.Folders.Single(f => f.Folder == "Documents").Gone.ShouldBe(new Amount(1, 6));
        third.Folders.ShouldAllBe(f => f.Seen == f.Carried + f.Open);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        File.Exists(Path.Combine(given.Bag, "data/Documents/05.txt")).ShouldBeTrue();
    }

    [Fact]
    public async Task What_has_no_content_or_may_not_be_read_is_a_named_snag_and_the_rest_is_carried()
    {
        using var given = new Given();
        given.Write("Documents/good.txt", "good");
        Run.Must("mkfifo", Path.Combine(given.Source, "Documents/pipe"));
        Run.Must(
            "python3", "-c", $"import socket; s=socket.socket(socket.AF_UNIX); s.bind('{Path.Combine(given.Source, "Documents/sock")}')");
        if (Environment.UserName == "root") Run.Must("mknod", Path.Combine(given.Source, "Documents/dev"), "c", "1", "3");
        var report = await given.CarryAsync();
        report.Snags.Select(s => (s.Path, s.Kind)).ShouldBe(new[]
        {
            ("Documents/dev", SnagKind.Device), ("Documents/pipe", SnagKind.Pipe), ("Documents/sock", SnagKind.Socket)
        }.Where(s => Environment.UserName == "root" || s.Item2 != SnagKind.Device));
        report.Carried.Files.ShouldBe(1);
        report.Open.Files.ShouldBe(report.Snags.Count);
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task A_file_that_changes_during_every_read_is_a_snag_and_a_torn_one_is_never_staged()
    {
        using var given = new Given();
        given.Write("Mail/box.mbox", new string('a', 400_000));
        given.Write("Mail/calm.txt", "calm");
        var file = Path.Combine(given.Source, "Mail/box.mbox");
        given.Depot = new DepotThat(given.Depot)
        {
            BeforeSave = path => { if (path.EndsWith("box.mbox", StringComparison.Ordinal)) File.AppendAllText(file, "more"); }
        };
        var report = await given.CarryAsync();
        report.Snags.Single().Kind.ShouldBe(SnagKind.ChangedWhileRead);
        File.Exists(Path.Combine(given.Bag, "data/Mail/box.mbox")).ShouldBeFalse();
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
        given.Depot = ((DepotThat)given.Depot).Inner;
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task A_file_removed_between_the_look_and_the_read_is_said_so()
    {
        using var given = new Given();
        for (var i = 0; i < 300; i++) given.Write($"Mail/{i:000}", "x");
        var gate = new Lock();
        given.Depot = new DepotThat(given.Depot) { BeforeSave = RemoveTheLast };
        var report = await given.CarryAsync();
        report.Seen.Files.ShouldBe(report.Carried.Files + report.Open.Files);
        report.Snags.ShouldHaveSingleItem().Kind.ShouldBe(SnagKind.GoneWhileRead);
        report.Carried.Files.ShouldBe(299);

        // Every save waits until the last file is gone: no lane can have come as far as that.
        void RemoveTheLast(string path)
        {
            if (path.Contains("/data/", StringComparison.Ordinal)) lock (gate) File.Delete(Path.Combine(given.Source, "Mail/299"));
        }
    }

    [Fact]
    public async Task A_depot_that_fills_up_or_goes_away_in_the_middle_loses_nothing_and_the_next_trip_goes_on()
    {
        using var given = new Given();
        for (var i = 0; i < 60; i++) given.Write($"Pictures/{i:00}.jpg", new string((char)('a' + (i % 26)), 20_000));
        using var folder = new TempFolder();
        var depot = new FolderDepot(TreeRoot.Here(folder.At));
        var saves = 0;
        given.Depot = new DepotThat(depot)
        {
            Refuses = path =>
                path.Contains("/data/", StringComparison.Ordinal) && Interlocked.Increment(ref saves) > 20 ? new DepotFull("x", 1) : null
        };
        await Should.ThrowAsync<DepotFullException>(given.TryCarryAsync);
        saves = 0;
        given.Depot = new DepotThat(depot)
        {
            BeforeSave = path =>
            {
                if (path.Contains("/data/", StringComparison.Ordinal) && Interlocked.Increment(ref saves) > 20)
                    throw new DepotUnreachableException("x", "gone.");
            }
        };
        await Should.ThrowAsync<DepotUnreachableException>(given.TryCarryAsync);
        saves.ShouldBeLessThan(60);
        given.Depot = depot;
        (await given.VerifyAsync()).Damages.ShouldContain(d => d.Reason.Contains("broke off"));
        (await given.TryRestoreAsync()).Problem.ShouldBeOfType<ParcelUnfinished>();
        var report = await given.CarryAsync();
        report.IsWhole.ShouldBeTrue();
        report.Kept.Files.ShouldBeGreaterThan(20);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Fact]
    public async Task Of_two_hands_on_one_parcel_the_second_is_refused_by_name_and_a_dead_holder_is_replaced_at_once()
    {
        using var given = new Given();
        given.Write("a", "a");
        var held = (await ParcelLock.TakeAsync(
            given.Depot, new(Given.Parcel), ThreadWork.Here, TestContext.Current.CancellationToken)).Value;
        (await given.TryCarryAsync()).Problem.ShouldBeOfType<ParcelLocked>().Holder.ShouldContain($"{Environment.ProcessId}");
        await held.DisposeAsync();
        Directory.CreateDirectory(Path.Combine(given.Bag, "yard/lock"));
        File.WriteAllText(
            Path.Combine(given.Bag, "yard/lock/holder.json"),
            $$"""{"id":"x","host":"{{Environment.MachineName}}","boot":"{{File.ReadAllText(
                "/proc/sys/kernel/random/boot_id").Trim()}}","process":999999,"processStart":1,"until":"2099-01-01T00:00:00Z"}""");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        Directory.Exists(Path.Combine(given.Bag, "yard/lock")).ShouldBeFalse();
    }

    [Fact]
    public async Task A_folder_with_something_else_in_it_is_not_taken_for_a_parcel()
    {
        using var given = new Given();
        given.Write("a", "a");
        Directory.CreateDirectory(Path.Combine(given.Bag, "data"));
        File.WriteAllText(Path.Combine(given.Bag, "data/mine.txt"), "not ours");
        (await given.TryCarryAsync()).Problem.ShouldBeOfType<GroundTaken>();
        File.ReadAllText(Path.Combine(given.Bag, "data/mine.txt")).ShouldBe("not ours");
    }

    [Fact]
    public async Task The_bag_can_be_checked_without_us_and_keeps_fields_it_does_not_know()
    {
        using var given = new Given();
        SampleTrees.MakeHostile(given.Source, 11, 60);
        await given.CarryAsync();
        var check = Run.To(
            "sh",
            "-c",
            $"cd '{given.Bag}' && sha256sum --strict --quiet -c tagmanifest-sha256.txt && sed 's/%0A/\\\\n/g;s/%0D/\\\\r/g;s/%25/%/g' "
                + $"manifest-sha256.txt | sha256sum --strict --quiet -c");
        check.Exit.ShouldBe(0, check.All);
        var info = Path.Combine(given.Bag, "yard/parcel.json");
        File.WriteAllText(info, File.ReadAllText(info).Replace("{", "{\"later\":7,", StringComparison.Ordinal));
        await given.CarryAsync();
        File.ReadAllText(info).ShouldContain("\"later\":7");
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }

    [Fact]
    public async Task Folders_deeper_than_a_path_is_long_are_carried_verified_and_restored()
    {
        using var given = new Given();
        var at = TreeRoot.Here(given.Source).Open();
        for (var depth = 0; depth < 30; depth++)
        {
            var name = Encoding.UTF8.GetBytes($"{depth:00}{new string('f', 200)}");
            at.TryMakeFolder(name, 0x1ED, out _).ShouldBeTrue();
            var below = at.OpenFolderAt(name);
            at.Dispose();
            using (var letter = (at = below).OpenFileAt("letter"u8, FileUse.MakeNew)) letter.Write(0, name.AsSpan(0, 2));
        }
        at.Dispose();
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.CarryAsync()).Added.Files.ShouldBe(0);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        var report = await given.RestoreAsync();
        (report.IsWhole, report.Folders.Sum(f => f.Restored.Files)).ShouldBe((true, 30));
        using var there = TreeRoot.Here(given.Source).Open();
        using var back = TreeRoot.Here(given.Target).Open();
        SeenTree.Of(back).ShouldBe(SeenTree.Of(there));
    }
}
