using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots.Sftp;

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
