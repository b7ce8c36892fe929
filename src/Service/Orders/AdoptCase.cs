using Microsoft.EntityFrameworkCore;
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

    private sealed record IsAnothersParcel(DepotPath Folder, string Swap, string Name) : Problem(
        "order.folder", $"'{Folder}' is the parcel of {Swap} {Name}.");

    protected override Order.Adopt With(Order.Adopt order, OrderWanted wanted) => new(wanted.Folder?.Trim().Trim('/'));

    protected override async Task<IReadOnlyList<Problem>> PrepareAsync(OrderAsked asked, Order.Adopt order, CancellationToken cancel)
    {
        if (order.Folder is not { Length: > 0 } folder || DepotPath.TryParse(folder) is not { } parsed) return Refused(new WhichFolder());
        var swap = asked.Swap;
        if (await asked.W.Db.Swaps.FirstOrDefaultAsync(
            s => s.Refresh == swap.Refresh && s.Depot == swap.Depot && s.Parcel == folder && s.Id != swap.Id, cancel) is { } other)
            return Refused(new IsAnothersParcel(parsed, other.Id, other.Name));
        asked.Row.Folder = folder;
        return Fine;
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
