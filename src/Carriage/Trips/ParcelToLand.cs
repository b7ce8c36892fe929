using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Parcels;
using YardRelay.Core;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>A parcel that was opened to land somewhere: what is in it, by a list that can be believed.</summary>
internal sealed class ParcelToLand : IDisposable
{
    private readonly IDepot _depot;

    private ParcelToLand(IDepot depot, OpenedParcel parcel, UnfinishedParcel? unfinished, string? listWrong) =>
        (_depot, Id, Paths, Unfinished, ListWrong) = (depot, parcel.Id, parcel.Paths, unfinished, listWrong);

    public string Id { get; }

    public ParcelPaths Paths { get; }

    /// <summary>Its last trip broke off, and this is what it holds; null: it ended.</summary>
    public UnfinishedParcel? Unfinished { get; }

    /// <summary>What is wrong with the list of entries, as a sentence; null: nothing.</summary>
    public string? ListWrong { get; }

    /// <summary>Opens it.</summary>
    /// <param name="takesUnfinished">One whose last trip broke off counts as it was left; else it is refused.</param>
    public static async Task<Result<ParcelToLand>> OpenAsync(
        IDepot depot, DepotPath parcel, SealKeys? keys, LandingPlan plan, bool takesUnfinished, IWork work, CancellationToken cancel)
    {
        var found = await new ParcelOpening(depot, parcel, keys ?? SealKeys.None, work).TryOpenAsync(needsKey: true, cancel);
        if (!found.IsOk) return found.Problem;
        if (found.Value is not { } opened) return new NoParcel(parcel.Text, depot.Address);
        var paths = opened.Paths;
        var (isBegun, everEnded) = (
            await DepotTree.HasFileAsync(depot, paths.At(ParcelPaths.OpenTrip), cancel),
            await DepotTree.HasFileAsync(depot, paths.At(ParcelPaths.TagManifest), cancel));
        if ((isBegun || !everEnded) && !takesUnfinished) return Refused(everEnded);
        UnfinishedParcel? unfinished = null;
        if (isBegun || !everEnded)
        {
            if (await ParcelLock.HeldAsync(depot, paths, work, cancel) is { } held) return held;
            unfinished = await UnfinishedParcel.GatherAsync(depot, paths, plan.Wants, work, cancel);
        }
        if (unfinished is not null) return new ParcelToLand(depot, opened, unfinished, null);
        var digests = await ListDigests.ReadAsync(depot, paths, cancel);
        return new ParcelToLand(depot, opened, null, await digests.WrongAsync(depot, paths, ParcelPaths.Entries, cancel));
    }

    /// <summary>Its entries, in their order.</summary>
    /// <param name="damaged">Told what is wrong with a line that is no entry; null: such a line is passed over.</param>
    public Task<EntryReader> EntriesAsync(Action<string>? damaged, CancellationToken cancel) =>
        Unfinished?.OpenAsync(damaged, cancel) ?? EntryReader.OpenAsync(_depot, Paths, ParcelPaths.Entries, damaged, cancel);

    private static ParcelUnfinished Refused(bool everEnded) => new(
        (everEnded
            ? "A trip is under way or broke off. Run the trip again, then restore. "
            : "The parcel's first trip is not finished. Run the trip again, then restore. ")
            + "Where the old computer is gone for good, restore with --unfinished what was brought until then.");

    public void Dispose() => Unfinished?.Dispose();
}
