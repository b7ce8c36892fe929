using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>How the second copy of a parcel stands to the first.</summary>
public enum CopyStanding
{
    /// <summary>Both are of the same state.</summary>
    Same,

    /// <summary>The first has gone on from where the second is.</summary>
    SecondBehind,

    /// <summary>The second has gone on from where the first is: the first was put back, or a trip went to the other depot.</summary>
    FirstBehind,

    /// <summary>There is no first copy, or none that any trip has ended in.</summary>
    FirstGone,

    /// <summary>Neither goes back to the other, or one cannot be read: no program decides which is right.</summary>
    Apart,
}

/// <summary>Two copies of a parcel, held against one another by trip and digest of their lists.</summary>
/// <param name="Words">Which is which, in whole sentences.</param>
public sealed record CopiesCompared(CopyStanding Standing, string Words);

/// <summary>
/// Which of two copies of a parcel is the newer, and the older brought up from it: never the other way, and never where it cannot be told.
/// </summary>
public sealed class TwoCopies(IDepot first, IDepot second, DepotPath parcel, Odometer progress, IWork work)
{
    private readonly ParcelPaths _paths = new(parcel);

    /// <summary>Compares.</summary>
    /// <exception cref="DepotUnreachableException">A depot went away.</exception>
    public async Task<CopiesCompared> CompareAsync(CancellationToken cancel)
    {
        var (ours, theirs) = (
            await ParcelStates.ReadAsync(first, parcel, cancel), await ParcelStates.ReadAsync(second, parcel, cancel));
        if (theirs is null) return new(CopyStanding.Apart, $"The second copy in {second.Address} has no lists of a trip that ended.");
        if (ours is null)
            return await DepotTree.HasFileAsync(first, _paths.At(ParcelPaths.Info), cancel)
                ? new(CopyStanding.Apart, $"The first copy in {first.Address} has no lists of a trip that ended, or they are damaged.")
                : new(CopyStanding.FirstGone, $"There is no parcel in {first.Address}. The second copy has trip {theirs.Now.Trip}.");
        if (ours.Now.Sha256 == theirs.Now.Sha256)
            return new(CopyStanding.Same, $"The second copy is of the same state, trip {theirs.Now.Trip}.");
        var (newer, older) = ours.Now.Trip > theirs.Now.Trip ? (ours, theirs) : (theirs, ours);
        // Only what says of itself that it went on from there did so.
        if (newer.Now.Trip == older.Now.Trip
            || !newer.Found.TryGetValue(older.Now.Trip + 1, out var from)
            || from != older.Now.Sha256)
            return new(
                CopyStanding.Apart,
                $"The first copy has trip {ours.Now.Trip} and the second trip {theirs.Now.Trip}, and neither says that it goes on from the "
                    + "other.");
        return newer == ours
            ? new(CopyStanding.SecondBehind, $"The second copy is as trip {theirs.Now.Trip} left it, the first as trip {ours.Now.Trip}.")
            : new(CopyStanding.FirstBehind, $"The first copy is as trip {ours.Now.Trip} left it, the second as trip {theirs.Now.Trip}.");
    }

    /// <summary>
    /// Brings the first copy up from a second one that has gone on from it, or that is all there is. The newer is read whole before
    /// anything is written.
    /// </summary>
    /// <param name="alsoGone">
    /// Also where the first depot has no parcel at all: its disk died, and not only is not mounted. Somebody has to say so.
    /// </param>
    /// <returns>What was brought; null: the first is not behind, and nothing was done. Or why it could not be.</returns>
    public async Task<Result<CopyReport?>> BringFirstUpAsync(bool alsoGone, CancellationToken cancel)
    {
        var compared = await CompareAsync(cancel);
        if (compared.Standing == CopyStanding.FirstGone && !alsoGone) return new FirstCopyGone(compared.Words);
        if (compared.Standing is not (CopyStanding.FirstBehind or CopyStanding.FirstGone)) return Result<CopyReport?>.Of(null);
        // What a trip that broke off had brought here is in no list of the other.
        if (await DepotTree.HasFileAsync(first, _paths.At(ParcelPaths.OpenTrip), cancel))
            return new ParcelUnfinished($"{compared.Words} A trip to the first broke off: run it again, then verify.");
        var verified = await new Verification(second, parcel, new TripOptions().AtOnce, progress, work).RunAsync(cancel);
        if (!verified.TryGet(out var whole, out var problem)) return problem;
        if (!whole.IsWhole) return new SecondCopyNotWhole(second.Address, first.Address, compared.Words, whole.DamageCount);
        var brought = await new SecondCopy(second, first, parcel, progress, work).BringUpAsync(cancel);
        return brought.TryGet(out var report, out var refused) ? Result<CopyReport?>.Of(report) : refused;
    }
}

/// <summary>The first depot has no parcel, and the second has.</summary>
public sealed record FirstCopyGone(string Compared) : Problem(
    "second-copy.first-gone",
    $"{Compared} Is the disk mounted, and the right one? Where it died, name a new one and say --bring-back: the parcel is brought there.");

/// <summary>The newer copy of a parcel is damaged itself.</summary>
public sealed record SecondCopyNotWhole(string Depot, string First, string Compared, long Damages) : Problem(
    "second-copy.not-whole",
    $"{Compared} The newer one in {Depot} has {Damages} damage(s), so {First} is not brought up from it. Verify it by itself first.");
