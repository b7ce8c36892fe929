namespace YardRelay.Core.Readiness;

/// <summary>When the mail goes that says in the morning who is not ready for the next day with visits.</summary>
/// <param name="At">From when on, by the clocks of the refresh.</param>
/// <param name="Mailed">The day on which it last went, or was given up; null: it never did.</param>
public sealed record MorningMail(TimeOnly At, DateOnly? Mailed)
{
    /// <summary>
    /// How long after its time it may still go: a service that was down at seven says at nine who is not ready, not at night.
    /// </summary>
    public static readonly TimeSpan Latest = TimeSpan.FromHours(3);

    /// <summary>No later than this, so that the whole stretch in which it may go lies on one day.</summary>
    public static readonly TimeOnly LatestAt = new(21, 0);

    /// <summary>It is about nothing that is further off: until then there is a mail on each morning that comes before.</summary>
    public const int MostDaysAhead = 7;

    /// <summary>Whether it is to go now.</summary>
    /// <param name="now">What the clocks of the refresh show.</param>
    /// <param name="next">The next day with visits after that of <paramref name="now"/>; null: there is none.</param>
    public bool IsDue(DateTime now, DateOnly? next)
    {
        var (today, since) = (DateOnly.FromDateTime(now), now.TimeOfDay - At.ToTimeSpan());
        return (Mailed is null || Mailed < today)
            && since >= TimeSpan.Zero
            && since <= Latest
            && next is { } day
            && day.DayNumber - today.DayNumber is > 0 and <= MostDaysAhead;
    }
}
