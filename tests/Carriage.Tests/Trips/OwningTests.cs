using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Simulated;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>Whose files a restore makes, where an administrator restores, on a disk in memory.</summary>
public sealed class OwningTests : IDisposable
{
    private static readonly NodeOwner Ida = new(1000, 1001), Sol = new(2000, 2001), Root = new(0, 0);
    private readonly SimulatedDisk _disk = new(TimeProvider.System);
    private readonly FolderDepot _depot;

    public OwningTests()
    {
        _disk.At("/depot").TryMake(out _)!.Dispose();
        _depot = new(_disk.At("/depot"));
        using var home = _disk.At("/home").TryMake(out _)!;
        Make(home, "letter", 0x1A4, Ida);
        Make(home, "tool", 0x9ED, Sol);
        Make(home, "own-tool", 0xDED, Ida);
        home.MakeLink("link"u8, "letter"u8);
        home.TryMakeFolder("shared"u8, 0x5ED, out _);
        using var shared = home.OpenFolderAt("shared"u8);
        shared.TrySetOwner(Sol);
        shared.SetMode(0x5ED);
        Make(shared, "inside", 0x1A4, Sol);
    }

    private static void Make(OpenFolder folder, string name, ushort mode, NodeOwner owner)
    {
        using var file = folder.OpenFileAt(Encoding.UTF8.GetBytes(name), FileUse.MakeNew);
        file.Write(0, Encoding.UTF8.GetBytes(name));
        file.TrySetOwner(owner);
        file.SetMode(mode);
    }

    private async Task<RestoreReport> RestoreAsync(OwnerRule? owners)
    {
        await new Trip(_depot, DepotPath.Of("p"), new(), new(), ThreadWork.Here)
            .RunAsync(_disk.At("/home"), TestContext.Current.CancellationToken);
        using (var ida = _disk.At("/new/ida").TryMake(out _)!) ida.TrySetOwner(Ida);
        var restore = new Restore(_depot, DepotPath.Of("p"), 4, new(), ThreadWork.Here, LandingPlan.Original) { Owners = owners };
        return (await restore.RunAsync(_disk.At("/new/ida/back/again"), TestContext.Current.CancellationToken)).Value;
    }

    private NodeFacts Facts(string path)
    {
        using var root = _disk.At("/new/ida").Open();
        var (folder, name) = (Path.GetDirectoryName(path)!, Path.GetFileName(path));
        using var open = root.OpenFolderAt(Encoding.UTF8.GetBytes(folder));
        return open.TryFacts(Encoding.UTF8.GetBytes(name), out _)!.Value;
    }

    private static readonly string[] All =
        ["back/again", "back/again/letter", "back/again/link", "back/again/tool", "back/again/shared", "back/again/shared/inside"];

    [Fact]
    public async Task What_an_administrator_restores_belongs_to_the_owner_of_the_home_it_lands_in()
    {
        await RestoreAsync(new(To: null));
        foreach (var path in All) Facts(path).Owner.ShouldBe(Ida, path);
        Facts("back").Owner.ShouldBe(Ida, "also what is made on the way");
    }

    [Fact]
    public async Task Or_to_whom_is_said()
    {
        await RestoreAsync(new(Sol));
        foreach (var path in All) Facts(path).Owner.ShouldBe(Sol, path);
    }

    [Fact]
    public async Task Who_is_no_administrator_gives_nothing_away()
    {
        await RestoreAsync(null);
        foreach (var path in All) Facts(path).Owner.ShouldBe(Root, path);
    }

    [Fact]
    public async Task Rights_to_run_as_an_owner_come_back_only_where_the_owner_did_and_are_named_otherwise()
    {
        var report = await RestoreAsync(new(To: null));
        Convert.ToString(Facts("back/again/tool").Mode, 8).ShouldBe("755");
        Convert.ToString(Facts("back/again/own-tool").Mode, 8).ShouldBe("6755");
        Convert.ToString(Facts("back/again/shared").Mode, 8).ShouldBe("755");
        report.Snags.Select(s => (s.Path, s.Kind)).ShouldBe(
            [("shared", SnagKind.AttributeLost), ("tool", SnagKind.AttributeLost)], ignoreOrder: true);
        report.Snags.ShouldContain(s => s.Reason.Contains("without set-user-id"));
        report.Folders.Sum(f => f.Open.Files).ShouldBe(0);
    }

    public void Dispose() => _depot.Dispose();
}
