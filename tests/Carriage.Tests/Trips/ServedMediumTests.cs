using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Parcels;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A disk of the service, or of the computer that receives: asked over the network.</summary>
public sealed class ServedMediumTests : MediumTests
{
    private CloudShare _share = null!;

    protected override async Task<IDepot> DepotAsync(TreeRoot folder)
    {
        _share = await CloudShare.StartAsync(new() { Files = folder.Files, Folder = folder.Path, Settles = true, Boot = "Monday" });
        return new WebDavDepot(new(_share.Address), new() { FirstWait = TimeSpan.FromMilliseconds(5), Tries = 3 });
    }

    [Fact]
    public async Task What_came_before_its_computer_was_started_anew_does_not_count_and_comes_with_the_next_trip()
    {
        await Depot.ProbeAsync(TestContext.Current.CancellationToken);
        var moved = 0;
        _share.Fails = request =>
        {
            if (request.StartsWith("MOVE ", StringComparison.Ordinal) && Interlocked.Increment(ref moved) == 3) StartAnew();
            return false;
        };

        (await Should.ThrowAsync<DepotNotTakenException>(() => CarryAsync())).Message.ShouldContain("started anew");

        Disk.CutPower(new(1));
        // The one that carried ended, though its lock came back: here it is this very program.
        await Depot.RemoveAsync(DepotPath.Of("ida") / ParcelPaths.Lock, TestContext.Current.CancellationToken);
        using var after = new WebDavDepot(new(_share.Address), new());
        (await CarryAsync(depot: after)).Value.IsWhole.ShouldBeTrue();
        await IsThereAfterAPowerCutAsync();
    }

    private void StartAnew() =>
        _share.ServeAnew(new() { Files = Disk.At("/").Files, Folder = "/depot", Settles = true, Boot = "Tuesday" });

    [Fact]
    public async Task A_failure_of_its_disk_is_told_to_each_who_wrote_before_it()
    {
        var depots = Enumerable.Range(0, 2).Select(_ => new WebDavDepot(new(_share.Address), new())).ToList();
        foreach (var depot in depots) await depot.ProbeAsync(TestContext.Current.CancellationToken);
        Disk.Fails = call => call is { What: "sync", Path: "/depot" } ? Fault.Broken : Fault.None;
        await Should.ThrowAsync<DepotNotTakenException>(() => depots[0].SettleAsync(TestContext.Current.CancellationToken));
        Disk.Fails = null;
        await Should.ThrowAsync<DepotNotTakenException>(() => depots[1].SettleAsync(TestContext.Current.CancellationToken));
        await Depot.ProbeAsync(TestContext.Current.CancellationToken);
        await Depot.SettleAsync(TestContext.Current.CancellationToken);
        foreach (var depot in depots) depot.Dispose();
    }

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await _share.DisposeAsync();
    }
}
