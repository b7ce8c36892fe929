using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files;
using YardRelay.Files.Posix;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

/// <summary>Who on a depot's system may reach what is staged there.</summary>
public sealed class DepotModesTests : IDisposable
{
    private static readonly DepotPath Parcel = DepotPath.Of("spring/ida");
    private readonly TempFolder _folder = new();
    private SshShare? _ssh;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private (IDepot Depot, string At) Open(string kind, DepotModes modes)
    {
        if (kind == "sftp")
        {
            _ssh ??= new();
            return (
                new SftpDepot(new(_ssh.Address), new() { HostKey = _ssh.HostKey, KeyFile = _ssh.KeyFile, Modes = modes }), _ssh.Content);
        }
        TreeRoot at = kind == "folder" ? TreeRoot.Here(_folder.Make("depot")) : new(PosixFileSystem.Here, _folder.Make("depot"));
        return (new FolderDepot(at, modes: modes), at.Path);
    }

    /// <summary>A home whose files everybody may read and write, some too large for a pack.</summary>
    private TreeRoot Home()
    {
        Directory.CreateDirectory(_folder["home/Letters"]);
        File.WriteAllText(_folder["home/Letters/one.txt"], "one");
        File.WriteAllBytes(_folder["home/photos.bin"], new byte[9_000_000]);
        Run.Must("chmod", "-R", "a+rwX", _folder["home"]);
        return TreeRoot.Here(_folder["home"]);
    }

    private static async Task CarryAsync(IDepot depot, TreeRoot home)
    {
        (await new Trip(depot, Parcel, new(), new(), ThreadWork.Here).RunAsync(home, Cancel)).Value.IsWhole.ShouldBeTrue();
        (await new Verification(depot, Parcel, 4, new(), ThreadWork.Here).RunAsync(Cancel)).Value.IsWhole.ShouldBeTrue();
    }

    private static List<string> Modes(string folder, string type) =>
        [.. Run.Must("find", folder, "-type", type, "-printf", "%m ").Split(' ', StringSplitOptions.RemoveEmptyEntries).Distinct().Order()];

    [Theory]
    [InlineData("folder", DepotModes.Private, "700", "600")]
    [InlineData("folder", DepotModes.Group, "770", "660")]
    [InlineData("by POSIX", DepotModes.Private, "700", "600")]
    [InlineData("sftp", DepotModes.Private, "700", "600")]
    [InlineData("sftp", DepotModes.Group, "770", "660")]
    public async Task What_is_staged_has_the_depots_modes_and_gets_them_again_where_it_came_back_with_others(
        string kind, DepotModes modes, string folders, string files)
    {
        var home = Home();
        var (depot, at) = Open(kind, modes);
        using (depot)
        {
            (await depot.ProbeAsync(Cancel)).Modes.ShouldBe(modes);
            await CarryAsync(depot, home);
            Modes($"{at}/spring/ida", "d").ShouldBe([folders]);
            Modes($"{at}/spring/ida", "f").ShouldBe([files]);
            // What parcels of many share is made as the system makes folders.
            Run.Must("stat", "-c", "%a", $"{at}/spring").Trim().ShouldNotBe(folders);
            // As a copy of it came back, say.
            Run.Must("chmod", "-R", "a+rwX", $"{at}/spring");
            File.WriteAllText(_folder["home/Letters/two.txt"], "two");
            await CarryAsync(depot, home);
            Run.Must("stat", "-c", "%a", $"{at}/spring/ida").Trim().ShouldBe(folders);
        }
    }

    [Fact]
    public async Task A_group_gets_what_its_folder_hands_down()
    {
        var (depot, at) = Open("folder", DepotModes.Group);
        Run.Must("chmod", "2775", at);
        using (depot) await CarryAsync(depot, Home());
        Modes($"{at}/spring/ida", "d").ShouldBe(["2770"]);
    }

    [Fact]
    public async Task Where_nothing_is_set_or_kept_that_is_said()
    {
        var home = Home();
        var (depot, at) = Open("folder", DepotModes.AsMounted);
        using (depot)
        {
            await CarryAsync(depot, home);
            Modes($"{at}/spring/ida", "f").ShouldContain("644");
            await SaidAsync(depot);
        }
        using var share = new SmbShare();
        using var mounted = new FolderDepot(TreeRoot.Here(share.Folder));
        await SaidAsync(mounted);

        async Task SaidAsync(IDepot place)
        {
            (await place.ProbeAsync(Cancel)).Modes.ShouldBe(DepotModes.AsMounted);
            (await new WillItGo(place, DepotPath.Of("else"), CarryList.Everything, new(), ThreadWork.Here).RunAsync(home, Cancel))
                .Value.Findings.Single(f => f.Check == "modes").Words.ShouldContain("no permissions");
        }
    }

    [Theory]
    [InlineData("file:///srv/yard?modes=group", "file:///srv/yard?modes=group")]
    [InlineData("file:///srv/yard?modes=as-mounted#KB%203", "file:///srv/yard?modes=as-mounted#KB%203")]
    [InlineData("file:///srv/yard?modes=private", "file:///srv/yard")]
    [InlineData("sftp://ida@store.example/yard?modes=group", "sftp://ida@store.example/yard/?modes=group")]
    [InlineData("file:///srv/yard?modes=all", null)]
    [InlineData("sftp://ida@store.example/yard?mode=group", null)]
    [InlineData("https://cloud.example/yard?modes=group", null)]
    public void An_address_says_which_and_one_that_says_something_else_is_refused(string address, string? opened)
    {
        var result = DepotAddress.Open(address, new DepotAccess());
        if (opened is null) result.Problem.Code.ShouldBe("depot.modes");
        else
            using (var depot = result.Value)
                depot.Address.ShouldBe(opened);
    }

    public void Dispose()
    {
        _ssh?.Dispose();
        _folder.Dispose();
    }
}
