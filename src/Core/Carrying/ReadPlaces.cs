namespace YardRelay.Core.Carrying;

/// <summary>Where the bytes came from that a read back or a verification held against the lists: how far it proves that they are kept.
/// </summary>
/// <param name="Medium">From the depot's own medium: the computer that has it kept nothing of them.</param>
/// <param name="Cache">From the memory of the computer that has the medium: that the medium has them is not proven.</param>
/// <param name="Unknown">From a server, or through another program, that may have answered out of its memory.</param>
public sealed record ReadPlaces(Amount Medium, Amount Cache, Amount Unknown)
{
    /// <summary>All of it.</summary>
    public Amount All => Medium + Cache + Unknown;

    /// <summary>As a part of a sentence behind "read back" or "read"; how much where it is not all alike.</summary>
    /// <param name="bytes">How bytes are written.</param>
    public string Words(Func<long, string> bytes)
    {
        (Amount Read, string From)[] all =
        [
            (Medium, "from the disk itself"),
            (Cache, "from memory, not from the disk"),
            (Unknown, "through a server or drive that may answer from its memory"),
        ];
        var there = all.Where(p => p.Read.Files > 0).ToList();
        return there.Count == 1
            ? there[0].From
            : string.Join(", ", there.Select(p => $"{bytes(p.Read.Bytes)} {p.From}"));
    }
}
