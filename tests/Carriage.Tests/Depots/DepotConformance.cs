using System.Text;
using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Dav;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

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

public sealed class FolderDepotConformance : DepotConformance, IDisposable
{
    private readonly TempFolder _folder = new();

    public FolderDepotConformance() => Depot = new FolderDepot(TreeRoot.Here(_folder.At));

    protected override IDepot Depot { get; }

    [Fact]
    public async Task What_is_all_zeros_takes_no_room_and_comes_back_byte_for_byte()
    {
        var bytes = new byte[24_000_000];
        foreach (var at in new[] { 0, 5_000_000, 23_999_999 }) bytes[at] = 7;
        for (var turn = 0; turn < 2; turn++)
        {
            (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream(bytes), bytes.Length, Cancel)).Value.ShouldBe(bytes.Length);
            (await DepotTree.ReadAsync(Depot, Letter, Cancel)).AsSpan().SequenceEqual(bytes).ShouldBeTrue();
            long.Parse(Run.Must("stat", "-c", "%b", _folder["ida/Documents/letter.txt"])).ShouldBeLessThan(10_000, "blocks of 512 bytes");
            // And one that ends in nothing.
            bytes[^1] = 0;
        }
    }

    [Fact]
    public async Task Nothing_is_read_or_written_through_a_link()
    {
        using var outside = new TempFolder();
        File.WriteAllText(outside["secret"], "outside");
        File.CreateSymbolicLink(_folder["way"], outside.At);
        (await Depot.OpenAsync(DepotPath.Of("way/secret"), Cancel)).Problem.ShouldBeOfType<NotInDepot>();
        (await Depot.SaveAsync(
            DepotPath.Of("way/new"), Aside, () => new MemoryStream([1]), 1, Cancel)).Problem.ShouldBeOfType<DepotRefused>();
        await Depot.RemoveAsync(DepotPath.Of("way"), Cancel);
        Directory.GetFiles(outside.At).ShouldBe([outside["secret"]]);
    }

    [Fact]
    public async Task A_folder_that_is_not_there_is_a_depot_that_cannot_be_reached()
    {
        using var gone = new FolderDepot(TreeRoot.Here(_folder["not-mounted"]));
        (await Should.ThrowAsync<DepotUnreachableException>(() => gone.ProbeAsync(Cancel))).Message.ShouldContain("mounted");
    }

    public void Dispose()
    {
        Depot.Dispose();
        _folder.Dispose();
    }
}

public sealed class CloudDepotConformance : DepotConformance, IAsyncLifetime
{
    private readonly TempFolder _folder = new();
    private CloudShare _share = null!;
    private WebDavDepot _depot = null!;

    protected override IDepot Depot => _depot;

    public async ValueTask InitializeAsync()
    {
        _share = await CloudShare.StartAsync(new() { Folder = _folder.At, QuotaBytes = 90_000_000 });
        _depot = new(new(_share.Address), new() { FirstWait = TimeSpan.FromMilliseconds(5), Tries = 4 });
    }

