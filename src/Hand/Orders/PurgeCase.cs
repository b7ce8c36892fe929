using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;

namespace YardRelay.Hand.Orders;

/// <summary>The parcel is taken away, and the depot asked whether it still lists something of it.</summary>
internal sealed class PurgeCase : ParcelCase<PurgeWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, PurgeWork work, CancellationToken cancel)
    {
        var purged = await new Purge(parcel.Depot, parcel.Path, at.Work, parcel.Keys).RunAsync(parcel.Path.Text, cancel);
        // Asked for again after a killed hand had done it: there is nothing left to do.
        if (!purged.IsOk && purged.Problem is NoParcel) return new Purged(Amount.None, 0);
        return purged.TryGet(out var gone, out var kept) ? new Purged(gone.Removed, gone.Left.Count) : new NotDone(kept.Message);
    }
}
