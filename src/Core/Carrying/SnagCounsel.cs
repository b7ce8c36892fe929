namespace YardRelay.Core.Carrying;

/// <summary>What may be done about a snag.</summary>
/// <param name="MayRetry">Another trip or restore can end it.</param>
/// <param name="Words">For people, in one sentence.</param>
public sealed record SnagCounsel(bool MayRetry, string Words)
{
    /// <summary>The counsel for a kind of snag.</summary>
    public static SnagCounsel Of(SnagKind kind) => kind switch
    {
        SnagKind.Unreadable =>
            new(true, "Give the hand the rights to read it, or mend the disk, then retry; waive it if the person does not need it."),
        SnagKind.ChangedWhileRead => new(true, "Close the program that writes to it, then retry."),
        SnagKind.GoneWhileRead => new(true, "Retry: if it is gone for good, the next trip sees it no more."),
        SnagKind.Device or SnagKind.Pipe or SnagKind.Socket => new(false, "It has no content. Waive it."),
        SnagKind.DepotRefused => new(true, "Retry, or choose another depot for this swap."),
        SnagKind.NoRoom => new(true, "Make room in the depot, or leave something out, then retry: another trip brings what is missing."),
        SnagKind.DamagedInDepot =>
            new(true, "Retry while the old computer is there: the next trip brings it anew. Have the depot's disk looked at."),
        SnagKind.NotRestored => new(true, "Make room or give rights on the new computer, then restore again."),
        SnagKind.AttributeLost => new(true, "The file itself is there. Waive it unless a program needs the attribute."),
        SnagKind.SourceDoubted =>
            new(
                true,
                "Mount the right disk or name the right folder, then retry; or say whether it is the same one, or what is gone was "
                    + "deleted."),
        SnagKind.Unfinished =>
            new(false, "Look at it together with the person, and ask what is missed; then waive it with what you found."),
        SnagKind.OtherLists =>
            new(
                false,
                "Have the depot's own history brought back, or mend the parcel from its second copy; or waive it: then the parcel is taken "
                    + "as it is, on your word."),
        SnagKind.UntoldTrip =>
            new(true, "Order a trip: it tells all that stands in the parcel. Or waive it, if you know who made that trip."),
        _ => throw new System.Diagnostics.UnreachableException(),
    };
}
