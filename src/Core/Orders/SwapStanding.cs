using YardRelay.Core.Swaps;

namespace YardRelay.Core.Orders;

/// <summary>How a swap stands, as far as an order asks.</summary>
/// <param name="OldTag">Tag of the old computer; null: it has none.</param>
/// <param name="NewTag">Tag of the new one; null: it has none, or none is known yet.</param>
/// <param name="Trips">Trips that added to its parcel.</param>
/// <param name="OldDied">The old computer's disk died.</param>
/// <param name="IsSwapped">The new computer is in use.</param>
/// <param name="IsStaged">Its files are in the depot, and were verified there.</param>
/// <param name="ReceiverTag">Computer of whoever receives a leaver's parcel; null: none is named.</param>
/// <param name="IsAccepted">That person accepted it.</param>
/// <param name="HasBegun">A first trip has begun its parcel, whether or not it ever ended.</param>
public sealed record SwapStanding(
    SwapKind Kind,
    string? OldTag,
    string? NewTag,
    int Trips,
    bool IsPurged,
    bool IsCalledOff,
    bool OldDied,
    bool IsSwapped,
    bool IsStaged,
    string? ReceiverTag,
    bool IsAccepted,
    bool HasBegun = false)
{
    /// <summary>Something of it lies in a depot.</summary>
    public bool HasParcel => Trips > 0 || HasBegun;
}
