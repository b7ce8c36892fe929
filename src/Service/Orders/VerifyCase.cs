using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;

namespace YardRelay.Service.Orders;

/// <summary>A verification: whether the parcel is what it says. One that found it whole is followed by the second copy.</summary>
internal sealed class VerifyCase : OrderCase<Order.Verify, Verified>
{
    /// <summary>A finished trip is verified without being asked: the gate wants it, and the parcel is warm.</summary>
    public static async Task<(string Kind, string Tag)> AfterAsync(OrderOver over, CancellationToken cancel) =>
        (OrderNames.Verify, await SwapDepots.IsBuiltInAsync(over.W.Db, over.Swap, cancel) ? ServiceHand.Tag : over.Row.Tag);

    protected override Order.Verify With(Order.Verify order, OrderWanted wanted) => order with { ByService = wanted.ByService };

    protected override async Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Verify order, CancellationToken cancel)
    {
        if (order.ByService ?? await SwapDepots.IsBuiltInAsync(asked.W.Db, asked.Swap, cancel)) asked.Row.Tag = ServiceHand.Tag;
        return Fine;
    }

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Verify order, CancellationToken cancel) =>
        Now(new VerifyWork(at.Place));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, Verified outcome, CancellationToken cancel)
    {
        var (w, swap) = (over.W, over.Swap);
        (swap.VerifiedAt, swap.VerifiedWhole) = (w.Now, outcome.IsWhole);
        if (!outcome.IsWhole)
            return new(
                over.OtherLists + Damaged(outcome.Damages - (over.OtherLists.Length > 0 ? 1 : 0)),
                Amount.None,
                Damages: outcome.Damages,
                Failed: true);
        // What was found whole is copied, where the depot has a second one: one dead disk then loses nothing.
        var copies = !(swap.CopiedAt > swap.TripAt)
            && swap.OldTag is not null
            && await SwapDepots.SecondAsync(w.Db, swap, cancel) is not null;
        var read = outcome.Read is { } places ? $", every file read {places.Words(ByteText.Of)}" : "";
        var next = copies ? (OrderNames.SecondCopy, swap.OldTag!) : await LastLookCase.AfterAsync(over, cancel);
        return new($"The parcel is whole{read}", Amount.None, Follows: next);
    }

    private static string Damaged(int files) => files switch
    {
        0 => "What they name is there and whole.",
        1 => "1 file of the parcel is damaged. The next trip brings it anew.",
        _ => $"{files:#,0} files of the parcel are damaged. The next trip brings them anew.",
    };
}
