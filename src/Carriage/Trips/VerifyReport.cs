using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>What is wrong with one file of a parcel.</summary>
public enum DamageKind
{
    /// <summary>Listed but not there.</summary>
    Missing,

    /// <summary>There, but not what was staged.</summary>
    Changed,

    /// <summary>There, but listed nowhere.</summary>
    Extra,

    /// <summary>A list that cannot be right.</summary>
    Wrong,
}

/// <summary>One finding, by its path in the bag.</summary>
public sealed record Damage(DamageKind Kind, string Path, string Reason);

/// <summary>What a look at every byte of a parcel found.</summary>
/// <param name="MoreDamages">Damages beyond those that are named; a list has an end.</param>
/// <param name="NotRead">Files that were only looked for, where a sample was asked for.</param>
public sealed record VerifyReport(Amount Payload, IReadOnlyList<Damage> Damages, double Seconds, long NotRead = 0, long MoreDamages = 0)
{
    /// <summary>What was mended from the second copy, by its path in the bag.</summary>
    public IReadOnlyList<string> Mended { get; init; } = [];

    /// <summary>How the second copy stands to this one, in whole sentences; null: none was looked at.</summary>
    public string? SecondCopy { get; init; }

    /// <summary>Where what was read of the files came from; null: none was read.</summary>
    public ReadPlaces? Read { get; init; }

    /// <summary>In which state its lists are, to be held against what was heard of it before; null: no trip has ended there.</summary>
    public ParcelState? State { get; init; }

    /// <summary>How many there are, named or not.</summary>
    public long DamageCount => Damages.Count + MoreDamages;

    /// <summary>True when every file is there, whole and listed.</summary>
    public bool IsWhole => Damages.Count == 0;
}
