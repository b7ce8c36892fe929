using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>One folder as a restore left it. Always <c>InDepot = Restored + Stood + Beside + Open</c>.</summary>
/// <param name="Restored">Made on the new computer.</param>
/// <param name="Stood">The same content stood there already.</param>
/// <param name="Beside">Something else stood there; ours lies beside it under another name.</param>
/// <param name="Open">Could not be restored.</param>
public sealed record FolderRestored(string Folder, Amount InDepot, Amount Restored, Amount Stood, Amount Beside, Amount Open);

/// <summary>A name that was taken; ours is kept beside it.</summary>
public sealed record KeptBeside(string Path, string As);

/// <summary>What a restore did.</summary>
/// <param name="Damages">Files that the depot no longer gives back as staged, by their path in the bag.</param>
public sealed record RestoreReport(IReadOnlyList<FolderRestored> Folders, IReadOnlyList<Snag> Snags, IReadOnlyList<Damage> Damages, IReadOnlyList<KeptBeside> Beside, double Seconds)
{
    /// <summary>True when all of the parcel is on the new computer as it was.</summary>
    public bool IsWhole => Snags.Count == 0 && Damages.Count == 0;
}
