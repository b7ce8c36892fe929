using YardRelay.Carriage.Depots;
using YardRelay.Core;

namespace YardRelay.Carriage.Parcels;

/// <summary>The place is taken by something else than a parcel.</summary>
public sealed record GroundTaken(string Parcel, string Depot, string Name)
    : Problem(
        "parcel.ground",
        $"'{Parcel}' in {Depot} holds something that is no parcel of ours ('{Name}'). Nothing was done. Choose another name for the "
            + $"parcel, or look whose it is.");

/// <summary>Parcels do not lie in one another.</summary>
public sealed record ParcelNested(string Parcel, string Above)
    : Problem(
        "parcel.nested",
        $"'{Parcel}' would lie in the parcel {(Above.Length == 0 ? "that fills the depot" : $"'{Above}'")}. Nothing was done. Choose a "
            + $"name beside it.");

/// <summary>Where a parcel may come to lie in a depot.</summary>
internal static class ParcelGround
{
    /// <summary>What stands in the way of a new parcel; null: nothing does.</summary>
    public static async Task<Problem?> TakenAsync(IDepot depot, ParcelPaths paths, CancellationToken cancel)
    {
        if (await AboveAsync(depot, paths.Root, cancel) is { } above) return new ParcelNested(paths.Root.Text, above.Text);
        foreach (var name in await depot.ListAsync(paths.Root, cancel))
        {
            // What a first trip makes before it says what it is.
            if (name is { IsFolder: true, Name: "yard" }) continue;
            if (name is { IsFolder: true, Name: "data" } && (await depot.ListAsync(paths.Data, cancel)).Count == 0) continue;
            return new GroundTaken(paths.Root.Text, depot.Address, name.Name);
        }
        return null;
    }

    /// <summary>The parcel in which a path lies; null: in none.</summary>
    public static async Task<DepotPath?> AboveAsync(IDepot depot, DepotPath path, CancellationToken cancel)
    {
        while (!path.IsRoot)
        {
            path = path.Parent;
            try
            {
                if (await IsParcelAsync(depot, path, cancel)) return path;
            }
            catch (DepotShutException)
            {
                // A depot that opens this one place shows nothing of what is above it.
            }
        }
        return null;
    }

    /// <summary>Whether a folder is a parcel.</summary>
    public static Task<bool> IsParcelAsync(IDepot depot, DepotPath folder, CancellationToken cancel) =>
        DepotTree.HasFileAsync(depot, new ParcelPaths(folder).At(ParcelPaths.Info), cancel);

    /// <summary>Whether a name at the top of a parcel is part of it.</summary>
    public static bool IsOurs(string name) =>
        name is "data" or "yard" or ParcelPaths.Manifest or ParcelPaths.TagManifest or ParcelPaths.Bagit or ParcelPaths.BagInfo;
}
