using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Parcels;

/// <summary>Each state of a parcel's lists says which one it came from, so that whoever remembers one tells what became of it.</summary>
public sealed class ParcelStatesTests
{
    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    private static async Task<ParcelHeld> HeldAsync(Given given, ParcelState? known) =>
        ParcelHeld.Against(known, await ParcelStates.ReadAsync(given.Depot, Given.Parcel, Stop));

    private static async Task<ParcelState> CarryAsync(Given given, string letter)
    {
        given.Write("letter.txt", letter);
        (await given.CarryAsync()).IsWhole.ShouldBeTrue();
        return (await ParcelStates.ReadAsync(given.Depot, Given.Parcel, Stop))!.Now;
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task Who_remembers_a_state_tells_whether_trips_went_on_from_it_or_it_was_put_back(bool seals)
    {
        using var given = new Given { Seals = seals };
        var one = await CarryAsync(given, "one");
        Run.Quietly("cp", "-a", given.Bag, given["kept"]);
        var two = await CarryAsync(given, "two");
        var three = await CarryAsync(given, "three");

        (await HeldAsync(given, three)).Standing.ShouldBe(ParcelStanding.AsKnown);
        (await HeldAsync(given, one)).ShouldSatisfyAllConditions(
            h => h.Standing.ShouldBe(ParcelStanding.Ahead), h => h.State.ShouldBe(three), h => h.Words.ShouldContain("trip 3"));
        Directory.Delete(given.Bag, recursive: true);
        Run.Quietly("cp", "-a", given["kept"], given.Bag);
        (await given.VerifyAsync()).IsWhole.ShouldBeTrue("nothing in it tells that all of it was put back together");
        (await HeldAsync(given, three)).Words.ShouldContain("those of trip 1, and trip 3 has ended since");
        await CarryAsync(given, "another two");
        (await HeldAsync(given, two)).Standing.ShouldBe(ParcelStanding.Other);
        (await HeldAsync(given, one)).Standing.ShouldBe(ParcelStanding.Ahead);
    }

    [Fact]
    public async Task A_key_more_is_no_other_state()
    {
        using var given = new Given { Seals = true };
        var one = await CarryAsync(given, "one");
        (await new ParcelOpening(given.Depot, Given.Parcel, given.Keys, ThreadWork.Here)
            .AddAsync(new([AgeIdentity.Create().Recipient], null), Stop)).IsOk.ShouldBeTrue();
        (await HeldAsync(given, one)).Standing.ShouldBe(ParcelStanding.AsKnown);
    }

    [Theory]
    [InlineData(ParcelPaths.TagManifest)]
    [InlineData(ParcelPaths.Trips)]
    public async Task Lists_that_are_gone_are_no_parcel_of_which_nothing_is_known(string list)
    {
        using var given = new Given();
        var one = await CarryAsync(given, "one");
        File.Delete(Path.Combine(given.Bag, list));
        (await HeldAsync(given, one)).ShouldSatisfyAllConditions(
            h => h.Standing.ShouldBe(ParcelStanding.Other), h => h.State.ShouldBeNull());
    }
}
