using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Files.Names;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Depots;

/// <summary>Holds what an order reaches in depots against all parcels that the records know, of any refresh.</summary>
internal static class Reaches
{
    private static Ground GroundOf(string depot, string folder) =>
        Ground.Of(depot, folder, NameFold.Of);

    private sealed record Store(string Refresh, string Key, string Address, string? CopyTo);

    /// <summary>Why an order may not be handed what it is given; null: it may.</summary>
    public static async Task<Problem?> AgainstAsync(YardDb db, SwapRow swap, OrderRow row, CancellationToken cancel)
    {
        if (Order.Of(row.Kind) is not { Reach.Parcel: not ParcelUse.None } || swap.Parcel is not { } parcel) return null;
        var stores = await db.Depots.AsNoTracking().Select(d => new Store(d.Refresh, d.Key, d.Address, d.CopyTo)).ToListAsync(cancel);
        if (stores.Find(d => d.Refresh == swap.Refresh && d.Key == swap.Depot) is not { } depot) return null;
        // The swap whose computer was lost, or those whose rescue has the parcel of this one.
        var shares = swap.RescuedFrom
            ?? await db.Swaps.Where(s => s.RescuedFrom == swap.Id && s.Parcel == parcel).Select(s => s.Id).FirstOrDefaultAsync(cancel);
        foreach (var (address, folder) in Wanted(stores, depot, row, parcel))
            if (await AgainstAsync(db, stores, address, folder, swap.Id, shares, cancel) is { } why) return why;
        return null;
    }

    private static IEnumerable<(string Address, string Folder)> Wanted(List<Store> stores, Store depot, OrderRow row, string parcel)
    {
        yield return (depot.Address, parcel);
        if (row.Folder is { } adopted) yield return (depot.Address, adopted);
        if (row.Kind == OrderNames.SecondCopy && stores.Find(d => d.Refresh == depot.Refresh && d.Key == depot.CopyTo) is { } second)
            yield return (second.Address, parcel);
    }

    private static async Task<OutOfReach?> AgainstAsync(
        YardDb db, List<Store> stores, string address, string folder, string swap, string? shares, CancellationToken cancel)
    {
        var ground = GroundOf(address, folder);
        var roots = stores.SelectMany(d => new[] { GroundOf(d.Address, ""), GroundOf(d.Address, d.Refresh) });
        if (Claims.Against(folder, ground, swap, shares, [], roots) is { } root) return root;
        foreach (var store in stores)
            if (ground.Below(GroundOf(store.Address, "")) is { } below
                && Claims.Against(folder, ground, swap, shares, await NearAsync(db, stores, store, below, cancel), []) is { } met)
                return met;
        return null;
    }

    /// <summary>The parcels, and second copies, of a depot that have something to do with a folder in it.</summary>
    private static async Task<IEnumerable<Holding>> NearAsync(
        YardDb db, List<Store> stores, Store store, string folder, CancellationToken cancel)
    {
        List<string> keys =
            [store.Key, .. stores.Where(d => d.Refresh == store.Refresh && d.CopyTo == store.Key).Select(d => d.Key)];
        // The records compare a little more narrowly than Claims, which has the last word; paths that the service makes bear a number.
        var low = folder.ToLowerInvariant();
        var above = Enumerable.Range(1, low.Split('/').Length).Select(n => string.Join('/', low.Split('/').Take(n))).ToList();
        var below = SearchPattern.Beginning(folder + "/");
        var near = await db.Swaps.AsNoTracking()
            .Where(s => s.Refresh == store.Refresh && s.Parcel != null && s.PurgedAt == null && keys.Contains(s.Depot!))
            .Where(s => above.Contains(s.Parcel!.ToLower()) || EF.Functions.Like(s.Parcel!.ToLower(), below, "\\"))
            .Select(s => new { s.Id, s.Parcel })
            .ToListAsync(cancel);
        return near.Select(s => new Holding(GroundOf(store.Address, s.Parcel!), s.Id));
    }
}
