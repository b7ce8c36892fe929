using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Checks;

public sealed class WillItGoTests
{
    private static async Task<Foreseen> LookAsync(Given given, CarryList? list = null) =>
        (await new WillItGo(given.Depot, Given.Parcel, list ?? CarryList.Everything, new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken)).Value;

    private static string[] Signs(Foreseen foreseen) => [.. foreseen.Findings.Select(f => $"{f.Sign} {f.Check}")];

    [Fact]
    public async Task What_is_to_come_is_set_against_the_room_and_against_what_the_parcel_has()
    {
        using var given = new Given();
        given.Write("a", new string('a', 4000));
        given.Write("Downloads/b", new string('b', 5000));
        var before = await LookAsync(given);
        (before.Goes, before.Carried).ShouldBe((true, new Amount(2, 9000)));
        Signs(before).ShouldBe(["Good depot", "Good parcel", "Good room"]);
        await given.CarryAsync();
        (await LookAsync(given)).Carried.ShouldBe(Amount.None);
        given.Write("c", new string('c', 700));
        given.Depot = new DepotThat(given.Depot) { Room = new(600, null) };
        var full = await LookAsync(given);
        full.Goes.ShouldBeFalse();
        full.Findings.Single(f => f.Check == "room").Words
            .ShouldBe(
                "700 B are to come and 600 B are free: 100 B too little. Make room, leave something out with a carry list, or use another "
                    + "depot.");
        full.Findings.ShouldContain(f => f.Check == "largest", "the files of the parcel are larger than what is free");
        (await LookAsync(given, CarryList.Create([new("c", false, "not needed", "")], [], [], []).Value)).Findings
            .Single(f => f.Check == "room").Sign
            .ShouldBe(Sign.Good);
    }

    [Fact]
    public async Task What_a_trip_that_broke_off_has_staged_need_not_come_again()
    {
        using var given = new Given();
        for (var i = 0; i < 10; i++) given.Write($"{i}", new string('a', 1000));
        var inner = given.Depot;
        given.Depot = new DepotThat(inner)
        {
            Refuses = path => path.EndsWith("/7", StringComparison.Ordinal) ? new DepotFull("it", 1000) : null
        };
        await Should.ThrowAsync<IOException>(() => given.TryCarryAsync());
        given.Depot = new DepotThat(inner) { Room = new(5000, null) };
        var foreseen = await LookAsync(given);
        foreseen.Goes.ShouldBeTrue("what is left fits, all of it would not");
        foreseen.Findings.Single(f => f.Check == "parcel").Words.ShouldContain("goes on from there");
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task Names_that_the_depot_cannot_hold_are_counted_and_come_back_all_the_same()
    {
        using var given = new Given();
        foreach (var name in new[] { "what?", "a:b", "plain", "CASE", "case", new string('x', 130) + "/" + new string('y', 150) })
            given.Write(name, name);
        Run.Must("mkfifo", Path.Combine(given.Source, "pipe"));
        given.Depot = new DepotThat(given.Depot) { Features = f => f with { HoldsAnyName = false, TellsCase = false } };
        var foreseen = await LookAsync(given);
        foreseen.Goes.ShouldBeTrue("nothing of it stands in the way");
        Signs(foreseen).ShouldBe([
            "Good depot", "Good parcel", "Good room", "Note names", "Note case", "Note paths", "Note cannot-be-carried"
        ]);
        foreseen.Findings.Single(f => f.Check == "names").Words
            .ShouldStartWith("2 names have names that this depot cannot hold as they are: a:b, what?.");
        foreseen.Findings.Single(f => f.Check == "case").Words
            .ShouldStartWith("1 name differs from another only in case or in the form of an accent: case.");
        (await given.CarryAsync()).Snags.Count.ShouldBe(1);
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue();
        File.Delete(Path.Combine(given.Source, "pipe"));
        SampleTrees.Differences(given.Source, given.Target).Split('\n').Where(l => l.Contains("': f")).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_place_that_is_taken_and_a_depot_that_is_away_stop_it()
    {
        using var given = new Given();
        given.Write("a", "a");
        Directory.CreateDirectory(given.Bag);
        File.WriteAllText(Path.Combine(given.Bag, "notes.txt"), "somebody else's");
        (await LookAsync(given)).Findings.Single(f => f.Sign == Sign.Stop).Words.ShouldContain("no parcel of ours");
        given.Depot = new Carriage.Depots.Folders.FolderDepot(TreeRoot.Here(given["not-mounted"]));
        var gone = await LookAsync(given);
        (gone.Goes, gone.Findings.Single().Check).ShouldBe((false, "depot"));
    }

    [Fact]
    public async Task A_share_that_keeps_a_name_as_another_and_reports_success_is_found_out()
    {
        using var given = new Given();
        var depot = new DepotThat(given.Depot)
        {
            Mangles = n => n.Length > 200
                ? n[..200]
                : n.Replace("?b", "", StringComparison.Ordinal).Replace("%b", "", StringComparison.Ordinal).TrimEnd('.')
        };
        var probed = await DepotProbe.RunAsync(depot, ThreadWork.Here, TestContext.Current.CancellationToken);
        (probed.Features.HoldsAnyName, probed.NamesNotHeld, probed.LongestNameBytes).ShouldBe((false, "?% final-dot", 200));
        (await depot.ListAsync(DepotPath.Root, TestContext.Current.CancellationToken)).ShouldBeEmpty();
    }
}
