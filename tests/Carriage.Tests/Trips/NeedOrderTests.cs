using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>What is needed first is carried first, and where room is short the rest is named and still to come.</summary>
public sealed class NeedOrderTests
{
    private static void Fill(Given given, string home = "")
    {
        for (var i = 0; i < 20; i++)
        {
            given.Write($"{home}Desktop/note {i}.txt", new string('d', 1000));
            given.Write($"{home}Documents/deep/paper {i}.txt", new string('p', 2000));
            given.Write($"{home}Archive/old {i}.txt", new string('a', 5000));
            given.Write($"{home}Pictures/gull {i}.jpg", new string('g', 90_000));
        }
        given.Write($"{home}.config/program/settings.ini", "settings");
    }

    /// <summary>Two homes of 81 files at a depot with room for all that is needed and a part of the rest, after one trip.</summary>
    private static async Task<(TripReport Report, IDepot Roomy)> ShortOfRoomAsync(Given given)
    {
        foreach (var home in new[] { "ida/", "sol/" }) Fill(given, home);
        var depot = given.Depot;
        given.Depot = new DepotThat(depot) { Room = new(1_000_000, 0) };
        return (await given.CarryAsync(), depot);
    }

    private static Given ByNeed(bool seals) => new() { Seals = seals, ByNeed = true };

    [Theory, InlineData(false), InlineData(true)]
    public async Task Where_room_is_short_what_stays_is_named_and_counted(bool seals)
    {
        using var given = ByNeed(seals);
        var (report, _) = await ShortOfRoomAsync(given);
        report.IsWhole.ShouldBeFalse();
        (report.Seen.Files, report.Carried.Files + report.Open.Files).ShouldBe((2 * 81, 2 * 81));
        report.Snags.ShouldAllBe(s => s.Kind == SnagKind.NoRoom && s.Path.EndsWith('/'));
        (report.Snags.Sum(s => s.Files), report.Snags.Sum(s => s.Bytes)).ShouldBe((report.Open.Files, report.Open.Bytes));
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task Where_room_is_short_it_is_used_for_what_is_needed_in_every_home(bool seals)
    {
        using var given = ByNeed(seals);
        var (report, _) = await ShortOfRoomAsync(given);
        report.Open.Bytes.ShouldBeGreaterThan(2_000_000);
        report.Carried.Bytes.ShouldBeInRange(500_000, 1_000_000);
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        (await given.RestoreAsync()).IsWhole.ShouldBeTrue("what came, came whole");
        foreach (var home in new[] { "ida", "sol" })
        {
            Directory.GetFiles(Path.Combine(given.Target, home, "Desktop")).Length.ShouldBe(20);
            Directory.GetFiles(Path.Combine(given.Target, home, "Documents/deep")).Length.ShouldBe(20);
            File.Exists(Path.Combine(given.Target, home, ".config/program/settings.ini")).ShouldBeTrue();
        }
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task When_there_is_room_again_the_next_trip_brings_what_is_missing_and_nothing_twice(bool seals)
    {
        using var given = ByNeed(seals);
        var (report, roomy) = await ShortOfRoomAsync(given);
        given.Depot = roomy;
        var rest = await given.CarryAsync();
        (rest.IsWhole, rest.Added.Files).ShouldBe((true, report.Open.Files));
        await given.RestoreAsync();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }

    [Theory, InlineData(false), InlineData(true)]
    public async Task What_the_carry_list_names_first_is_in_the_depot_before_anything_else(bool seals)
    {
        using var given = new Given { Seals = seals };
        Fill(given);
        SampleTrees.MakeHostile(Path.Combine(given.Source, "Odd"), 5, 60);
        given.CarryList = CarryList.Create([], [], [], ["Pictures", "Desktop/note 7.txt"]).Value;
        var order = new List<string>();
        given.Depot = new DepotThat(given.Depot)
        {
            BeforeSave = path =>
            {
                lock (order) if (path.StartsWith("ida/data/", StringComparison.Ordinal)) order.Add(path["ida/data/".Length..]);
            }
        };
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        if (!seals)
        {
            order.Take(20).ShouldAllBe(p => p.StartsWith("Pictures/"));
            order[20].ShouldBe("Desktop/note 7.txt");
            order.Count.ShouldBe(order.Distinct().Count(), "nothing goes twice");
        }
        (await given.VerifyAsync()).Damages.ShouldBeEmpty();
        await given.RestoreAsync();
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty();
    }
}
