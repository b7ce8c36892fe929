using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder of the parcel as a restore left it. Always <c>InDepot = Restored + Stood + Beside + Stayed + Open</c>.</summary>
/// <param name="Restored">Made on the new computer, also in the place of something else where the clash rule says so.</param>
/// <param name="Stood">The same content stood there already.</param>
/// <param name="Beside">Something else stood there; ours lies beside it under another name.</param>
/// <param name="Open">Could not be restored.</param>
/// <param name="Stayed">Something else stood there, and stays by the clash rule.</param>
public sealed record FolderRestored(
    string Folder, Amount InDepot, Amount Restored, Amount Stood, Amount Beside, Amount Open, Amount Stayed = default);

/// <summary>What a clash rule decided about a name.</summary>
/// <param name="Replaced">Ours took the place of what stood; else what stood, stays.</param>
public sealed record ClashDecided(string Path, bool Replaced);

/// <summary>A name that was taken; ours is kept beside it.</summary>
public sealed record KeptBeside(string Path, string As);

/// <summary>What a restore did.</summary>
/// <param name="NotInParcel">What the landing plan names, and the parcel has not.</param>
/// <param name="Damages">Files that the depot no longer gives back as staged, by their path in the bag.</param>
public sealed record RestoreReport(
    IReadOnlyList<FolderRestored> Folders,
    IReadOnlyList<Snag> Snags,
    IReadOnlyList<Damage> Damages,
    IReadOnlyList<KeptBeside> Beside,
    double Seconds,
    IReadOnlyList<ClashDecided>? Clashes = null,
    IReadOnlyList<string>? NotInParcel = null)
{
    /// <summary>The trip that broke off, where the parcel was restored as that one left it; null: its last trip ended.</summary>
    public UnfinishedTrip? Unfinished { get; init; }

    /// <summary>True when all of the parcel is on the new computer as it was.</summary>
    public bool IsWhole => Snags.Count == 0 && Damages.Count == 0 && (NotInParcel?.Count ?? 0) == 0;
}