    [Fact]
    public async Task A_full_share_is_said_so_with_nothing_changed_under_the_name()
    {
        (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream(new byte[10]), 10, Cancel)).IsOk.ShouldBeTrue();
        (await Depot.SaveAsync(
            Letter, Aside, () => new MemoryStream(new byte[100_000_000]), 100_000_000, Cancel)).Problem.ShouldBeOfType<DepotFull>();
        (await DepotTree.ReadAsync(Depot, Letter, Cancel))!.Length.ShouldBe(10);
        (await Depot.RoomAsync(Cancel)).ShouldBe(new DepotRoom(90_000_000 - 10, 10));
    }

    [Theory]
    [InlineData(PartialPut.Kept)]
    [InlineData(PartialPut.Refused)]
    [InlineData(PartialPut.Mistaken)]
    public async Task Parts_of_a_file_are_sent_only_where_the_share_was_seen_to_keep_them(PartialPut does)
    {
        using var folder = new TempFolder();
        await using var share = await CloudShare.StartAsync(new() { Folder = folder.At, PartialPut = does });
        using var depot = new WebDavDepot(new(share.Address), new());
        var (bytes, puts) = (new byte[70_000_000], 0);
        new Random(1).NextBytes(bytes);
        share.Fails = request =>
        {
            if (request.Contains("PUT /aside/on-1", StringComparison.Ordinal)) puts++;
            return false;
        };
        (await depot.SaveAsync(
            Letter,
            DepotPath.Of("aside/on-1"),
            new(() => new MemoryStream(bytes), bytes.Length, goesOn: true),
            Cancel)).IsOk.ShouldBeTrue();
        (await DepotTree.ReadAsync(depot, Letter, Cancel)).AsSpan().SequenceEqual(bytes).ShouldBeTrue();
        puts.ShouldBe(does == PartialPut.Kept ? 4 : 1);
    }

    [Fact]
    public async Task A_share_with_bad_days_is_tried_again_and_one_that_stays_away_is_given_up_with_the_content_opened_anew_each_time()
    {
        var (requests, opened) = (0, 0);
        _share.Fails = _ => Interlocked.Increment(ref requests) % 2 == 1;
        (await Depot.SaveAsync(Letter, Aside, () => { opened++; return new MemoryStream([1, 2, 3]); }, 3, Cancel)).IsOk.ShouldBeTrue();
        (await DepotTree.ReadAsync(Depot, Letter, Cancel)).ShouldBe([1, 2, 3]);
        _share.Fails = static _ => true;
        (await Should.ThrowAsync<DepotUnreachableException>(() => Depot.OpenAsync(Letter, Cancel))).Message.ShouldContain("503");
    }

    public async ValueTask DisposeAsync()
    {
        _depot.Dispose();
        await _share.DisposeAsync();
        _folder.Dispose();
    }
}

public sealed class ApacheDepotConformance : DepotConformance, IDisposable
{
    private readonly ApacheShare _share = new();

    public ApacheDepotConformance() => Depot = new WebDavDepot(new(_share.Address), new());

    protected override IDepot Depot { get; }

    [Fact]
    public async Task A_file_that_it_will_not_give_and_one_that_it_will_not_remove_are_there_all_the_same()
    {
        await Depot.SaveAsync(Letter, Aside, () => new MemoryStream([1]), 1, Cancel);
        Run.Must("chown", "-R", "root", Path.Combine(_share.Content, "ida/Documents"));
        Run.Must("chmod", "0", Path.Combine(_share.Content, Letter.Text));
        Run.Must("chmod", "0755", Path.Combine(_share.Content, "ida/Documents"));
        await Should.ThrowAsync<DepotUnreachableException>(() => Depot.OpenAsync(Letter, Cancel));
        await Should.ThrowAsync<DepotUnreachableException>(() => Depot.RemoveAsync(Letter, Cancel));
        (await Depot.OpenAsync(Letter.Parent, Cancel)).Problem.ShouldBeOfType<NotInDepot>();
    }

    public void Dispose()
    {
        Depot.Dispose();
        _share.Dispose();
    }
}

public sealed class SftpDepotConformance : DepotConformance, IDisposable
{
    private readonly SshShare _share = new();

    public SftpDepotConformance() => Depot = Open(new() { HostKey = _share.HostKey });

    protected override IDepot Depot { get; }

    private SftpDepot Open(SftpDepotOptions options) =>
        new(new(_share.Address), options with { KeyFile = _share.KeyFile, FirstWait = TimeSpan.FromMilliseconds(50) });

