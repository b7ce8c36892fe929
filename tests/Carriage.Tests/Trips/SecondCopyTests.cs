using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class SecondCopyTests
{
    private static async Task<CopyReport> CopyAsync(Given given, IDepot second) =>
        (await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here)
            .BringUpAsync(TestContext.Current.CancellationToken)).Value;

    private static string[] Files(string folder) =>
        [.. Directory.GetFiles(folder, "*", SearchOption.AllDirectories)
            .Select(f => Path.GetRelativePath(folder, f))
            .Order(StringComparer.Ordinal)];

    // Empty folders stand in the entries; a bag need not have them.
    private static void AreSame(string one, string other)
    {
        Files(other).ShouldBe(Files(one));
        foreach (var name in Files(one))
            File.ReadAllBytes(Path.Combine(other, name)).ShouldBe(File.ReadAllBytes(Path.Combine(one, name)), name);
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task Whatever_is_damaged_in_one_copy_is_mended_from_the_other_and_from_a_dead_disk_nothing_is_lost(bool seals)
    {
        using var given = new Given { Seals = seals, Answers = true };
        Directory.CreateDirectory(given["second"]);
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        new LivingTree(given.Source, 12).Change(60);
        await given.CarryAsync();
        (await CopyAsync(given, second)).IsWhole.ShouldBeTrue();
        var bag = given.Bag;
        AreSame(bag, given["second/ida"]);
        foreach (var name in Files(bag))
        {
            foreach (var missing in new[] { false, true })
            {
                var file = Path.Combine(bag, name);
                var bytes = File.ReadAllBytes(file);
                if (missing) File.Delete(file);
                else File.WriteAllBytes(file, [.. bytes, 7]);
                var found = await given.VerifyAsync();
                found.IsWhole.ShouldBeFalse(name);
                (await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here)
                    .MendAsync(found.Damages, TestContext.Current.CancellationToken)).Value
                    .ShouldContain(name);
                (await given.VerifyAsync()).Damages.ShouldBeEmpty($"{name}, {(missing ? "missing" : "changed")}");
                File.ReadAllBytes(file).ShouldBe(bytes);
            }
        }
        // Where both have lost it, nothing is mended with something else.
        var last = Files(Path.Combine(bag, "data"))[^1];
        foreach (var copy in new[] { bag, given["second/ida"] }) File.AppendAllText(Path.Combine(copy, "data", last), "x");
        (await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here)
            .MendAsync((await given.VerifyAsync()).Damages, TestContext.Current.CancellationToken)).Value.ShouldBeEmpty();
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        given.ReadsAll = true;
        await given.CarryAsync();
        await CopyAsync(given, second);

        Directory.Delete(bag, recursive: true);
        given.Depot = second;
        (await given.VerifyAsync()).Damages.ShouldNotContain(d => !d.Path.EndsWith(last, StringComparison.Ordinal));
        (await given.TryRestoreAsync()).IsOk.ShouldBeTrue();
    }

    [Theory, InlineData(31), InlineData(32), InlineData(33), InlineData(34)]
    public async Task It_follows_many_trips_brings_only_what_is_new_and_goes_on_when_it_broke_off(int seed)
    {
        using var given = new Given();
        Directory.CreateDirectory(given["second"]);
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        var tree = new LivingTree(given.Source, seed);
        tree.Change(80);
        for (var round = 0; round < 6; round++)
        {
            await given.CarryAsync();
            var left = round;
            var breaking = new DepotThat(second)
            {
                BeforeSave = _ => { if (left-- == 0) throw new DepotUnreachableException("x", "gone."); }
            };
            await Should.ThrowAsync<DepotUnreachableException>(() => CopyAsync(given, breaking));
            await CopyAsync(given, second);
            AreSame(given.Bag, given["second/ida"]);
            (await CopyAsync(given, second)).Copied.Files.ShouldBe(0);
            tree.Change(12);
        }
    }

    [Fact]
    public async Task A_parcel_of_another_id_under_the_same_name_is_told_before_anything_is_done()
    {
        using var given = new Given();
        given.Write("a", "a");
        var id = (await given.CarryAsync()).ParcelId;
        var opening = new YardRelay.Carriage.Parcels.ParcelOpening(
            given.Depot, Given.Parcel, YardRelay.Carriage.Parcels.SealKeys.None, ThreadWork.Here);
        (await opening.OtherThanAsync(id, TestContext.Current.CancellationToken)).ShouldBeNull();
        (await opening.OtherThanAsync(Guid.NewGuid().ToString(), TestContext.Current.CancellationToken))!.Message
            .ShouldContain("the same account");
        Directory.Delete(given.Bag, recursive: true);
        (await opening.OtherThanAsync(id, TestContext.Current.CancellationToken)).ShouldBeNull("that there is none, others tell");
    }

    [Fact]
    public async Task Another_parcel_under_the_same_name_is_left_alone()
    {
        using var given = new Given();
        Directory.CreateDirectory(given["second"]);
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        given.Write("a", "a");
        await given.CarryAsync();
        await CopyAsync(given, second);
        Directory.Delete(given.Bag, recursive: true);
        await given.CarryAsync();
        (await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here)
            .BringUpAsync(TestContext.Current.CancellationToken)).Problem.ShouldBeOfType<OtherParcel>();
    }

    [Fact]
    public async Task An_earlier_state_of_the_first_copy_never_takes_the_place_of_a_newer_second_one()
    {
        using var given = new Given();
        Directory.CreateDirectory(given["second"]);
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        given.Write("letter.txt", "one");
        await given.CarryAsync();
        Run.Quietly("cp", "-a", given.Bag, given["kept"]);
        given.Write("letter.txt", "two, and longer");
        await given.CarryAsync();
        await CopyAsync(given, second);
        Directory.Delete(given.Bag, recursive: true);
        Run.Quietly("cp", "-a", given["kept"], given.Bag);

        for (var round = 0; round < 2; round++)
        {
            (await new SecondCopy(given.Depot, second, Given.Parcel, new(), ThreadWork.Here)
                .BringUpAsync(TestContext.Current.CancellationToken)).Problem.ShouldBeOfType<SecondCopyAhead>();
            File.ReadAllText(given["second/ida/data/letter.txt"]).ShouldBe("two, and longer");
            // Nor does a trip that goes on from the earlier state.
            given.Write("letter.txt", "another two");
            await given.CarryAsync();
        }
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task The_older_of_two_copies_is_brought_up_from_the_newer_whole_one_and_never_the_other_way(bool seals)
    {
        using var given = new Given { Seals = seals, Answers = true };
        Directory.CreateDirectory(given["second"]);
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        var both = new TwoCopies(given.Depot, second, Given.Parcel, new(), ThreadWork.Here);
        var tree = new LivingTree(given.Source, 5);
        tree.Change(30);
        await given.CarryAsync();
        await CopyAsync(given, second);
        (await both.CompareAsync(TestContext.Current.CancellationToken)).Standing.ShouldBe(CopyStanding.Same);
        Run.Must("cp", "-a", given.Bag, given["trip 1"]);
        tree.Change(30);
        await given.CarryAsync();
        (await both.CompareAsync(TestContext.Current.CancellationToken)).Standing.ShouldBe(CopyStanding.SecondBehind);
        (await both.BringFirstUpAsync(false, TestContext.Current.CancellationToken)).Value.ShouldBeNull("a mend never goes back");
        await CopyAsync(given, second);

        // The depot's disk was put back to the day before; while the newer copy is damaged, nothing is built on it.
        Directory.Delete(given.Bag, recursive: true);
        Run.Must("cp", "-a", given["trip 1"], given.Bag);
        var hurt = Directory.GetFiles(given["second/ida/data"], "*", SearchOption.AllDirectories).First(f => new FileInfo(f).Length > 0);
        var bytes = File.ReadAllBytes(hurt);
        File.AppendAllText(hurt, "x");
        (await both.BringFirstUpAsync(false, TestContext.Current.CancellationToken)).Problem.ShouldBeOfType<SecondCopyNotWhole>();
        AreSame(given["trip 1"], given.Bag);
        File.WriteAllBytes(hurt, bytes);
        (await both.BringFirstUpAsync(false, TestContext.Current.CancellationToken)).Value.ShouldNotBeNull().IsWhole.ShouldBeTrue();
        AreSame(given["second/ida"], given.Bag);
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();

        // The same where the disk of the first died altogether; and where the first went its own way, nobody decides.
        Directory.Delete(given.Bag, recursive: true);
        (await both.BringFirstUpAsync(false, TestContext.Current.CancellationToken)).Problem.ShouldBeOfType<FirstCopyGone>();
        (await both.BringFirstUpAsync(true, TestContext.Current.CancellationToken)).Value.ShouldNotBeNull();
        AreSame(given["second/ida"], given.Bag);
        Directory.Delete(given.Bag, recursive: true);
        Run.Must("cp", "-a", given["trip 1"], given.Bag);
        tree.Change(3);
        await given.CarryAsync();
        (await both.CompareAsync(TestContext.Current.CancellationToken)).Standing.ShouldBe(CopyStanding.Apart);
        (await both.BringFirstUpAsync(false, TestContext.Current.CancellationToken)).Value.ShouldBeNull();
    }

    [Fact]
    public async Task A_second_copy_that_is_damaged_is_brought_up_whatever_its_lists_say()
    {
        using var given = new Given();
        Directory.CreateDirectory(given["second"]);
        using var second = new FolderDepot(TreeRoot.Here(given["second"]));
        given.Write("letter.txt", "one");
        await given.CarryAsync();
        await CopyAsync(given, second);
        var list = given["second/ida/tagmanifest-sha256.txt"];
        File.WriteAllText(list, File.ReadAllText(list).Replace('a', 'b'));
        (await CopyAsync(given, second)).IsWhole.ShouldBeTrue();
        AreSame(given.Bag, given["second/ida"]);
    }
}
