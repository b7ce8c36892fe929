using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>
/// The old computer is lost where a trip broke off: what the depot has comes back, and what nobody can be sure of is named.
/// </summary>
public sealed class UnfinishedTests
{
    [Fact]
    public async Task A_first_trip_that_broke_off_gives_back_what_it_had_brought_and_says_that_nobody_knows_the_rest()
    {
        using var given = new Given();
        for (var i = 0; i < 40; i++) given.Write($"Letters/{i:00}.txt", $"letter {i}");
        given.Write("Plans/tide=3F table.txt", "high water");
        File.CreateSymbolicLink(Path.Combine(given.Source, "Letters/0-newest"), "39.txt");
        File.SetUnixFileMode(
            Path.Combine(given.Source, "Letters"), UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        await BreakOffAsync(given, ["/data/Plans/"], () => Journaled(given) >= 14);
        var before = Seen.Of(TreeRoot.Here(given.Bag));

        (await given.TryRestoreAsync()).Problem.ShouldBeOfType<ParcelUnfinished>().Message.ShouldContain("--unfinished");
        given.TakesUnfinished = true;
        (await given.ForeseeAsync()).Folders.Sum(f => f.New.Files).ShouldBe(41);
        var report = await given.RestoreAsync();

        Seen.Of(TreeRoot.Here(given.Bag)).ShouldBe(before);
        report.IsWhole.ShouldBeFalse();
        report.Unfinished.ShouldNotBeNull().Last.ShouldBeNull();
        report.Snags[0].Reason.ShouldContain("nobody can say what");
        var (letters, landed) = (Path.Combine(given.Source, "Letters"), Path.Combine(given.Target, "Letters"));
        for (var i = 0; i < 40; i++) File.ReadAllText(Path.Combine(landed, $"{i:00}.txt")).ShouldBe($"letter {i}");
        File.GetLastWriteTimeUtc(Path.Combine(landed, "00.txt")).ShouldBe(File.GetLastWriteTimeUtc(Path.Combine(letters, "00.txt")));
        File.GetUnixFileMode(landed).ShouldBe(File.GetUnixFileMode(letters));
        new FileInfo(Path.Combine(landed, "0-newest")).LinkTarget.ShouldBe("39.txt");
    }

    [Fact]
    public async Task A_file_that_came_before_its_trip_broke_off_comes_back_newer_and_is_named_where_nothing_tells_of_it()
    {
        using var given = new Given();
        given.Write("a.txt", "old a");
        given.Write("b.txt", "old b");
        given.Write("c.txt", "old c");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        given.Write("a.txt", "a newer one");
        given.Write("a=new.txt", "another");
        given.Write("c.txt", "never brought");
        // No journal either: the program dies between two files.
        await BreakOffAsync(
            given, ["/data/c.txt", "/yard/journal/"], () => InDepot("a.txt") == "a newer one" && InDepot("a=new.txt") != "");

        given.TakesUnfinished = true;
        var report = await given.RestoreAsync();

        (string, string)[] wanted = [("a.txt", "a newer one"), ("a=new.txt", "another"), ("b.txt", "old b"), ("c.txt", "old c")];
        foreach (var (name, content) in wanted) File.ReadAllText(Path.Combine(given.Target, name)).ShouldBe(content, name);
        report.Snags.Where(s => s.Kind == SnagKind.Unfinished).Select(s => s.Path).ShouldBe(["./", "a=new.txt", "a.txt"], true);
        report.Unfinished!.Unsure.ShouldBe(new Amount(2, 18));
        report.Unfinished.Last.ShouldBe(1);
        report.Damages.ShouldBeEmpty();

        string InDepot(string name) =>
            File.Exists(Path.Combine(given.Bag, "data", name)) ? File.ReadAllText(Path.Combine(given.Bag, "data", name)) : "";
    }

    [Fact]
    public async Task What_a_journal_tells_counts_as_newer_and_needs_no_doubt()
    {
        using var given = new Given();
        for (var i = 0; i < 9; i++) given.Write($"{i}.txt", "old");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        for (var i = 0; i < 9; i++) given.Write($"{i}.txt", $"newer {i}");
        // Three files are in each part of the journal.
        await BreakOffAsync(given, ["/data/8.txt"], () => Journaled(given) >= 2);

        given.TakesUnfinished = true;
        var report = await given.RestoreAsync();

        report.Snags.Select(s => s.Path).Except(["6.txt", "7.txt"]).ShouldBe(["./"]);
        report.Unfinished!.NewerFiles!.Value.ShouldBeInRange(6, 8);
        for (var i = 0; i < 6; i++) File.ReadAllText(Path.Combine(given.Target, $"{i}.txt")).ShouldBe($"newer {i}");
        File.ReadAllText(Path.Combine(given.Target, "8.txt")).ShouldBe("old");
    }

    [Fact]
    public async Task A_sealed_parcel_gives_back_what_its_lists_tell_and_names_the_pack_that_none_tells_of()
    {
        using var given = new Given { Seals = true };
        given.Write("a.txt", "old a");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        given.Write("b.txt", "came last");
        await BreakOffAsync(given, "/yard/journal/", "/yard/entries");

        given.TakesUnfinished = true;
        var report = await given.RestoreAsync();

        File.ReadAllText(Path.Combine(given.Target, "a.txt")).ShouldBe("old a");
        report.Snags.Select(s => s.Path).ShouldBe(["./", "data/pack-000002.tar.age"]);
    }

    [Theory]
    [InlineData(3, 4)]
    [InlineData(2, 5_500)]
    [InlineData(300, 40)]
    public void However_many_files_are_in_doubt_each_is_said_or_counted_and_what_is_said_has_an_end(int folders, int each)
    {
        var unsure = new UnsureFiles();
        for (var folder = 0; folder < folders; folder++)
            for (var file = 0; file < each; file++)
                unsure.Add(new($"Home/{folder:000}/{file}", SnagKind.Unfinished, 7, "?", CountsAsFile: false));
        var trip = unsure.Of(new(2, null, 1, null, 0, Amount.None, []));
        var said = unsure.Snags(trip).ToList();
        said.Sum(s => s.Files).ShouldBe(folders * each);
        trip.Unsure.ShouldBe(new Amount(folders * each, 7L * folders * each));
        said.Count.ShouldBeLessThanOrEqualTo(2_000);
    }

    [Fact]
    public async Task A_parcel_that_somebody_writes_to_at_this_moment_is_not_taken_for_one_that_broke_off()
    {
        using var given = new Given();
        given.Write("a.txt", "a");
        await BreakOffAsync(given, "/data/a.txt");
        given.TakesUnfinished = true;
        await using var held = (await ParcelLock.TakeAsync(
            given.Depot, new(Given.Parcel), ThreadWork.Here, TestContext.Current.CancellationToken)).Value;
        (await given.TryRestoreAsync()).Problem.ShouldBeOfType<ParcelLocked>();
    }

    [Fact]
    public async Task A_file_written_to_between_the_reads_of_its_two_names_comes_back_as_each_was_read()
    {
        using var given = new Given();
        given.Write("a", "one");
        for (var i = 0; i < 300; i++) given.Write($"m/{i:000}", "x");
        Run.Must("ln", Path.Combine(given.Source, "a"), Path.Combine(given.Source, "z"));
        given.Depot = new DepotThat(given.Depot)
        {
            BeforeSave = path =>
            {
                if (path.EndsWith("/data/a", StringComparison.Ordinal)) File.AppendAllText(Path.Combine(given.Source, "a"), ", and more");
            }
        };
        await given.CarryAsync();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        File.ReadAllText(Path.Combine(given.Target, "a")).ShouldBe("one");
        File.ReadAllText(Path.Combine(given.Target, "z")).ShouldBe("one, and more");
    }

    private static int Journaled(Given given) =>
        Directory.Exists(Path.Combine(given.Bag, "yard/journal")) ? Directory.GetFiles(Path.Combine(given.Bag, "yard/journal")).Length : 0;

    private static Task BreakOffAsync(Given given, params string[] at) => BreakOffAsync(given, at, () => true);

    /// <summary>Makes a trip that ends at the first save below one of these places, once something is so.</summary>
    private static async Task BreakOffAsync(Given given, string[] at, Func<bool> once)
    {
        var depot = given.Depot;
        given.Depot = new DepotThat(depot)
        {
            BeforeSave = path =>
            {
                if (!at.Any(a => path.Contains(a, StringComparison.Ordinal))) return;
                SpinWait.SpinUntil(once, TimeSpan.FromSeconds(20)).ShouldBeTrue();
                throw new DepotUnreachableException("x", "gone.");
            }
        };
        await Should.ThrowAsync<DepotUnreachableException>(given.TryCarryAsync);
        given.Depot = depot;
    }
}
