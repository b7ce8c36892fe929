using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;

namespace YardRelay.Hand.Orders;

/// <summary>A last look at the old computer, before it is emptied.</summary>
internal sealed class LastLookCase : ParcelCase<LastLookWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, LastLookWork work, CancellationToken cancel)
    {
        var list = work.CarryList is null ? Result<CarryList>.Of(CarryList.Everything) : CarryList.Read(work.CarryList);
        if (!list.IsOk) return new NotDone(list.Problem.Message);
        var look = new LastLook(parcel.Depot, parcel.Path, list.Value, parcel.Keys, at.Odometer, at.Work);
        return (await look.RunAsync(at.Root, cancel)).TryGet(out var seen, out var refused)
            ? new LookedLast(seen.Trip, seen.Seen, seen.Changed, seen.Gone)
            : new NotDone(refused.Message);
    }
}
