using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Trips;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>
/// A share with bad days: one request in eleven is refused, dropped, done without a reply, or answered by half, by a seeded plan.
/// </summary>
public sealed class FaultyShareTests
{
    /// <summary>A few seeds each time; more when asked for: <c>YARD_SEEDS=100</c>.</summary>
    public static IEnumerable<TheoryDataRow<int, bool>> Seeds => Peers.Seeds.Of(3).Select(s => new TheoryDataRow<int, bool>(s, s % 2 == 0));

    [Theory, MemberData(nameof(Seeds))]
    public async Task Nothing_is_lost_and_nothing_is_there_twice(int seed, bool seals)
    {
        using var given = new Given { Seals = seals, Answers = true };
        using var folder = new TempFolder();
        await using var cloud = await CloudShare.StartAsync(new() { Folder = folder.At, FaultRate = 0.09, FaultSeed = seed });
        given.Depot = new WebDavDepot(new(cloud.Address), new() { FirstWait = TimeSpan.FromMilliseconds(20), Tries = 9 });
        var tree = new LivingTree(given.Source, seed);
        tree.Change(25);
        given.Write("large", new string('x', 3_000_000));
        for (var round = 0; round < 2; round++)
        {
            var report = await given.CarryAsync();
            report.Snags.ShouldBeEmpty(tree.Story);
            (await given.VerifyAsync()).Damages.ShouldBeEmpty(tree.Story);
            (await given.TryRestoreAsync(given[$"target{round}"])).Value.IsWhole.ShouldBeTrue(tree.Story);
            SampleTrees.Differences(given.Source, given[$"target{round}"]).ShouldBeEmpty(tree.Story);
            tree.Change(10);
        }
    }

    [Fact]
    public async Task A_move_whose_answer_is_lost_on_its_way_is_a_move_all_the_same()
    {
        var cancel = TestContext.Current.CancellationToken;
        using var folder = new TempFolder();
        await using var cloud = await CloudShare.StartAsync(new() { Folder = folder.At, FaultRate = 0.3, FaultSeed = 5 });
        using var depot = new WebDavDepot(new(cloud.Address), new() { FirstWait = TimeSpan.FromMilliseconds(1), Tries = 30 });
        for (var i = 0; i < 22; i++)
        {
            await File.WriteAllTextAsync(Path.Combine(folder.At, $"from{i}"), "moved", cancel);
            (await depot.MoveAsync(DepotPath.Of($"from{i}"), DepotPath.Of($"to{i}"), cancel)).ShouldBeTrue($"move {i}");
            File.Exists(Path.Combine(folder.At, $"to{i}")).ShouldBeTrue();
            (await depot.MoveAsync(DepotPath.Of($"from{i}"), DepotPath.Of($"again{i}"), cancel)).ShouldBeFalse("it is gone");
        }
    }

    [Fact]
    public async Task A_share_that_says_when_to_come_again_is_not_asked_before_and_one_that_wants_hours_is_given_up_at_once()
    {
        using var given = new Given();
        using var folder = new TempFolder();
        await using var cloud = await CloudShare.StartAsync(new() { Folder = folder.At, FaultRate = 1, FaultSeed = 8 });
        using var depot = new WebDavDepot(new(cloud.Address), new()
        {
            FirstWait = TimeSpan.FromMilliseconds(1),
            Tries = 3,
            LongestAsked = TimeSpan.FromMilliseconds(200)
        });
        var refused = 0;
        for (var i = 0; i < 12; i++)
        {
            var broke = await Should.ThrowAsync<YardRelay.Carriage.Depots.DepotUnreachableException>(() =>
                depot.RoomAsync(TestContext.Current.CancellationToken));
            if (broke.Message.Contains("asks to come again", StringComparison.Ordinal)) refused++;
        }
        refused.ShouldBeGreaterThan(3);
    }
}
