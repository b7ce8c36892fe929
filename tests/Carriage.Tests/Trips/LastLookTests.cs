using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>The look before the only other copy of somebody's files is emptied.</summary>
public sealed class LastLookTests
{
    private static Task<Result<LastLookReport>> TryLookAsync(Given given) =>
        new LastLook(given.Depot, Given.Parcel, given.CarryList, given.Keys, new(), ThreadWork.Here)
            .RunAsync(TreeRoot.Here(given.Source), TestContext.Current.CancellationToken);

    private static async Task<LastLookReport> LookAsync(Given given) => (await TryLookAsync(given)).Value;

    // What was written just now may change once more within the same tick of the clock: the next trip looks again.
    private static async Task<TripReport> SettledAsync(Given given)
    {
        await given.CarryAsync();
        await Task.Delay(100, TestContext.Current.CancellationToken);
        return await given.CarryAsync();
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task It_says_the_same_of_a_source_as_the_next_trip_would_find(bool seals)
    {
        using var given = new Given { Seals = seals };
        SampleTrees.MakeHostile(given.Source, 5, 60);
        Run.Must("mkfifo", Path.Combine(given.Source, "a pipe"));
        var trip = await SettledAsync(given);
        var first = await LookAsync(given);
        (first.IsSame, first.Trip, first.Seen.Files).ShouldBe((true, 2, trip.Seen.Files), string.Join(", ", first.Examples));

        var edits = new (string Name, Action<string> Edit)[]
        {
            ("letter", at => File.WriteAllText(at, "Other words.")),
            ("letter", File.Delete),
            ("letter", at => Run.Must("chmod", "600", at)),
            ("letter", at => Run.Must("ln", "-sf", "elsewhere", at)),
            ("deep/new", at => File.WriteAllText(at, "")),
            ("deep/empty", at => Directory.CreateDirectory(at)),
            ("letter", at => Run.Must("sh", "-c", $"rm '{at}'; mkdir '{at}'; echo x > '{at}/inside'"))
        };
        foreach (var (name, edit) in edits)
        {
            Run.Must("rm", "-rf", Path.Combine(given.Source, "letter"), Path.Combine(given.Source, "deep"));
            given.Write("letter", "Other word.");
            given.Write("deep/old", "old");
            await SettledAsync(given);
            (await LookAsync(given)).IsSame.ShouldBeTrue();
            edit(Path.Combine(given.Source, name));
            var look = await LookAsync(given);
            look.IsSame.ShouldBeFalse(name);
            look.Examples.ShouldContain(e => e.StartsWith(name, StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task What_stays_behind_by_the_carry_list_may_change_and_what_is_not_mounted_is_gone()
    {
        using var given = new Given();
        given.Write("Documents/a", "a");
        given.Write("Cache/b", "b");
        given.CarryList = CarryList.Create([new("Cache", false, "clutter", "")], [], [], []).Value;
        await SettledAsync(given);
        given.Write("Cache/c", "c");
        var look = await LookAsync(given);
        (look.IsSame, look.Seen.Files).ShouldBe((true, 1));
        Directory.Move(given.Source, given["away"]);
        Directory.CreateDirectory(given.Source);
        look = await LookAsync(given);
        (look.IsSame, look.Gone.Files).ShouldBe((false, 1));
    }

    [Fact]
    public async Task It_believes_no_list_that_is_not_what_the_last_trip_left()
    {
        using var given = new Given();
        given.Write("a", "a");
        (await TryLookAsync(given)).Problem.ShouldBeOfType<NoParcel>();
        await SettledAsync(given);
        File.WriteAllText(Path.Combine(given.Bag, "yard/trip.json"), "{}");
        (await TryLookAsync(given)).Problem.ShouldBeOfType<ParcelUnfinished>();
        File.Delete(Path.Combine(given.Bag, "yard/trip.json"));
        File.WriteAllText(Path.Combine(given.Bag, "yard/entries.jsonl"), "");
        (await TryLookAsync(given)).Problem.ShouldBeOfType<ListDamaged>();
    }
}
