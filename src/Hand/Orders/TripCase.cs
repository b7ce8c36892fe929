using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Orders;

namespace YardRelay.Hand.Orders;

/// <summary>A trip: what stops it is said before it begins, then it carries.</summary>
internal sealed class TripCase : ParcelCase<TripWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, TripWork work, CancellationToken cancel)
    {
        var list = work.CarryList is null ? Result<CarryList>.Of(CarryList.Everything) : CarryList.Read(work.CarryList);
        if (!list.IsOk) return new NotDone(list.Problem.Message);
        var recipients = (work.SealTo ?? []).Select(AgeRecipient.TryParse).OfType<AgeRecipient>().ToList();
        if (recipients.Count != (work.SealTo?.Count ?? 0))
            return new NotDone("The order names a recipient that is mistyped. Correct the depot, and order again.");
        if (await StopsAsync(at, parcel, work, list.Value, cancel) is { } stops) return new NotDone(stops);
        var options = new TripOptions
        {
            CarryList = list.Value,
            Keys = parcel.Keys,
            Sealing = recipients.Count > 0 ? new(recipients, null) : null,
            ByNeed = work.ByNeed,
            IsClosing = work.Part == TripPart.Closing,
            Answer = work.Source,
            Began = (id, key) => at.Begun = new(id, key)
        };
        var trip = await new Trip(parcel.Depot, parcel.Path, options, at.Odometer, at.Work).RunAsync(at.Root, cancel);
        if (!trip.TryGet(out var carried, out var refused)) return new NotDone(refused.Message, (refused as SourceDoubted)?.Doubt);
        return new Carried(
            [.. carried.Folders.Select(f => new FolderResult(f.Folder, f.Seen, f.Carried, f.Open, f.LeftOut, f.Deleted))],
            carried.Snags,
            carried.Trip,
            [.. (carried.Reasons ?? []).Select(r => new StayedBehind("", r.Files, r.Reason, null))],
            carried.ParcelId,
            carried.ParcelKey,
            await PhraseAsync(at, parcel, work.Passphrase, carried.ParcelKey, cancel),
            carried.GoneNow)
        { IdleLines = carried.IdleLines, ReadBack = carried.ReadBack };
    }

    // Before the first one it is said at once, and in whole sentences, what would stop it halfway.
    private static async Task<string?> StopsAsync(
        AtWork at, OpenParcel parcel, TripWork work, CarryList list, CancellationToken cancel)
    {
        if (work.Part != TripPart.First) return null;
        var look = await new WillItGo(parcel.Depot, parcel.Path, list, new(), at.Work, parcel.Keys).RunAsync(at.Root, cancel);
        if (!look.IsOk) return null;
        var stops = look.Value.Findings.Where(f => f.Sign == Sign.Stop).ToList();
        if (stops.TrueForAll(f => work.ByNeed && f.IsRoom)) return null;
        var words = string.Join(' ', stops.Where(f => !(work.ByNeed && f.IsRoom)).Select(f => f.Words));
        return stops.TrueForAll(f => f.IsRoom)
            ? words + " Or order the trip by need: then what is needed first comes as far as it fits, and the rest is named."
            : words;
    }

    private static async Task<bool> PhraseAsync(
        AtWork at, OpenParcel parcel, string? passphrase, string? newKey, CancellationToken cancel) =>
        passphrase is not null
            && await new ParcelOpening(parcel.Depot, parcel.Path, parcel.Keys with { Own = newKey ?? parcel.Key }, at.Work)
                .AddAsync(new([], passphrase), cancel) is { IsOk: true };
}
