using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;

namespace YardRelay.Service.Orders;

/// <summary>A look at folders. Their names go to whoever picks from them, and into no record.</summary>
internal sealed class FoldersCase : OrderCase<Order.Folders, TreeFound>
{
    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Folders order, CancellationToken cancel) => Now(new FoldersWork());

    protected override Task<OrderSum> EnterAsync(OrderOver over, TreeFound outcome, CancellationToken cancel)
    {
        over.Desk.Put(over.Swap.Id, outcome.Tree, outcome.Deeper);
        return Task.FromResult(new OrderSum($"{outcome.Tree.Count:#,0} folders to pick from", Amount.None));
    }
}
