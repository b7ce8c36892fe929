using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;

namespace YardRelay.Service.Orders;

/// <summary>A part that somebody asked for once more; that is no fact about the whole.</summary>
internal sealed class PartRestoreCase : OrderCase<Order.PartRestore, PartRestored>
{
    private sealed record WhichPart() : Problem("order.only", "Which part is wanted? Name folders or files as the parcel has them.");

    protected override Order.PartRestore With(Order.PartRestore order, OrderWanted wanted) =>
        new([.. (wanted.Only ?? []).Select(o => o.Trim('/'))]);

    protected override async Task<IReadOnlyList<Problem>> PrepareAsync(
        OrderAsked asked, Order.PartRestore order, CancellationToken cancel) =>
        order.Only.Count == 0 ? Refused(new WhichPart()) : await OrderedLandings.KeepAsync(asked, order.Only, cancel);

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.PartRestore order, CancellationToken cancel) =>
        Now(new PartRestoreWork(at.Place, OrderedLandings.PlanOf(at), OrderedLandings.OnlyOf(at), at.TakesUnfinished));

    protected override Task<OrderSum> EnterAsync(OrderOver over, PartRestored outcome, CancellationToken cancel)
    {
        var seen = SumOf(outcome.Folders);
        return Task.FromResult(new OrderSum(
            outcome.IsWhole
                ? $"{ByteText.Files(seen.Files)} of the parcel are on the new computer"
                : $"{outcome.Snags.Count} snags, {outcome.Damages} damages",
            seen,
            outcome.Snags.Count,
            outcome.Damages,
            Failed: !outcome.IsWhole));
    }
}
