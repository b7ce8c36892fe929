using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Parcels;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>
/// Enters the parcel that a trip has made or opened, as soon as it is told: if that trip never ends, what it had brought can be found, and
/// a sealed one opened, all the same.
/// </summary>
internal static class ParcelBeginning
{
    /// <param name="isFirst">No trip of the swap ended yet: the parcel told is the one there is, whatever an earlier try had made.</param>
    public static async Task TakeAsync(
        Change w, SwapRow swap, ParcelBegun begun, ParcelKeys keys, bool isFirst, CancellationToken cancel)
    {
        var isOther = swap.ParcelId != begun.ParcelId;
        if (isOther && swap.ParcelId is not null && !isFirst) return;
        swap.ParcelId = begun.ParcelId;
        if (begun.ParcelKey is not { } key && !isOther) return;
        var cargo = await CargoAsync(w, swap, cancel);
        // The key of a parcel never changes, and one that was known is worth more than none.
        if (isOther) cargo.ParcelKey = null;
        if (begun.ParcelKey is not null) cargo.ParcelKey ??= keys.Seal(begun.ParcelKey);
    }

    /// <summary>What is known of a swap's cargo, also where this very change has made the record.</summary>
    public static async Task<CargoRow> CargoAsync(Change w, SwapRow swap, CancellationToken cancel)
    {
        var cargo = w.Db.Cargo.Local.FirstOrDefault(c => c.Swap == swap.Id)
            ?? await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap.Id });
        return cargo;
    }

    /// <summary>What a first trip had begun is no longer there, or no longer meant: the next one begins anew.</summary>
    public static async Task ForgetAsync(Change w, SwapRow swap, CancellationToken cancel)
    {
        (swap.ParcelId, swap.ParcelState) = (null, null);
        if (await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel) is { } cargo) cargo.ParcelKey = null;
    }
}
