using System.Text;
using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Tests.Depots;

/// <summary>What every kind of depot must do.</summary>
public abstract class DepotConformance
{
    protected static readonly DepotPath Letter = DepotPath.Of("ida/Documents/letter.txt");
    protected static readonly DepotPath Aside = DepotPath.Of("ida/aside/1");

    protected static CancellationToken Cancel => TestContext.Current.CancellationToken;

    protected abstract IDepot Depot { get; }

    private Task<Core.Result<long>> SaveAsync(DepotPath path, byte[] content) =>
        Depot.SaveAsync(path, Aside, () => new MemoryStream(content), content.Length, Cancel);

    private async Task<byte[]?> ReadAsync(DepotPath path) => await DepotTree.ReadAsync(Depot, path, Cancel);

    [Fact]
    public async Task A_saved_file_is_read_back_byte_for_byte_and_a_second_save_replaces_it()
    {
        foreach (var size in new[] { 0, 1, 70_000, 3_000_000 })
        {
            var content = new byte[size];
            new Random(size).NextBytes(content);
            (await SaveAsync(Letter, content)).Value.ShouldBe(size);
            (await ReadAsync(Letter)).ShouldBe(content);
        }
        (await Depot.ListAsync(Letter.Parent, Cancel)).Select(n => (n.Name, n.IsFolder, n.Bytes))
            .ShouldBe([("letter.txt", false, 3_000_000)]);
        (await Depot.ListAsync(Aside.Parent, Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_save_that_breaks_off_leaves_nothing_under_the_name_and_keeps_what_stood()
    {
        await Should.ThrowAsync<IOException>(() => Depot.SaveAsync(Letter, Aside, () => new StreamThatEndsAfter(100), 4096, Cancel));
        (await ReadAsync(Letter)).ShouldBeNull();
        await SaveAsync(Letter, "first"u8.ToArray());
        await Should.ThrowAsync<IOException>(() => Depot.SaveAsync(Letter, Aside, () => new StreamThatEndsAfter(100_000), 200_000, Cancel));
        (await ReadAsync(Letter)).ShouldBe("first"u8.ToArray());
        (await Depot.ListAsync(Aside.Parent, Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Names_come_back_as_they_were_given_where_the_depot_says_so()
    {
        var features = await Depot.ProbeAsync(Cancel);
        string[] names = [
            "plain",
            "with space",
            "Möwe",
            .. features.KeepsForm ? new[] { "Mo\u0308rser" } : [],
            "a+b&c",
            "semi;colon",
            "#hash",
            "100=25",
            new string('n', 200),
            .. features.HoldsAnyName ? new[] { "100%", "%41", "a?b", "a*b:c", "back\\slash", "end." } : []
        ];
        var folder = DepotPath.Of("odd names");
        foreach (var name in names) (await SaveAsync(folder / name, Encoding.UTF8.GetBytes(name))).IsOk.ShouldBeTrue(name);
        (await Depot.ListAsync(folder, Cancel))
            .Select(n => n.Name)
            .Order(StringComparer.Ordinal)
            .ShouldBe(names.Order(StringComparer.Ordinal));
        foreach (var name in names) Encoding.UTF8.GetString((await ReadAsync(folder / name))!).ShouldBe(name);
        (await Depot.ListAsync(DepotPath.Root, Cancel)).ShouldNotContain(n => n.Name.StartsWith("yard-probe"));
    }

    [Fact]
    public async Task A_probe_tells_what_comes_back_and_leaves_nothing_behind()
    {
        var probed = await DepotProbe.RunAsync(Depot, ThreadWork.Here, Cancel);
        var features = await Depot.ProbeAsync(Cancel);
        (probed.Features.TellsCase, probed.RenamesOver, probed.LongestNameBytes).ShouldBe((features.TellsCase, true, 255));
        (probed.Features.TellsForm, probed.Features.KeepsForm).ShouldBe((features.TellsForm, features.KeepsForm));
        (probed.Features.HoldsAnyName, probed.NamesNotHeld.Length == 0).ShouldBe(
            (features.HoldsAnyName, features.HoldsAnyName), probed.NamesNotHeld);
        probed.BytesPerSecond.ShouldBeGreaterThan(0);
        (await Depot.ListAsync(DepotPath.Root, Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Only_one_of_many_callers_makes_a_folder_or_moves_it_away()
    {
        await Depot.MakeFoldersAsync(DepotPath.Of("p"), Cancel);
        var made = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ =>
            Task.Run(() => Depot.MakeFolderAsync(DepotPath.Of("p/lock"), Cancel), Cancel)));
        made.Count(m => m.Value).ShouldBe(1);
        var moved = await Task.WhenAll(Enumerable.Range(0, 8).Select(i =>
            Task.Run(() => Depot.MoveAsync(DepotPath.Of("p/lock"), DepotPath.Of($"p/stale{i}"), Cancel), Cancel)));
        moved.Count(m => m).ShouldBe(1);
        (await Depot.MakeFolderAsync(DepotPath.Of("no/such/parent"), Cancel)).Problem.ShouldBeOfType<NotInDepot>();
    }

    [Fact]
    public async Task What_is_not_there_is_said_so_and_removing_it_is_no_fault()
    {
        (await Depot.OpenAsync(DepotPath.Of("nothing/here"), Cancel)).Problem.ShouldBeOfType<NotInDepot>();
        (await Depot.ListAsync(DepotPath.Of("nothing"), Cancel)).ShouldBeEmpty();
        await Depot.RemoveAsync(DepotPath.Of("nothing"), Cancel);
        await SaveAsync(Letter, [1]);
        await Depot.RemoveAsync(DepotPath.Of("ida"), Cancel);
        (await ReadAsync(Letter)).ShouldBeNull();
        // What was made before is made again when it is gone.
        (await SaveAsync(Letter, [2])).IsOk.ShouldBeTrue();
        (await ReadAsync(Letter)).ShouldBe([2]);
    }

    [Fact]
    public async Task A_save_never_replaces_a_folder_and_never_goes_through_a_file()
    {
        await SaveAsync(Letter, "letter"u8.ToArray());
        (await SaveAsync(Letter.Parent, "a file of the folder's name"u8.ToArray())).Problem.ShouldBeOfType<DepotRefused>();
        (await SaveAsync(Letter / "below", "x"u8.ToArray())).Problem.ShouldBeOfType<DepotRefused>();
        (await ReadAsync(Letter)).ShouldBe("letter"u8.ToArray());
        (await Depot.ListAsync(Aside.Parent, Cancel)).ShouldBeEmpty();
        (await Depot.MoveAsync(Letter, Letter.Parent, Cancel)).ShouldBeFalse();
        (await Depot.MoveAsync(DepotPath.Of("ida/nothing"), DepotPath.Of("ida/else"), Cancel)).ShouldBeFalse();
        (await Depot.MoveAsync(Letter.Parent, DepotPath.Of("ida/Papers"), Cancel)).ShouldBeTrue();
        (await ReadAsync(DepotPath.Of("ida/Papers/letter.txt"))).ShouldBe("letter"u8.ToArray());
        // Where the folder was, a file may stand now.
        (await SaveAsync(Letter.Parent, [7])).IsOk.ShouldBeTrue();
    }

    [Fact]
    public async Task Many_saves_at_once_do_not_disturb_each_other()
    {
        await Parallel.ForEachAsync(Enumerable.Range(0, 60), new ParallelOptions
        {
            MaxDegreeOfParallelism = 8,
            CancellationToken = Cancel
        }, async (i, stop) =>
        {
            var content = Encoding.UTF8.GetBytes(new string((char)('a' + (i % 26)), 1000 + i));
            (await Depot.SaveAsync(
                DepotPath.Of($"many/{i % 7}/f{i}"),
                DepotPath.Of($"aside/{i}"),
                () => new MemoryStream(content),
                content.Length,
                stop)).IsOk.ShouldBeTrue();
        });
        for (var i = 0; i < 60; i++) (await ReadAsync(DepotPath.Of($"many/{i % 7}/f{i}")))!.Length.ShouldBe(1000 + i);
    }

    [Fact]
    public async Task A_large_save_that_was_stopped_goes_on_inside_the_file()
    {
        var bytes = new byte[40_000_000];
        new Random(7).NextBytes(bytes);
        var aside = DepotPath.Of("ida/aside/on-1");
        using (var stop = CancellationTokenSource.CreateLinkedTokenSource(Cancel))
            await Should.ThrowAsync<OperationCanceledException>(() => Depot.SaveAsync(
                Letter,
                aside,
                new(() => new StreamThatTells(bytes, at => { if (at > 20_000_000) stop.Cancel(); }), bytes.Length, goesOn: true),
                stop.Token));
        (await ReadAsync(Letter)).ShouldBeNull();
        (await Depot.ListAsync(aside.Parent, Cancel)).Single().Bytes.ShouldBeInRange(1_000_000, 39_999_999);
        // What lies there is taken as its beginning: a first byte that differs now shows that it was not sent again.
        var (first, changed) = (bytes[0], (byte)(bytes[0] + 1));
        bytes[0] = changed;
        (await Depot.SaveAsync(Letter, aside, new(() => new MemoryStream(bytes), bytes.Length, goesOn: true), Cancel)).Value
            .ShouldBe(bytes.Length);
        bytes[0] = first;
        (await ReadAsync(Letter)).AsSpan().SequenceEqual(bytes).ShouldBeTrue();
        // What lies there and is longer is nobody's beginning.
        await SaveAsync(aside, new byte[bytes.Length + 1]);
        (await Depot.SaveAsync(Letter, aside, new(() => new MemoryStream(bytes), bytes.Length, goesOn: true), Cancel)).IsOk.ShouldBeTrue();
        (await ReadAsync(Letter)).AsSpan().SequenceEqual(bytes).ShouldBeTrue();
        (await Depot.ListAsync(aside.Parent, Cancel)).ShouldBeEmpty();
    }

    private sealed class StreamThatTells(byte[] bytes, Action<long> tell) : MemoryStream(bytes, writable: false)
    {
        public override int Read(byte[] buffer, int offset, int count)
        {
            tell(Position);
            return base.Read(buffer, offset, count);
        }

        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            tell(Position);
            return await base.ReadAsync(buffer, cancellationToken);
        }
    }

    private sealed class StreamThatEndsAfter(int bytes) : MemoryStream(new byte[bytes], writable: false);
}
