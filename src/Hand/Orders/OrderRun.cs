using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Hand.Service;

namespace YardRelay.Hand.Orders;

/// <summary>Does one order to its end: opens its parcel, has its kind at work, and looks what the depot is like.</summary>
internal sealed class OrderRun(HandState state, Odometer odometer, RateGate gate, TimeProvider time)
{
    private readonly AtWork _at = new(TreeRoot.Here(state.Root), odometer, time);

    /// <summary>The parcel that a trip has made or opened; null: none yet.</summary>
    public ParcelBegun? Begun => _at.Begun;

    /// <summary>What was found, and how the depot was; whatever breaks is told, not thrown.</summary>
    public async Task<(OrderOutcome Outcome, DepotFound? Found)> DoAsync(OrderWork work, CancellationToken cancel)
    {
        try
        {
            if (HandCase.Of(work) is not { } does) return (new NotDone("This hand does not know that order. Use a newer yardhand."), null);
            if (work.At is not { } place) return (await does.DoAsync(_at, null, work, cancel), null);
            if (place.Depot.Length == 0 || place.Parcel.Length == 0) return (new NotDone("The order names no depot."), null);
            if (!Open(place).TryGet(out var parcel, out var problem)) return (new NotDone(problem.Message), null);
            using (parcel.Depot)
            {
                if (place.ParcelId is { } id
                    && await new ParcelOpening(parcel.Depot, parcel.Path, SealKeys.None, new ThreadWork(time)).OtherThanAsync(id, cancel)
                        is { } other)
                    return (new NotDone(other.Message), null);
                return await HeldAsync(does, parcel, work, place.Known, cancel);
            }
        }
        catch (Exception broke)
            when (broke is DepotUnreachableException or DepotFullException or IOException or UnauthorizedAccessException)
        {
            return (new NotDone(broke.Message), broke switch
            {
                DepotFullException => new(0, broke.Message),
                DepotUnreachableException => new(null, broke.Message),
                _ => null
            });
        }
    }

    /// <summary>Holds the parcel against what the service knows of it. What would build on lists that are other ones is not done.</summary>
    private async Task<(OrderOutcome Outcome, DepotFound Found)> HeldAsync(
        HandCase does, OpenParcel parcel, OrderWork work, ParcelState? known, CancellationToken cancel)
    {
        var held = ParcelHeld.Against(known, await ParcelStates.ReadAsync(parcel.Depot, parcel.Path, cancel));
        if (held.Standing == ParcelStanding.Other && work is TripWork or SecondCopyWork or AdoptWork)
            return (new NotDone(held.Words), new(await FreeAsync(parcel.Depot, cancel), Held: held));
        var outcome = await does.DoAsync(_at, parcel, work, cancel);
        if (held.Standing == ParcelStanding.Other) outcome = outcome.WithOtherLists();
        var left = work is PurgeWork ? null : (await ParcelStates.ReadAsync(parcel.Depot, parcel.Path, cancel))?.Now;
        return (outcome, new(await FreeAsync(parcel.Depot, cancel), Held: held, Left: left));
    }

    private Result<OpenParcel> Open(ParcelPlace place)
    {
        var at = place.Depot.StartsWith('/') && Uri.TryCreate(new Uri(state.Service), place.Depot, out var builtIn)
            ? builtIn.AbsoluteUri
            : place.Depot;
        var access = place.Access is { } given ? new DepotAccess(given.User, given.Password, given.PrivateKey, given.HostKey) : null;
        if (!Runs.VerbRun.Open(at, place.Parcel, access).TryGet(out var opened, out var problem)) return problem;
        var own = place.ParcelKey is { } key && AgeIdentity.TryParseFile(key) is { } identities ? identities : [];
        return new OpenParcel(
            new LimitedDepot(opened.Depot, gate),
            opened.Parcel,
            new(own, null, SealKeys.UsualFolder, place.ParcelKey),
            place.ParcelKey,
            new TripOptions().AtOnce);
    }

    private static async Task<long?> FreeAsync(IDepot depot, CancellationToken cancel)
    {
        try
        {
            return (await depot.RoomAsync(cancel)).FreeBytes;
        }
        catch (IOException)
        {
            return null;
        }
    }
}
