using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Files.Names;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Depots;

/// <summary>Holds what an order reaches in depots against all parcels that the records know, of any refresh.</summary>
/// <param name="db">Where they are.</param>
/// <param name="all">All parcels, where many orders are asked about; null: each asks the records for those near it.</param>
internal sealed class Reaches(YardDb db, ILookup<string, Reaches.Lying>? all = null)
{
    /// <summary>A parcel as the records have it.</summary>
    internal sealed record Lying(string Swap, string Refresh, string Depot, string Parcel, string? RescuedFrom);

    private sealed record Store(string Refresh, string Key, string Address, string? CopyTo)
    {
        public Ground Ground { get; } = GroundOf(Address, "");
    }

    private List<Store>? _stores;

    private static Ground GroundOf(string depot, string folder) => Ground.Of(depot, folder, NameFold.Of);

    /// <summary>For many orders at once: all parcels are read once, and found by each folder that holds them.</summary>
    public static async Task<Reaches> OfManyAsync(YardDb db, CancellationToken cancel)
    {
        var lying = await ReadAsync(Staged(db), cancel);
        return new(db, lying.SelectMany(l => WayTo(l.Parcel), (l, folder) => (l, folder)).ToLookup(w => w.folder, w => w.l));
    }

    /// <summary>Why an order may not be handed what it is given; null: it may.</summary>
    public async Task<Problem?> AgainstAsync(SwapRow swap, OrderRow row, CancellationToken cancel)
    {
        if (Order.Of(row.Kind) is not { Reach.Parcel: not ParcelUse.None } || swap.Parcel is not { } parcel) return null;
        _stores ??= await db.Depots.AsNoTracking().Select(d => new Store(d.Refresh, d.Key, d.Address, d.CopyTo)).ToListAsync(cancel);
        if (_stores.Find(d => d.Refresh == swap.Refresh && d.Key == swap.Depot) is not { } depot) return null;
        foreach (var (address, folder) in Wanted(_stores, depot, row, parcel))
            if (await AgainstAsync(_stores, address, folder, swap.Id, cancel) is { } why) return why;
        return null;
    }

    private static IEnumerable<(string Address, string Folder)> Wanted(List<Store> stores, Store depot, OrderRow row, string parcel)
    {
        yield return (depot.Address, parcel);
        if (row.Folder is { } adopted) yield return (depot.Address, adopted);
        if (row.Kind == OrderNames.SecondCopy && stores.Find(d => d.Refresh == depot.Refresh && d.Key == depot.CopyTo) is { } second)
            yield return (second.Address, parcel);
    }

    private async Task<OutOfReach?> AgainstAsync(List<Store> stores, string address, string folder, string swap, CancellationToken cancel)
    {
        var ground = GroundOf(address, folder);
        var parcels = new List<Holding>();
        foreach (var store in stores)
        {
            if (ground.Below(store.Ground) is not { Length: > 0 } below) continue;
            // A second copy lies there under the same name.
            List<string> keys = [store.Key, .. stores.Where(d => d.Refresh == store.Refresh && d.CopyTo == store.Key).Select(d => d.Key)];
            parcels.AddRange((await NearAsync(store.Refresh, keys, below, cancel))
                .Select(l => new Holding(GroundOf(store.Address, l.Parcel), l.Swap, l.RescuedFrom)));
        }
        return Claims.Against(
            folder, ground, swap, parcels, stores.SelectMany(d => new[] { d.Ground, GroundOf(d.Address, d.Refresh) }));
    }

    /// <summary>Parcels in depots of a refresh that are a folder, hold it, or lie in it.</summary>
    private async Task<IEnumerable<Lying>> NearAsync(string refresh, List<string> depots, string folder, CancellationToken cancel)
    {
        // The records compare a little more narrowly than Claims, which has the last word; paths that the service makes bear a number.
        var way = WayTo(folder).ToList();
        if (all is not null)
            return way.SelectMany(w => all[w].Where(l => w == way[^1] || WayTo(l.Parcel).Last() == w))
                .Where(l => l.Refresh == refresh && depots.Contains(l.Depot));
        var below = SearchPattern.Beginning(folder + "/");
        var near = Staged(db).Where(s => s.Refresh == refresh && depots.Contains(s.Depot!))
            .Where(s => way.Contains(s.Parcel!.ToLower()) || EF.Functions.Like(s.Parcel!.ToLower(), below, "\\"));
        return await ReadAsync(near, cancel);
    }

    private static IQueryable<SwapRow> Staged(YardDb db) =>
        db.Swaps.AsNoTracking().Where(s => s.Parcel != null && s.Depot != null && s.PurgedAt == null);

    private static Task<List<Lying>> ReadAsync(IQueryable<SwapRow> swaps, CancellationToken cancel) =>
        swaps.Select(s => new Lying(s.Id, s.Refresh, s.Depot!, s.Parcel!, s.RescuedFrom)).ToListAsync(cancel);

    /// <summary>The folders that lead to a folder in a depot, in small letters, itself the last.</summary>
    private static IEnumerable<string> WayTo(string folder)
    {
        var low = folder.ToLowerInvariant();
        for (var at = low.IndexOf('/', StringComparison.Ordinal); at >= 0; at = low.IndexOf('/', at + 1)) yield return low[..at];
        yield return low;
    }
}
