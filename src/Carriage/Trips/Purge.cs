using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>What a purge did.</summary>
/// <param name="Removed">Files of the person that were in the parcel, as its entries tell.</param>
/// <param name="Left">Names that the depot still lists under the parcel; empty: nothing is left.</param>
public sealed record PurgeReport(string Parcel, string Depot, Amount Removed, IReadOnlyList<string> Left, double Seconds)
{
    /// <summary>Names in its folder that are not the parcel's: another parcel, or somebody's file. They stand as they stood.</summary>
    public IReadOnlyList<string> Others { get; init; } = [];
}

/// <summary>The name that was said again is another.</summary>
public sealed record PurgeUnconfirmed(string Parcel)
    : Problem(
        "purge.unconfirmed",
        $"Nothing was removed. A purge cannot be taken back: say the parcel's name once more with --confirm '{Parcel}'.");

/// <summary>
/// Removes a parcel from its depot and proves it by listing. Refused while another hand writes to it. May be killed and run again.
/// </summary>
public sealed class Purge(IDepot depot, DepotPath parcel, IWork work, SealKeys? keys = null)
{
    private const int MostLeft = 100;

    /// <summary>Purges.</summary>
    /// <param name="confirmed">The parcel's name, said again by whoever asks.</param>
    /// <returns>The report; or <see cref="NoParcel"/>, <see cref="ParcelLocked"/>, <see cref="PurgeUnconfirmed"/>, with nothing
    /// removed.</returns>
    public async Task<Result<PurgeReport>> RunAsync(string confirmed, CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        var paths = new ParcelPaths(parcel);
        var found = await new ParcelOpening(depot, parcel, keys ?? SealKeys.None, work).TryOpenAsync(needsKey: false, cancel);
        if (found.IsOk && found.Value is { } opened) paths = opened.Paths;
        // The file that says what the folder is goes last, so that a purge that was killed is known for a parcel still.
        if (await DepotTree.ReadAsync(depot, paths.At(ParcelPaths.Info), cancel) is null) return new NoParcel(parcel.Text, depot.Address);
        if (confirmed.Trim('/') != parcel.Text) return new PurgeUnconfirmed(parcel.Text);
        var removed = Amount.None;
        if (paths.Seal is { Key: null })
        {
            // Without a key it is not known what was in the packs; how many there were is.
            await foreach (var (_, bytes) in DepotTree.FilesAsync(depot, paths.Data, cancel)) removed += Amount.File(bytes);
        }
        else using (var entries = await EntryReader.OpenAsync(depot, paths, ParcelPaths.Entries, null, cancel))
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
                if (entry.Kind != EntryKind.Folder) removed += Amount.File(entry.Bytes);
        var others = new List<string>();
        if (!(await ParcelLock.TakeAsync(depot, paths, work, cancel)).TryGet(out var held, out var locked)) return locked;
        await using (held)
        {
            foreach (var name in await depot.ListAsync(paths.Root, cancel))
                if (!ParcelGround.IsOurs(name.Name)) others.Add((parcel / name.Name).Text);
                else if (name.Name != "yard") await depot.RemoveAsync(paths.Root / name.Name, cancel);
            foreach (var name in await depot.ListAsync(paths.At("yard"), cancel))
                if (!$"yard/{name.Name}".StartsWith(ParcelPaths.Lock, StringComparison.Ordinal) && $"yard/{name.Name}" != ParcelPaths.Info)
                    await depot.RemoveAsync(paths.At("yard") / name.Name, cancel);
        }
        await depot.RemoveAsync(paths.At("yard"), cancel);
        if (others.Count == 0) await depot.RemoveAsync(paths.Root, cancel);
        var left = new List<string>();
        if (others.Count == 0 && (await depot.ListAsync(parcel.Parent, cancel)).Any(n => n.Name == parcel.Name)) left.Add(parcel.Text);
        await foreach (var (path, _, _) in DepotTree.AllAsync(depot, paths.Root, cancel))
            if (left.Count < MostLeft && !others.Exists(o => DepotPath.Of(o) == path || path.IsIn(DepotPath.Of(o)))) left.Add(path.Text);
        return new PurgeReport(parcel.Text, depot.Address, removed, left, work.Time.GetElapsedTime(started).TotalSeconds)
        {
            Others = others
        };
    }
}
