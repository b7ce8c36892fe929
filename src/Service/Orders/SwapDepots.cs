using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Depots;

namespace YardRelay.Service.Orders;

/// <summary>The depots of a swap's parcel.</summary>
internal static class SwapDepots
{
    /// <summary>The depot that keeps the second copy of a swap's parcel; null: none does.</summary>
    public static async Task<DepotRow?> SecondAsync(YardDb db, SwapRow swap, CancellationToken cancel) =>
        await db.Depots.AsNoTracking()
            .Where(d => d.Refresh == swap.Refresh && d.Key == swap.Depot)
            .Select(d => d.CopyTo)
            .FirstOrDefaultAsync(cancel) is { } key
            ? await db.Depots.AsNoTracking().FirstOrDefaultAsync(d => d.Refresh == swap.Refresh && d.Key == key, cancel)
            : null;

    /// <summary>Whether the swap's parcel lies in the service's own depot.</summary>
    public static Task<bool> IsBuiltInAsync(YardDb db, SwapRow swap, CancellationToken cancel) =>
        db.Depots.AnyAsync(d => d.Refresh == swap.Refresh && d.Key == swap.Depot && d.Address == BuiltInDepot.Address, cancel);

    /// <summary>A swap that has no depot yet gets the first of its refresh, and a folder there; false: there is none.</summary>
    public static async Task<bool> ChooseAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        if (swap.Depot is not null) return true;
        if (await db.Depots.Where(d => d.Refresh == swap.Refresh).OrderBy(d => d.Key).FirstOrDefaultAsync(cancel) is not { } depot)
            return false;
        (swap.Depot, swap.Parcel) = (depot.Key, ParcelOf(swap));
        return true;
    }

    /// <summary>A folder that a person recognises: refresh, name, swap number.</summary>
    public static string ParcelOf(SwapRow swap) =>
        $"{swap.Refresh}/{string.Concat(swap.Name.Select(c => char.IsLetterOrDigit(c) ? c : '-')).Trim('-')} "
            + $"{swap.Id[(swap.Id.LastIndexOf('-') + 1)..]}";
}
