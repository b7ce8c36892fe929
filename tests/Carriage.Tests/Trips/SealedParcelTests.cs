using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Simulated;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class SealedParcelTests
{
    [Fact]
    public async Task Age_and_tar_alone_give_back_the_tree_and_no_name_of_a_file_stands_in_the_depot()
    {
        using var given = new Given { Seals = true };
        var names = new[]
        {
            "Documents/letter to Möwe.txt",
            "Documents/" + new string('l', 180) + "/" + new string('n', 120),
            "photos/gull.jpg",
            "zero",
            "tab\tand = sign"
        };
        foreach (var name in names) given.Write(name, name == "zero" ? "" : "secret " + name);
        Directory.CreateDirectory(Path.Combine(given.Source, "empty"));
        File.CreateSymbolicLink(Path.Combine(given.Source, "link"), "Documents/letter to Möwe.txt");
        File.SetUnixFileMode(Path.Combine(given.Source, "photos/gull.jpg"), UnixFileMode.UserRead | UnixFileMode.UserExecute);
        File.SetLastWriteTimeUtc(Path.Combine(given.Source, "zero"), new DateTime(2011, 3, 4, 5, 6, 7, DateTimeKind.Utc).AddTicks(1234567));
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();

        var all = Directory.GetFiles(given.Bag, "*", SearchOption.AllDirectories);
        foreach (var file in all)
        {
            var text = File.ReadAllText(file, System.Text.Encoding.Latin1);
            foreach (var word in new[] { "letter", "gull", "photos", "secret", "empty" })
                (file + text).ShouldNotContain(word, Case.Sensitive, file);
        }
        File.WriteAllText(given["key"], given.Recovery.Secret());
        Directory.CreateDirectory(given["tar"]);
        foreach (var pack in Directory.GetFiles(Path.Combine(given.Bag, "data")))
            Run.Must("sh", "-c", $"age -d -i '{given["key"]}' '{pack}' | tar x --preserve-permissions --no-same-owner -C '{given["tar"]}'");
        File.Move(Path.Combine(given["tar"], "tab=09and = sign"), Path.Combine(given["tar"], "tab\tand = sign"));
        Run.Must("touch", "-r", given.Source, given["tar"]);
        SampleTrees.Differences(given.Source, given["tar"]).ShouldBeEmpty();
        File.GetLastWriteTimeUtc(Path.Combine(given["tar"], "zero")).Ticks
            .ShouldBe(File.GetLastWriteTimeUtc(Path.Combine(given.Source, "zero")).Ticks);
    }

    [Fact]
    public async Task A_file_with_holes_that_is_larger_than_a_pack_comes_back_byte_for_byte()
    {
        using var given = new Given { Seals = true };
        using (var disk = File.Create(Path.Combine(given.Source, "disk.img")))
        {
            disk.SetLength((64 << 20) + 300_000);
            foreach (var at in new[] { 0, 20 << 20, (64 << 20) - 7, (64 << 20) + 200_000 })
            {
                disk.Position = at;
                disk.Write(new byte[5000].Select((_, i) => (byte)(i + at)).ToArray());
            }
        }
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        Run.Must("cmp", Path.Combine(given.Source, "disk.img"), Path.Combine(given.Target, "disk.img"));
    }

    [Fact]
    public async Task A_large_file_is_cut_into_parts_that_cat_joins_and_comes_back_whole()
    {
        using var given = new Given { Seals = true };
        using (var large = File.Create(Path.Combine(given.Source, "film.mkv")))
        {
            var (piece, random) = (new byte[1 << 20], new Random(5));
            for (var i = 0; i < 70; i++)
            {
                random.NextBytes(piece);
                large.Write(piece);
            }
        }
        given.Write("note.txt", "beside it");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        File.WriteAllText(given["key"], given.Recovery.Secret());
        Directory.CreateDirectory(given["tar"]);
        foreach (var pack in Directory.GetFiles(Path.Combine(given.Bag, "data")))
            Run.Must("sh", "-c", $"age -d -i '{given["key"]}' '{pack}' | tar x -C '{given["tar"]}'");
        Run.Must("sh", "-c", $"cat '{given["tar"]}'/film.mkv=* | cmp - '{given.Source}/film.mkv'");
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_large_file_with_holes_comes_back_as_it_was_behind_its_first_part_too()
    {
        using var given = new Given { Seals = true };
        using (var image = File.Create(Path.Combine(given.Source, "disk.img")))
        {
            foreach (var (at, text) in new[] { (0, "first"), (3 << 20, "early"), (65 << 20, "second part"), (129 << 20, "the third") })
            {
                image.Position = at;
                image.Write(Encoding.UTF8.GetBytes(text));
            }
            image.SetLength(130 << 20);
        }
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Fact]
    public async Task Where_the_account_is_written_slower_than_files_are_found_they_still_go_in_packs_and_not_each_in_one_of_its_own()
    {
        using var given = new Given { Seals = true };
        for (var i = 0; i < 14_000; i++) given.Write($"d{i % 20:00}/{i:00000}.txt", "");
        // On one thread, where who writes the account has no more turns than who finds files.
        var work = new SimulatedWork(new(DateTimeOffset.UnixEpoch), 1);
        using var depot = new FolderDepot(TreeRoot.Here(given["depot"]), null, work);
        var options = new TripOptions { Sealing = new([given.Recovery.Recipient], null) };
        work.Run(
            () => new Trip(depot, Given.Parcel, options, new(), work).RunAsync(TreeRoot.Here(given.Source), CancellationToken.None),
            out var trip).ShouldBe(SimulatedEnd.Ended);
        (await trip!).Value.IsWhole.ShouldBeTrue();
        Directory.GetFiles(Path.Combine(given.Bag, "data")).Length
            .ShouldBeInRange(4, 40, "4,096 files go in a pack; a few packs are set on their way before they are full");
    }

    [Fact]
    public async Task A_restore_brings_each_pack_once_and_one_file_alone_brings_no_other_pack_than_its_own()
    {
        using var given = new Given { Seals = true };
        for (var i = 0; i < 12_500; i++) given.Write($"d{i % 20:00}/{i:00000}.txt", "");
        (await new Trip(given.Depot, Given.Parcel, new() { Sealing = new([given.Recovery.Recipient], null) }, new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken)).Value.IsWhole.ShouldBeTrue();
        var brought = new List<string>();
        given.Keys = new([given.Recovery]);
        given.Depot = new DepotThat(given.Depot)
        {
            BeforeOpen = path =>
            {
                lock (brought)
                    if (path.StartsWith("ida/data/pack-", StringComparison.Ordinal)) brought.Add(path[9..]);
            },
        };
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        var there = Directory.GetFiles(Path.Combine(given.Bag, "data")).Select(p => Path.GetFileName(p)!).Order().ToList();
        there.Count.ShouldBeGreaterThan(3);
        brought.Where(there.Contains).Order().ShouldBe(there);

        brought.Clear();
        given.Landing = LandingPlan.Create([], ["d10/00010.txt"], [], ClashRule.Beside, []).Value;
        (await given.TryRestoreAsync(given["alone"])).Value.IsWhole.ShouldBeTrue();
        brought.ShouldHaveSingleItem();
        Directory.GetFiles(given["alone"], "*", SearchOption.AllDirectories).ShouldHaveSingleItem();
    }

    /// <summary>A letter, sealed to the person's hand and to the recovery key, with a passphrase.</summary>
    private static async Task<Given> SealedAsync()
    {
        var given = new Given();
        given.Write("Documents/letter.txt", "Dear Ida");
        (await new Trip(
            given.Depot,
            Given.Parcel,
            new() { Keys = given.Keys, Sealing = new([given.Recovery.Recipient], "three blue gulls") },
            new(),
            ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken)).Value.IsWhole.ShouldBeTrue();
        return given;
    }

    private static async Task AddAsync(Given given, SealingWish to) =>
        (await new ParcelOpening(given.Depot, Given.Parcel, new([given.Recovery]), ThreadWork.Here)
            .AddAsync(to, TestContext.Current.CancellationToken)).IsOk.ShouldBeTrue();

    /// <summary>With these keys it is restored whole, and goes on another trip.</summary>
    private static async Task OpensAsync(Given given, SealKeys keys, string why)
    {
        given.Keys = keys;
        using var target = new TempFolder();
        (await given.TryRestoreAsync(target["new"])).Value.IsWhole.ShouldBeTrue(why);
        SampleTrees.Differences(given.Source, target["new"]).ShouldBeEmpty(why);
        given.Write(why, "one more trip");
        (await given.CarryAsync()).Added.Files.ShouldBe(1, why);
    }

    [Fact]
    public async Task A_sealed_parcel_opens_with_no_other_key_and_is_verified_without_one()
    {
        using var given = await SealedAsync();
        foreach (var none in new[] { SealKeys.None, new([AgeIdentity.Create()]), new([], "three blue gull") })
        {
            given.Keys = none;
            (await given.TryRestoreAsync()).Problem.ShouldBeOfType<ParcelSealed>();
            (await given.TryCarryAsync()).Problem.ShouldBeOfType<ParcelSealed>();
            (await given.VerifyAsync()).IsWhole.ShouldBeTrue("verifying needs no key");
        }
    }

    [Fact]
    public async Task A_sealed_parcel_opens_with_the_key_of_each_recipient_the_passphrase_and_joined_parts()
    {
        using var given = await SealedAsync();
        var parts = KeyParts.Split(given.Recovery, 3);
        await OpensAsync(given, given.Keys, "the hand's own");
        await OpensAsync(given, new([given.Recovery]), "the recovery key");
        await OpensAsync(given, new([KeyParts.TryJoin(parts[2], parts[0])!]), "two parts of three");
        await OpensAsync(given, new([], "three blue gulls"), "the passphrase");
    }

    [Fact]
    public async Task A_key_that_is_added_later_opens_what_was_packed_before_and_no_pack_is_touched()
    {
        using var given = await SealedAsync();
        var packs = Directory.GetFiles(Path.Combine(given.Bag, "data")).ToDictionary(p => p, File.ReadAllBytes);
        var later = AgeIdentity.Create();
        await AddAsync(given, new([later.Recipient], null));
        foreach (var (path, bytes) in packs) File.ReadAllBytes(path).ShouldBe(bytes);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        await OpensAsync(given, new([later]), "the key that was added");
    }

    [Fact]
    public async Task A_new_passphrase_takes_the_place_of_the_first()
    {
        using var given = await SealedAsync();
        await AddAsync(given, new([], "a new passphrase"));
        await OpensAsync(given, new([], "a new passphrase"), "the new one");
        given.Keys = new([], "three blue gulls");
        (await given.TryRestoreAsync()).Problem.ShouldBeOfType<ParcelSealed>();
    }

    [Fact]
    public async Task A_list_that_the_depot_slips_in_does_not_open_and_an_open_parcel_does_not_become_a_sealed_one()
    {
        using var given = new Given { Seals = true };
        given.Write("a", "a");
        await given.CarryAsync();
        var entries = Path.Combine(given.Bag, "yard/entries.jsonl.age");
        using (var forged = SealingStream.To([given.Recovery.Recipient], new MemoryStream([10]), 1))
        using (var file = File.Create(entries)) forged.CopyTo(file);
        await Should.ThrowAsync<SealBrokenException>(given.RestoreAsync);
        given.Depot = new YardRelay.Carriage.Depots.Folders.FolderDepot(TreeRoot.Here(Directory.CreateDirectory(given["other"]).FullName));
        given.Seals = false;
        await given.CarryAsync();
        given.Seals = true;
        (await given.TryCarryAsync()).Problem.Code.ShouldBe("parcel.open");
    }

    [Fact]
    public async Task A_file_that_changes_while_its_pack_is_made_comes_in_the_next_and_one_without_rights_is_a_snag_that_holds_nobody_up()
    {
        using var given = new Given { Seals = true };
        for (var i = 0; i < 30; i++) given.Write($"d/{i:00}", new string('x', 3000 + i));
        var (whole, changed) = (given.Depot, 0);
        given.Depot = new DepotThat(whole)
        {
            BeforeSave = path =>
            {
                if (path.Contains("/data/", StringComparison.Ordinal) && Interlocked.Exchange(ref changed, 1) == 0)
                    File.AppendAllText(Path.Combine(given.Source, "d/07"), "more");
            },
        };
        var report = await given.CarryAsync();
        changed.ShouldBe(1);
        (report.Snags.Count, report.Carried.Files).ShouldBe((0, 30));
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
        given.Depot = new DepotThat(whole)
        {
            BeforeSave = path =>
            {
                if (path.Contains("/data/", StringComparison.Ordinal)) File.AppendAllText(Path.Combine(given.Source, "d/08"), "still more");
            }
        };
        given.Write("d/08", "again");
        given.Write("d/31", "beside it");
        report = await given.CarryAsync();
        report.Snags.ShouldHaveSingleItem().Path.ShouldBe("d/08");
        report.Added.Files.ShouldBe(1);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
    }
}
