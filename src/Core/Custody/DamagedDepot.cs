using YardRelay.Core.Swaps;

namespace YardRelay.Core.Custody;

/// <summary>Where a person's files are beside a parcel that may be damaged, the most urgent first.</summary>
public enum FilesBeside
{
    /// <summary>Nowhere that is known: what can still be read of the parcel is what there is.</summary>
    Nowhere,

    /// <summary>In a second copy, in another depot.</summary>
    Copy,

    /// <summary>On the old computer, which is there and not wiped.</summary>
    OldComputer,

    /// <summary>All of them on the new computer.</summary>
    NewComputer,
}

/// <summary>What is known of a swap whose parcel lies in a damaged depot.</summary>
/// <param name="Kind">Of the swap.</param>
/// <param name="IsRestored">All files are on the new computer, verified; of a leave: the receiver has accepted them.</param>
/// <param name="OldIsReadable">There is an old computer, its disk lives, it is not wiped, not missing, and has not left.</param>
/// <param name="HasCopy">A second copy was read back whole since the last trip, in a depot that is not damaged.</param>
public sealed record DamagedFacts(SwapKind Kind, bool IsRestored, bool OldIsReadable, bool HasCopy);

/// <summary>What a damaged depot means for one swap.</summary>
public static class DamagedDepot
{
    /// <summary>Where the files are beside the parcel: the best that is known.</summary>
    public static FilesBeside Beside(DamagedFacts facts) =>
        facts.IsRestored && facts.Kind != SwapKind.Leave ? FilesBeside.NewComputer
        : facts.OldIsReadable ? FilesBeside.OldComputer
        : facts.HasCopy ? FilesBeside.Copy
        : FilesBeside.Nowhere;

    /// <summary>What is to be done about it, in a sentence.</summary>
    public static string Remedy(FilesBeside beside) => beside switch
    {
        FilesBeside.Nowhere => "It may be the only copy: verify it, restore what can be read, and look for another copy.",
        FilesBeside.Copy => "Restore it from its second copy.",
        FilesBeside.OldComputer => "Verify it, or carry it again: the old computer is there. It is not wiped until then.",
        _ => "The files are on the new computer. The old one is not wiped until the parcel is verified again.",
    };
}
