using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Parcels;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Orders;

/// <summary>A purge: refused while anything holds the parcel, and without its name said once more.</summary>
internal sealed class PurgeCase : OrderCase<Order.Purge, Purged>
{
    private sealed record NotConfirmed(string? Parcel) : Problem(
        "order.confirm",
        $"Nothing was ordered. A purge cannot be taken back: say the name of the parcel once more, '{Parcel}'.");

    private sealed record Held(string Swap, IReadOnlyList<string> Missing) : ServiceProblem(
        "parcel.held", $"The parcel of {Swap} is not purged: {string.Join(' ', Missing)}", 409);

    protected override Order.Purge With(Order.Purge order, OrderWanted wanted) => new(wanted.Confirm);

    protected override async Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Purge order, CancellationToken cancel)
    {
        var (w, swap) = (asked.W, asked.Swap);
        if (order.Confirm != swap.Parcel) return Refused(new NotConfirmed(swap.Parcel));
        var hold = await HoldReader.ReadAsync(w.Db, swap, new RefreshClock(w.Refresh).DayOf(w.Now), cancel);
        return hold.Missing.Count > 0 ? Refused(new Held(swap.Id, hold.Missing)) : Fine;
    }

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Purge order, CancellationToken cancel) =>
        Now(new PurgeWork(at.Place));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, Purged outcome, CancellationToken cancel)
    {
        var (w, swap) = (over.W, over.Swap);
        var words = outcome.IsWhole
            ? $"Purged: {ByteText.Files(outcome.Removed.Files)}; the depot lists nothing of it"
            : "The depot still lists something of it";
        // Without a trip that ended nothing of the swap is done: the next first trip begins anew.
        if (outcome.IsWhole && SwapFacts.CanBeginAnew(swap)) await ParcelBeginning.ForgetAsync(w, swap, cancel);
        else if (outcome.IsWhole)
        {
            swap.PurgedAt = w.Now;
            // A rescue's parcel is that of the swap whose computer was lost.
            if (swap.RescuedFrom is { } lost)
                await w.Db.Swaps.Where(s => s.Id == lost && s.Parcel == swap.Parcel)
                    .ExecuteUpdateAsync(u => u.SetProperty(s => s.PurgedAt, w.Now), cancel);
        }
        w.Note(
            "parcel.purged",
            swap.Id,
            $"The parcel of {swap.Name}: {words}",
            new() { ["order"] = over.Row.Id, ["files"] = outcome.Removed.Files, ["whole"] = outcome.IsWhole });
        return new(words, outcome.Removed, Damages: outcome.Left, Failed: !outcome.IsWhole);
    }
}
