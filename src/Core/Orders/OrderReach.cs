namespace YardRelay.Core.Orders;

/// <summary>What an order does to the parcel of its swap.</summary>
public enum ParcelUse
{
    /// <summary>It has nothing to do with it, nor with a depot.</summary>
    None,

    /// <summary>It reads it.</summary>
    Reads,

    /// <summary>It adds to it, or takes it away; one hand at a time.</summary>
    Writes,
}

/// <summary>What an order may touch, and under what it stands.</summary>
/// <param name="Parcel">What it does to the parcel.</param>
/// <param name="ReadsOldDisk">It reads the disk of the old computer, so a dead one is its end.</param>
/// <param name="OutlivesParcel">It can be given though the parcel is purged.</param>
/// <param name="OutlivesCallOff">It can be given though the swap is called off: it takes care of what is staged.</param>
/// <param name="Lands">It has to do with where the parcel lands on the new computer.</param>
/// <param name="IsLong">It takes long enough to be let rest and to go on.</param>
/// <param name="OneByOne">It is ordered for one swap at a time.</param>
/// <param name="NamesFolder">Who gives it names a folder of the depot, which is the coordinator's to say.</param>
public sealed record OrderReach(
    ParcelUse Parcel,
    bool ReadsOldDisk = false,
    bool OutlivesParcel = false,
    bool OutlivesCallOff = false,
    bool Lands = false,
    bool IsLong = false,
    bool OneByOne = false,
    bool NamesFolder = false);
