using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Core.Swaps;
using YardRelay.Service.Checklists;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Orders;

/// <summary>A last look at the old computer: whether what is about to be emptied still is what the parcel has.</summary>
internal sealed class LastLookCase : OrderCase<Order.LastLook, LookedLast>
{
    /// <summary>What follows the last proof of a parcel whose only other copy is to be emptied; null: nothing does.</summary>
    public static async Task<(string Kind, string Tag)?> AfterAsync(OrderOver over, CancellationToken cancel) =>
        over.Swap is { Kind: SwapKind.Reimage, SwappedAt: null, OldTag: { } tag }
            && !(await ChecklistFacts.ReadAsync(over.W.Db, over.Swap, cancel)).Steps.Any(s => s.IsOpenClosing)
            ? (OrderNames.LastLook, tag)
            : null;

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.LastLook order, CancellationToken cancel)
    {
        var list = KeptCarryList.EffectiveOf(at.Cargo);
        return Now(new LastLookWork(at.Place, list.IsEverything ? null : list.Write()));
    }

    protected override Task<OrderSum> EnterAsync(
        OrderOver over, LookedLast outcome, CancellationToken cancel) => Task.FromResult(new OrderSum(
        outcome.IsWhole
            ? $"All {ByteText.Files(outcome.Seen.Files)} are as trip {outcome.Trip} left them"
            : $"Since trip {outcome.Trip} {ByteText.Files(outcome.Changed.Files)} changed or came, {outcome.Gone.Files:#,0} are gone. Make "
                + "a closing trip again",
        outcome.Seen,
        Failed: !outcome.IsWhole));
}