    [Fact]
    public async Task A_server_whose_key_is_not_known_is_refused_with_the_key_that_it_has()
    {
        using var file = new TempFolder();
        async Task RefusedAsync(SftpDepotOptions options)
        {
            using var depot = Open(options);
            (await Should.ThrowAsync<DepotUnreachableException>(() => depot.ProbeAsync(Cancel))).Message.ShouldContain(_share.HostKey);
        }

        await RefusedAsync(new() { HostKey = "SHA256:" + new string('A', 43) });
        await RefusedAsync(new() { KnownHosts = file["none"] });
        File.WriteAllText(file["known"], "# mine\nelsewhere.example ssh-ed25519 AAAA\n" + _share.KnownHost + "\n");
        using (var known = Open(new() { KnownHosts = file["known"] })) (await known.ProbeAsync(Cancel)).TellsCase.ShouldBeTrue();
        Run.Must("ssh-keygen", "-q", "-H", "-f", file["known"]);
        File.ReadAllText(file["known"]).ShouldContain("|1|");
        using (var hashed = Open(new() { KnownHosts = file["known"] })) (await hashed.ProbeAsync(Cancel)).TellsCase.ShouldBeTrue();
        File.WriteAllText(file["known"], _share.KnownHost + "\n@revoked " + _share.KnownHost + "\n");
        await RefusedAsync(new() { KnownHosts = file["known"] });
        using var stranger = new SftpDepot(new(_share.Address), new() { HostKey = _share.HostKey, Password = "wrong" });
        (await Should.ThrowAsync<DepotUnreachableException>(() => stranger.ProbeAsync(Cancel))).Message.ShouldContain("refused the user");
    }

    [Fact]
    public async Task What_the_server_can_say_nothing_of_is_not_taken_for_absent()
    {
        using var dead = new SmbShare();
        dead.KillMount();
        var below = Path.GetDirectoryName(Path.GetDirectoryName(Path.GetDirectoryName(dead.Folder)))!;
        using var depot = new SftpDepot(
            new(_share.Address.Replace(_share.Content, below, StringComparison.Ordinal)),
            new() { HostKey = _share.HostKey, KeyFile = _share.KeyFile, FirstWait = TimeSpan.FromMilliseconds(50) });
        await Should.ThrowAsync<DepotUnreachableException>(() => depot.ListAsync(DepotPath.Of("mount"), Cancel));
        await Should.ThrowAsync<DepotUnreachableException>(() => depot.OpenAsync(DepotPath.Of("mount/letter.txt"), Cancel));
        (await depot.ListAsync(DepotPath.Of("nothing"), Cancel)).ShouldBeEmpty();
        (await depot.OpenAsync(DepotPath.Of("share/" + new string('n', 300)), Cancel)).Problem.ShouldBeOfType<NotInDepot>();
    }

    [Fact]
    public async Task A_connection_that_broke_is_made_again()
    {
        (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream([1, 2]), 2, Cancel)).IsOk.ShouldBeTrue();
        _share.Restart();
        (await Depot.SaveAsync(Letter, Aside, () => new MemoryStream([3]), 1, Cancel)).IsOk.ShouldBeTrue();
        (await DepotTree.ReadAsync(Depot, Letter, Cancel)).ShouldBe([3]);
        (await Depot.RoomAsync(Cancel)).FreeBytes!.Value.ShouldBeGreaterThan(0);
    }

    public void Dispose()
    {
        Depot.Dispose();
        _share.Dispose();
    }
}

/// <summary>A share of a real SMB server, mounted as a folder.</summary>
public sealed class SambaDepotConformance : DepotConformance, IDisposable
{
    private readonly SmbShare _share = new();

    public SambaDepotConformance() => Depot = new FolderDepot(TreeRoot.Here(_share.Folder));

    protected override IDepot Depot { get; }

    public void Dispose()
    {
        Depot.Dispose();
        _share.Dispose();
    }
}

public sealed class LimitedDepotConformance : DepotConformance, IDisposable
{
    private readonly TempFolder _folder = new();

    public LimitedDepotConformance() =>
        Depot = new LimitedDepot(new FolderDepot(TreeRoot.Here(_folder.At)), new(ThreadWork.Here) { BytesPerSecond = 50_000_000 });

    protected override IDepot Depot { get; }

    public void Dispose()
    {
        Depot.Dispose();
        _folder.Dispose();
    }
}
