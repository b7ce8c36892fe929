using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Swaps;
using YardRelay.Records;

namespace YardRelay.Service.Parcels;

/// <summary>Whoever else gets a person's files, as it is seen.</summary>
internal static class Receivers
{
    /// <summary>Who receives it; null: nobody is named, or the swap is no leave.</summary>
    public static async Task<ReceiverSeen?> ReadAsync(YardDb db, SwapRow swap, CancellationToken cancel) =>
        swap.Kind != SwapKind.Leave || swap.Receiver is not { } person ? null
        : new(
            person,
            await db.People.AsNoTracking()
                .Where(p => p.Refresh == swap.Refresh && p.Key == person)
                .Select(p => p.Name)
                .FirstOrDefaultAsync(cancel)
                ?? person,
            swap.ReceiverTag,
            swap.ReceiverAcceptedBy,
            swap.ReceiverAcceptedAt);
}
