using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Service.Parcels;

namespace YardRelay.Service.Orders;

/// <summary>A look before a restore: what it would do, kept beside the landing plan.</summary>
internal sealed class LookCase : OrderCase<Order.Look, LookedAhead>
{
    protected override Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Look order, CancellationToken cancel) =>
        OrderedLandings.KeepAsync(asked, [], cancel);

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Look order, CancellationToken cancel) =>
        Now(new LookWork(at.Place, OrderedLandings.PlanOf(at), at.TakesUnfinished));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, LookedAhead outcome, CancellationToken cancel)
    {
        await KeptLanding.ForeseenAsync(over.W.Db, over.Swap.Id, outcome.Foreseen, cancel);
        var folders = outcome.Foreseen.Folders;
        return new(
            $"{ByteText.Files(folders.Sum(o => o.New.Files))} new, {folders.Sum(o => o.Stands.Files):#,0} stand already, "
                + $"{folders.Sum(o => o.Beside.Files + o.Replaced.Files + o.Stayed.Files):#,0} meet something else",
            Amount.None);
    }
}
