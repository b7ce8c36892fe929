using YardRelay.Carriage.Trips;
using YardRelay.Contracts;

namespace YardRelay.Hand.Orders;

/// <summary>The parcel is read and compared; what is damaged is noted in it, so that the next trip brings it anew.</summary>
internal sealed class VerifyCase : ParcelCase<VerifyWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, VerifyWork work, CancellationToken cancel)
    {
        var verification = new Verification(parcel.Depot, parcel.Path, parcel.AtOnce, at.Odometer, at.Work, keys: parcel.Keys);
        if (!(await verification.RunAsync(cancel)).TryGet(out var whole, out var missing)) return new NotDone(missing.Message);
        await verification.NoteAsync(whole, cancel);
        return new Verified(Some(whole.DamageCount)) { Read = whole.Read };
    }
}
