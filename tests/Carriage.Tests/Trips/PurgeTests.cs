using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

public sealed class PurgeTests
{
    private static Task<YardRelay.Core.Result<PurgeReport>> PurgeAsync(Given given, string confirmed, IDepot? depot = null) =>
        new Purge(depot ?? given.Depot, Given.Parcel, ThreadWork.Here).RunAsync(confirmed, TestContext.Current.CancellationToken);

    [Theory, InlineData("folder"), InlineData("cloud")]
    public async Task A_purged_parcel_is_gone_and_nothing_else(string kind)
    {
        using var given = new Given();
        using var folder = new TempFolder();
        await using var cloud = kind == "cloud" ? await CloudShare.StartAsync(new() { Folder = folder.At }) : null;
        if (cloud is not null) given.Depot = new WebDavDepot(new(cloud.Address), new());
        SampleTrees.MakeHostile(given.Source, 31, 60);
        var carried = await given.CarryAsync();
        (await new Trip(given.Depot, DepotPath.Of("ida-2"), new(), new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken)).IsOk.ShouldBeTrue();
        (await PurgeAsync(given, "ida-2")).Problem.ShouldBeOfType<PurgeUnconfirmed>();
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue("nothing was removed");
        var report = (await PurgeAsync(given, "ida")).Value;
        (report.Left.Count, report.Removed).ShouldBe((0, carried.Carried));
        (await given.Depot.ListAsync(DepotPath.Root, TestContext.Current.CancellationToken)).Select(n => n.Name).ShouldBe(["ida-2"]);
        (await PurgeAsync(given, "ida")).Problem.ShouldBeOfType<NoParcel>();
    }

    [Fact]
    public async Task A_purge_that_was_killed_goes_on_and_one_beside_another_hand_is_refused()
    {
        using var given = new Given();
        for (var i = 0; i < 5; i++) given.Write($"{i}", "text");
        await given.CarryAsync();
        var held = (await ParcelLock.TakeAsync(
            given.Depot, new(Given.Parcel), ThreadWork.Here, TestContext.Current.CancellationToken)).Value;
        (await PurgeAsync(given, "ida")).Problem.ShouldBeOfType<ParcelLocked>();
        await held.DisposeAsync();
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue();
        // As a killed one leaves it: most is gone, and what says that it is a parcel is still there.
        Directory.Delete(Path.Combine(given.Bag, "data"), recursive: true);
        File.Delete(Path.Combine(given.Bag, "yard/entries.jsonl"));
        (await PurgeAsync(given, "ida")).Value.Left.ShouldBeEmpty();
        Directory.Exists(given.Bag).ShouldBeFalse();
    }
}
