using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Orders;

/// <summary>The second copy of a parcel, in the depot that the first one's depot names.</summary>
internal sealed class SecondCopyCase : OrderCase<Order.SecondCopy, CopiedAgain>
{
    private sealed record NoSecondDepot(string Swap, string? Depot) : ServiceProblem(
        "order.no-second",
        $"The depot of {Swap} has no other one that keeps a second copy. Name one with 'yardline depot set {Depot} --copy-to KEY'.",
        409);

    protected override async Task<IReadOnlyList<Problem>> PrepareAsync(
        OrderAsked asked, Order.SecondCopy order, CancellationToken cancel) =>
        await SwapDepots.SecondAsync(asked.W.Db, asked.Swap, cancel) is null
            ? Refused(new NoSecondDepot(asked.Swap.Id, asked.Swap.Depot))
            : Fine;

    protected override async Task<OrderWork> WorkAsync(OrderAtHand at, Order.SecondCopy order, CancellationToken cancel) =>
        // The other depot may be gone since it was ordered; the hand then says that it has none.
        await SwapDepots.SecondAsync(at.W.Db, at.Swap, cancel) is { } second
            ? new SecondCopyWork(at.Place, new(second.Address, at.Secrets.Open(second.Access)))
            : new SecondCopyWork(at.Place, new(""));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, CopiedAgain outcome, CancellationToken cancel)
    {
        if (outcome.IsWhole) over.Swap.CopiedAt = over.W.Now;
        return new(
            outcome.IsWhole ? outcome.Said : $"{outcome.Damages} files of the second copy are not what the first says",
            Amount.None,
            Damages: outcome.Damages,
            Failed: !outcome.IsWhole,
            Follows: outcome.IsWhole ? await LastLookCase.AfterAsync(over, cancel) : null);
    }
}
