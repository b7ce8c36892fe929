namespace YardRelay.Core.Rounds;

/// <summary>What a swap, or the bench preparation for one, asks of its technician at this moment.</summary>
public abstract record VisitNow
{
    private VisitNow()
    {
    }

    /// <summary>Nothing is begun, and somebody was promised a time.</summary>
    public sealed record Ahead(DateTimeOffset Promised) : VisitNow;

    /// <summary>Nothing is begun, and nobody waits for it: it may be done whenever there is time, best at its hour.</summary>
    public sealed record Filler(DateTimeOffset Planned) : VisitNow;

    /// <summary>Begun, and at a point where hands are needed.</summary>
    /// <param name="Since">When hands were last on it.</param>
    public sealed record InHand(DateTimeOffset Since) : VisitNow;

    /// <summary>It goes on by itself.</summary>
    /// <param name="Until">When it should end; null: nobody can tell.</param>
    public sealed record Alone(DateTimeOffset Since, DateTimeOffset? Until) : VisitNow;

    /// <summary>What went on by itself is over, or was stopped: hands are needed again.</summary>
    public sealed record CallsBack(DateTimeOffset Since) : VisitNow;
}

/// <summary>A swap in a technician's round.</summary>
/// <param name="Key">Its id.</param>
/// <param name="Site">Where it is.</param>
/// <param name="HandsOn">How long the next hands-on part takes; for <see cref="VisitNow.Alone"/>: the one after what goes on by
/// itself.</param>
/// <param name="Unattended">For what is not begun: how long it then goes on by itself; zero: not at all.</param>
/// <param name="Last">For what is not begun: the hands-on part after that.</param>
public sealed record RoundVisit(
    string Key, string Site, VisitNow Now, TimeSpan HandsOn, TimeSpan Unattended = default, TimeSpan Last = default);

/// <summary>Which part of a visit comes.</summary>
public enum RoundPart
{
    /// <summary>The first hands-on part.</summary>
    First,

    /// <summary>On with what is in hand.</summary>
    GoOn,

    /// <summary>Back to where something has ended by itself, or stopped.</summary>
    Back,
}

/// <summary>One thing to do.</summary>
/// <param name="Start">When it begins as things stand.</param>
/// <param name="Promised">What the person was told; null: nobody was told a time.</param>
public sealed record RoundTurn(string Key, RoundPart Part, DateTimeOffset Start, DateTimeOffset End, DateTimeOffset? Promised)
{
    /// <summary>How long somebody waits beyond what was promised.</summary>
    public TimeSpan Late => Promised is { } told && Start > told ? Start - told : TimeSpan.Zero;
}
