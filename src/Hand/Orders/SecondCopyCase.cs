using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;

namespace YardRelay.Hand.Orders;

/// <summary>The same parcel in another depot. A copy that nobody has read is not yet one.</summary>
internal sealed class SecondCopyCase : ParcelCase<SecondCopyWork>
{
    protected override async Task<OrderOutcome> DoAsync(AtWork at, OpenParcel parcel, SecondCopyWork work, CancellationToken cancel)
    {
        if (work.Second.Address.Length == 0) return new NotDone("The order names no depot for the second copy.");
        var access = work.Second.Access is { } given
            ? new DepotAccess(given.User, given.Password, given.PrivateKey, given.HostKey)
            : null;
        if (!Runs.VerbRun.Open(work.Second.Address, parcel.Path.Text, access).TryGet(out var opened, out var problem))
            return new NotDone(problem.Message);
        using var second = opened.Depot;
        var copy = new SecondCopy(parcel.Depot, second, parcel.Path, at.Odometer, at.Work);
        if (!(await copy.BringUpAsync(cancel)).TryGet(out var copied, out var refused)) return new NotDone(refused.Message);
        var reading = new Verification(second, parcel.Path, parcel.AtOnce, at.Odometer, at.Work, keys: parcel.Keys);
        if (!(await reading.RunAsync(cancel)).TryGet(out var read, out var missing)) return new NotDone(missing.Message);
        return new CopiedAgain(
            Some(copied.Lost.Count + read.DamageCount),
            $"The second copy in {copied.Depot} is whole and was read back, {ByteText.Of(copied.Copied.Bytes)} new in it");
    }
}
