using YardRelay.Carriage.Depots;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Orders;

namespace YardRelay.Service.Orders;

/// <summary>A folder that somebody filled by hand becomes the parcel; the next trip is an ordinary one.</summary>
internal sealed class AdoptCase : OrderCase<Order.Adopt, Adopted>
{
    private sealed record WhichFolder() : Problem(
        "order.folder", "Which folder? Name it as it lies in the depot, such as 'Old shares/Ida', without '.', '..' or empty parts.");

    protected override Order.Adopt With(Order.Adopt order, OrderWanted wanted) => new(wanted.Folder?.Trim().Trim('/'));

    protected override Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Adopt order, CancellationToken cancel)
    {
        if (order.Folder is not { Length: > 0 } folder || DepotPath.TryParse(folder) is null)
            return Task.FromResult(Refused(new WhichFolder()));
        asked.Row.Folder = folder;
        return Task.FromResult(Fine);
    }

    protected override Task<OrderWork> WorkAsync(OrderAtHand at, Order.Adopt order, CancellationToken cancel) =>
        Now(new AdoptWork(at.Place, at.Row.Folder ?? ""));

    protected override async Task<OrderSum> EnterAsync(OrderOver over, Adopted outcome, CancellationToken cancel)
    {
        await AccountEntry.CarriedAsync(over.W, over.Swap, outcome.Folders, outcome.Snags, trip: 1, cancel);
        over.Swap.ParcelId ??= outcome.ParcelId;
        return new(
            outcome.Said,
            SumOf(outcome.Folders),
            outcome.Snags.Count,
            Follows: await VerifyCase.AfterAsync(over, cancel));
    }
}
