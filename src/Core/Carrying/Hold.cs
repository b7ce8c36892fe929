namespace YardRelay.Core.Carrying;

/// <summary>How long a parcel must be kept, from the facts of its swap.</summary>
/// <param name="Until">First day on which it may be purged; null: it is not signed off yet.</param>
/// <param name="Missing">What stands in the way of a purge, in whole sentences.</param>
/// <param name="Alarm">A day on which the depot deletes by itself comes too soon; null: it does not.</param>
public sealed record Hold(DateOnly? Until, IReadOnlyList<string> Missing, string? Alarm)
{
    /// <summary>How many days ahead a depot's own end is told.</summary>
    public const int AlarmDays = 28;

    /// <summary>Computes it.</summary>
    /// <param name="today">The day in the refresh's zone.</param>
    /// <param name="lastSignOff">The day of the last sign-off; null: none.</param>
    /// <param name="days">Days that the refresh wants parcels kept in this depot.</param>
    /// <param name="isSigned">Whether the swap is signed off by its technician.</param>
    /// <param name="needsRestore">Whether files are still to be restored.</param>
    /// <param name="openFiles">Files or snags that are not accounted for.</param>
    /// <param name="depotEnds">The day on which the depot deletes by itself.</param>
    public static Hold Of(
        DateOnly today, DateOnly? lastSignOff, int days, bool isSigned, bool needsRestore, long openFiles, DateOnly? depotEnds)
    {
        var until = isSigned ? lastSignOff?.AddDays(days) : null;
        var missing = new List<string>();
        if (needsRestore) missing.Add("Its files are not on the new computer yet.");
        if (openFiles > 0) missing.Add($"{(openFiles == 1 ? "1 file is" : $"{openFiles:#,0} files are")} neither carried nor waived.");
        if (until is null) missing.Add("The swap is not signed off by its technician.");
        else if (today < until) missing.Add($"It is held until {until:yyyy-MM-dd}, {days} days from the last sign-off.");
        string? alarm = null;
        if (depotEnds is { } ends && ends.DayNumber - today.DayNumber <= AlarmDays)
        {
            if (needsRestore)
                alarm =
                    $"The depot deletes by itself on {ends:yyyy-MM-dd}, and this parcel is not restored. Restore it before, or carry it "
                        + $"to another depot.";
            else if (until is null || ends < until)
                alarm =
                    $"The depot deletes by itself on {ends:yyyy-MM-dd}, "
                        + $"{(until is { } hold ? $"before the hold ends on {hold:yyyy-MM-dd}" : "and the swap is not signed off")}. Have "
                        + $"the depot's end put off, or accept it with the person.";
        }
        return new(until, missing, alarm);
    }
}
