using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files;
using YardRelay.Files.Posix;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Depots;

/// <summary>Depots and new computers on a real disk that is too small, holds less than it says, or takes nothing.</summary>
public sealed class SmallDiskTests : IAsyncDisposable
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");
    private readonly TempFolder _folder = new();
    private readonly List<IAsyncDisposable> _shares = [];
    private SmallDisk? _disk;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public SmallDiskTests()
    {
        Assert.SkipUnless(SmallDisk.MayBeMade, "Nothing may be mounted here.");
        var random = new Random(5);
        Directory.CreateDirectory(_folder["home"]);
        for (var i = 0; i < 60; i++)
        {
            var content = new byte[200_000];
            random.NextBytes(content);
            File.WriteAllBytes(_folder[$"home/photo {i}.jpg"], content);
        }
    }

    private SmallDisk Disk(long bytes, long? holds = null) => _disk = new(bytes, holds);

    private async Task<IDepot> DepotAsync(string kind)
    {
        if (kind == "folder") return new FolderDepot(TreeRoot.Here(_disk!.At));
        if (kind == "by POSIX") return new FolderDepot(new(PosixFileSystem.Here, _disk!.At));
        var share = await CloudShare.StartAsync(new() { Folder = _disk!.At, Settles = true });
        _shares.Add(share);
        return new WebDavDepot(new(share.Address), new() { FirstWait = TimeSpan.FromMilliseconds(5), Tries = 3 });
    }

    private Task<Result<TripReport>> CarryAsync(IDepot depot) =>
        new Trip(depot, Parcel, new(), new(), ThreadWork.Here).RunAsync(TreeRoot.Here(_folder["home"]), Cancel);

    [Theory, InlineData("folder"), InlineData("by POSIX"), InlineData("served")]
    public async Task What_the_disk_did_not_take_never_counts_and_comes_once_the_disk_is_mended(string kind)
    {
        var disk = Disk(64 << 20, holds: 7 << 20);
        using (var depot = await DepotAsync(kind))
        {
            var broke = await Record.ExceptionAsync(async () => (await CarryAsync(depot)).Value.IsWhole.ShouldBeFalse());
            if (broke is not null) broke.ShouldBeOfType<DepotNotTakenException>();
        }
        disk.Mend();
        using (var again = await DepotAsync(kind)) (await CarryAsync(again)).Value.IsWhole.ShouldBeTrue();
        await LetGoAsync();
        disk.MountAgain();
        using var after = await DepotAsync("folder");
        var restored = await new Restore(after, Parcel, 4, new(), ThreadWork.Here, LandingPlan.Original)
            .RunAsync(TreeRoot.Here(_folder["new"]), Cancel);
        restored.Value.IsWhole.ShouldBeTrue();
        Run.To("diff", "-r", _folder["home"], _folder["new"]).All.ShouldBeEmpty();
    }

    [Theory, InlineData("folder"), InlineData("by POSIX"), InlineData("served")]
    public async Task A_full_disk_is_said_and_the_same_trip_goes_on_once_there_is_room(string kind)
    {
        var disk = Disk(18 << 20);
        var somebodyElses = Path.Combine(disk.At, "films");
        await File.WriteAllBytesAsync(somebodyElses, new byte[11 << 20], Cancel);
        using var depot = await DepotAsync(kind);
        await Should.ThrowAsync<DepotFullException>(() => CarryAsync(depot));
        File.Delete(somebodyElses);
        var report = (await CarryAsync(depot)).Value;
        (report.IsWhole, report.Kept.Files + report.Added.Files).ShouldBe((true, 60));
    }

    [Theory, InlineData("folder"), InlineData("by POSIX"), InlineData("served")]
    public async Task A_disk_that_takes_nothing_is_a_depot_that_cannot_be_used_and_what_is_on_it_can_be_had(string kind)
    {
        var disk = Disk(64 << 20);
        using (var before = await DepotAsync(kind)) (await CarryAsync(before)).Value.IsWhole.ShouldBeTrue();
        await LetGoAsync();
        disk.Shut();
        using var depot = await DepotAsync("folder");
        await Should.ThrowAsync<DepotUnreachableException>(() => CarryAsync(depot));
        (await new Restore(depot, Parcel, 4, new(), ThreadWork.Here, LandingPlan.Original)
            .RunAsync(TreeRoot.Here(_folder["new"]), Cancel)).Value.IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task A_restore_onto_a_disk_that_does_not_take_it_never_says_that_it_is_whole()
    {
        using (var depot = new FolderDepot(TreeRoot.Here(_folder.Make("depot")))) (await CarryAsync(depot)).Value.IsWhole.ShouldBeTrue();
        var disk = Disk(64 << 20, holds: 7 << 20);
        using var from = new FolderDepot(TreeRoot.Here(_folder["depot"]));
        Restore Restore() => new(from, Parcel, 4, new(), ThreadWork.Here, LandingPlan.Original);
        var broke = await Restore().RunAsync(TreeRoot.Here(disk.At + "/ida"), Cancel);
        (broke.IsOk && broke.Value.IsWhole).ShouldBeFalse();
        disk.Mend();
        (await Restore().RunAsync(TreeRoot.Here(disk.At + "/ida"), Cancel)).Value.IsWhole.ShouldBeTrue();
        disk.MountAgain();
        Run.To("diff", "-r", _folder["home"], disk.At + "/ida").All.ShouldBeEmpty();
    }

    private async Task LetGoAsync()
    {
        foreach (var share in _shares) await share.DisposeAsync();
        _shares.Clear();
    }

    public async ValueTask DisposeAsync()
    {
        await LetGoAsync();
        _disk?.Dispose();
        _folder.Dispose();
    }
}
