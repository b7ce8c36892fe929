namespace YardRelay.Core.Notices;

/// <summary>When in a swap a person is told something.</summary>
public enum NoticeMoment
{
    /// <summary>That their computer will be changed.</summary>
    Announced,

    /// <summary>Their time, and that another can be chosen.</summary>
    Booked,

    /// <summary>Their time is another one than they were told.</summary>
    Moved,

    /// <summary>The time that they were told does not hold, and there is no other yet.</summary>
    Unbooked,

    /// <summary>Somebody would exchange times with them.</summary>
    ExchangeAsked,

    /// <summary>What they asked is answered.</summary>
    Answered,

    /// <summary>The link that they asked for.</summary>
    NewLink,

    /// <summary>The swap is called off.</summary>
    CalledOff,

    /// <summary>What was found on the computer, and what comes along.</summary>
    ComesAlong,

    /// <summary>What is still theirs to do before.</summary>
    Reminder,

    /// <summary>The day before.</summary>
    DayBefore,

    /// <summary>What they need first is on the new computer.</summary>
    UrgentReady,

    /// <summary>All is there: look, and accept.</summary>
    PleaseAccept,

    /// <summary>The old computer will be wiped.</summary>
    WipeAhead,

    /// <summary>The staged files will be removed.</summary>
    HeldEnds,
}

/// <summary>What every moment has.</summary>
public static class NoticeMoments
{
    /// <summary>Its name in files, commands and addresses: <c>day-before</c>.</summary>
    public static string Key(this NoticeMoment moment) =>
        string.Concat(moment.ToString().Select((c, i) => char.IsUpper(c) ? $"{(i == 0 ? "" : "-")}{char.ToLowerInvariant(c)}" : $"{c}"));

    /// <summary>The moment of a name; null: there is none.</summary>
    public static NoticeMoment? Of(string key) =>
        Enum.GetValues<NoticeMoment>().Cast<NoticeMoment?>().FirstOrDefault(m => m!.Value.Key() == key);

    /// <summary>Whether the swap cannot do without it: then it is sent also to those who want no mail.</summary>
    public static bool IsNeeded(this NoticeMoment moment) =>
        moment is not (NoticeMoment.ComesAlong or NoticeMoment.Reminder or NoticeMoment.UrgentReady);

    /// <summary>Whether whoever gets it has been told when the change comes.</summary>
    public static bool TellsWhen(this NoticeMoment moment) =>
        moment is NoticeMoment.Booked or NoticeMoment.Moved or NoticeMoment.Reminder or NoticeMoment.DayBefore;

    /// <summary>Whether it carries the appointment, as an invitation or its cancellation.</summary>
    public static bool Invites(this NoticeMoment moment) =>
        moment is NoticeMoment.Booked or NoticeMoment.Moved or NoticeMoment.Unbooked or NoticeMoment.CalledOff;
}
