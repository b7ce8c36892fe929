using YardRelay.Core.Swaps;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>One way to bring a person's files over.</summary>
/// <param name="Way">disk, cable, share or cloud.</param>
/// <param name="AheadMinutes">Staging before the appointment, without a technician.</param>
/// <param name="VisitMinutes">The unattended part at the appointment.</param>
/// <param name="HandsOnMinutes">Of a technician, for the carrying alone.</param>
/// <param name="RoomBytes">Staged in a depot or on a disk.</param>
/// <param name="Risk">What can go wrong, in a sentence.</param>
/// <param name="Fits">False: there is no room for it.</param>
public sealed record WayToCarry(string Way, int AheadMinutes, int VisitMinutes, int HandsOnMinutes, long RoomBytes, string Risk, bool Fits);

/// <summary>Compares the ways to carry, from the same figures as the estimates.</summary>
public static class WaysToCarry
{
    private const double DiskBytesPerSecond = 110e6;
    private const double CableBytesPerSecond = 90e6;
    private const double SecondsPerFile = 1 / 400.0;

    /// <summary>All four ways for the cargo of one swap, the one with the shortest visit first.</summary>
    /// <param name="share">Rate of the network share.</param>
    /// <param name="cloud">Rate of the cloud share.</param>
    /// <param name="shareRoom">Bytes free there; null: no bound.</param>
    /// <param name="cloudRoom">Bytes free there; null: no bound.</param>
    public static IReadOnlyList<WayToCarry> Compare(
        SwapKind kind, Cargo cargo, DepotRate share, DepotRate cloud, long? shareRoom, long? cloudRoom)
    {
        int Carry(double rate) => (int)Math.Ceiling(((cargo.Bytes / rate) + (cargo.Files * SecondsPerFile)) / 60);
        WayToCarry Staged(string way, DepotRate rate, long? room, string risk)
        {
            var estimate = Estimates.For("", kind, null, cargo, rate, [], 1);
            return new(
                way, estimate.FirstTripMinutes, estimate.UnattendedMinutes, 5, cargo.Bytes, risk, room is null || cargo.Bytes <= room);
        }
        return [.. new[]
        {
            new WayToCarry(
                "disk",
                0,
                Carry(DiskBytesPerSecond) * (kind.Restores() ? 2 : 1),
                20,
                cargo.Bytes,
                "The disk can be lost or mixed up; it must be sealed, and purged afterwards. Nothing is safe before the visit.",
                true),
            new WayToCarry(
                "cable",
                0,
                kind.Stages() && kind.Restores() ? Carry(CableBytesPerSecond) : 0,
                15,
                0,
                "Both computers must run side by side at the visit; if the old one fails there, nothing was staged.",
                kind.Stages() && kind.Restores()),
            Staged("share", share, shareRoom, "The person's computer must be in the house while it is staged."),
            Staged("cloud", cloud, cloudRoom, "The link to the cloud can be slow or full when everybody stages at once."),
        }.OrderByDescending(w => w.Fits).ThenBy(w => w.VisitMinutes + w.HandsOnMinutes)];
    }
}
