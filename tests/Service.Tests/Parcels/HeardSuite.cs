using System.Net.Http.Json;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteHeardTests(OnSqlite service) : HeardSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresHeardTests(OnPostgres service) : HeardSuite(service), IClassFixture<OnPostgres>;

/// <summary>
/// The service remembers in which state a parcel's lists were left, and what is not as it was left is a snag. On every database.
/// </summary>
public abstract class HeardSuite(RunningService service)
{
    private static readonly ParcelState One = new(1, new('1', 64)), Two = new(2, new('2', 64)), Other = new(1, new('f', 64));

    private static DepotFound As(ParcelState state) => new(null, Held: new(ParcelStanding.AsKnown, "", state), Left: state);

    private static DepotFound Found(ParcelStanding standing, ParcelState state) =>
        new(null, Held: new(standing, "It is not as it was left.", state), Left: state);

    private sealed record Staged(string Refresh, string Swap, HttpClient Hand);

    private async Task<Staged> StagedAsync()
    {
        var refresh = await service.RefreshAsync();
        var (swap, hand) = ($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        await service.DoAsync(swap, "first-trip", hand, RunningService.Result(10, 10) with { Trip = 1 }, As(One));
        await service.DoAsync(swap, "verify", hand, HandReport.Fine, As(One));
        (await IsStagedAsync(swap)).ShouldBeTrue();
        return new(refresh, swap, hand);
    }

    private async Task<bool> IsStagedAsync(string swap) =>
        (await service.SwapAsync(swap)).Swap.Line.Single(s => s.Station == Station.Staged).At is not null;

    private async Task<SnagSeen> SnagAsync(string swap) => (await service.SwapAsync(swap)).Snags.ShouldHaveSingleItem();

    /// <returns>What the hand was told of the parcel.</returns>
    private async Task<ParcelState?> VerifyAsync(Staged staged, HandReport found, DepotFound? depot)
    {
        // One waits already where it follows a trip.
        (await service.OrderAsync(staged.Swap, new("verify"))).Dispose();
        var order = await RunningService.TakeAsync(staged.Hand);
        (await service.EndAsync(staged.Hand, order, found, depot)).EnsureSuccessStatusCode();
        return order.Work.At!.Known;
    }

    private Task<ParcelState?> KnownAsync(Staged staged) => VerifyAsync(staged, HandReport.Failed("Not today."), null);

    [Fact]
    public async Task A_hand_is_told_in_which_state_the_last_trip_left_the_parcel()
    {
        var staged = await StagedAsync();
        await service.DoAsync(staged.Swap, "top-up-trip", staged.Hand, RunningService.Result(11, 11) with { Trip = 2 }, As(Two));
        (await KnownAsync(staged)).ShouldBe(Two);
    }

    [Fact]
    public async Task After_a_trip_of_a_hand_that_does_not_tell_nothing_is_known_until_somebody_looks()
    {
        var staged = await StagedAsync();
        await service.DoAsync(staged.Swap, "top-up-trip", staged.Hand, RunningService.Result(11, 11) with { Trip = 2 });
        (await VerifyAsync(staged, HandReport.Fine, As(Two))).ShouldBeNull();
        (await KnownAsync(staged)).ShouldBe(Two);
    }

    [Fact]
    public async Task Lists_that_are_others_are_damage_and_shut_the_gate_until_a_person_takes_them_by_name()
    {
        var staged = await StagedAsync();
        await VerifyAsync(staged, HandReport.Fine with { Damages = 1 }, Found(ParcelStanding.Other, Other));
        var snag = await SnagAsync(staged.Swap);
        (snag.Kind, snag.End, await IsStagedAsync(staged.Swap)).ShouldBe((SnagKind.OtherLists, "open", false));
        (await KnownAsync(staged)).ShouldBe(One, "what was only found is not what was left");
        var many = await service.Kit.PostAsJsonAsync(
            $"api/refreshes/{staged.Refresh}/waivers", new WaiversWanted([snag.Id], "all of them"), RunningService.Json);
        (await many.Content.ReadFromJsonAsync<WaiversMade>(RunningService.Json))!.Waived.ShouldBe(0);

        (await service.Kit.PostAsJsonAsync($"api/snags/{snag.Id}/waiver", new WaiverWanted("the disk was put back, I was there")))
            .EnsureSuccessStatusCode();

        (await KnownAsync(staged)).ShouldBe(Other);
        (await SnagAsync(staged.Swap)).EndedBy.ShouldBe("kit");
    }

    [Fact]
    public async Task Lists_that_are_as_they_were_again_end_the_snag()
    {
        var staged = await StagedAsync();
        await VerifyAsync(staged, HandReport.Fine with { Damages = 1 }, Found(ParcelStanding.Other, Other));
        await VerifyAsync(staged, HandReport.Fine, As(One));
        ((await SnagAsync(staged.Swap)).End, await IsStagedAsync(staged.Swap)).ShouldBe(("retried", true));
    }

    [Fact]
    public async Task A_trip_that_nobody_told_of_is_a_snag_until_the_next_one_tells_all()
    {
        var staged = await StagedAsync();
        await VerifyAsync(staged, HandReport.Fine, Found(ParcelStanding.Ahead, Two));
        (await SnagAsync(staged.Swap)).Kind.ShouldBe(SnagKind.UntoldTrip);
        var three = new ParcelState(3, new('3', 64));
        await service.DoAsync(
            staged.Swap,
            "top-up-trip",
            staged.Hand,
            RunningService.Result(12, 12) with { Trip = 3 },
            Found(ParcelStanding.Ahead, Two) with { Left = three });
        (await SnagAsync(staged.Swap)).End.ShouldBe("retried");
        (await KnownAsync(staged)).ShouldBe(three);
    }
}
