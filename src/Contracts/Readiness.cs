namespace YardRelay.Contracts;

/// <summary>What can be done about a lack: as a button, and as a command with ids.</summary>
/// <param name="Action">told, hand-over, give, another-time, decide, survey, trip, code or depot.</param>
/// <param name="Words">What its button says.</param>
/// <param name="Of">What it is about, where that is not only the swap: a tag, or the key of a step; null: the swap.</param>
public sealed record CureSeen(string Action, string Words, string Command, string? Of);

/// <summary>What a visit lacks to take place as it is booked.</summary>
/// <param name="Kind">no-time, not-delivered, no-new-computer, failed, technician-away, not-told, no-answer, no-hand, silent-hand,
/// no-depot, depot-full, not-staged, files-open or steps-open.</param>
/// <param name="IsFinal">Whatever is done until then, it cannot take place as it is booked.</param>
/// <param name="IsMinor">It stands in nobody's way yet.</param>
/// <param name="Count">How many things are open; null: it is one.</param>
public sealed record LackSeen(string Kind, bool IsFinal, bool IsMinor, int? Count, string Words, IReadOnlyList<CureSeen> Cures);

/// <summary>How ready a visit is.</summary>
/// <param name="Start">Null: it has no time.</param>
/// <param name="Technician">Key of who does it; null: nobody yet.</param>
/// <param name="State">cannot, can-still, nearly (only minor things are missing), ready or begun.</param>
/// <param name="Lacks">The gravest first; none: nothing is missing.</param>
public sealed record VisitReady(
    string Swap, string Name, string Site, string? Room, DateTimeOffset? Start, string? Technician, string? TechnicianName, string State,
    IReadOnlyList<LackSeen> Lacks);

/// <summary>A day on which something is booked.</summary>
public sealed record ReadyDay(DateOnly Day, int Visits);

/// <summary>Who is not ready for a day, or a wave, and why.</summary>
/// <param name="Day">Null: a wave is looked at, over its days.</param>
/// <param name="Wave">Key of the wave; null: a day is looked at.</param>
/// <param name="Days">The next days on which something is booked, today among them.</param>
/// <param name="ToldUntil">When the last mail goes that tells somebody of these their time; null: none is to go.</param>
/// <param name="Visits">First those that cannot take place as booked, then those that can still, the nearly ready, the ready and the begun
/// ones, each by their times; at most 1,000.</param>
/// <param name="Total">How many there are.</param>
public sealed record ReadyPage(
    DateOnly? Day, string? Wave, string? Site, string Zone, DateTimeOffset Now, IReadOnlyList<ReadyDay> Days, DateTimeOffset? ToldUntil,
    IReadOnlyList<VisitReady> Visits, int Total);

/// <summary>Wants a mail in the morning that says who is not ready for the next day with visits.</summary>
/// <param name="To">Addresses, at most 20; none: no mail.</param>
/// <param name="At">From when on, by the clocks of the refresh: <c>07:00</c>.</param>
public sealed record MorningMailWanted(IReadOnlyList<string> To, string At);

/// <summary>The mail in the morning.</summary>
/// <param name="To">Addresses; none: there is no such mail.</param>
/// <param name="Mailed">The day on which it last went; null: it never did.</param>
/// <param name="Trouble">Why the last one did not go; null: nothing is wrong.</param>
/// <param name="CanSend">Whether the service has a mail server.</param>
/// <param name="IsUnderWay">One is being sent now; whether it goes is not known yet.</param>
public sealed record MorningMailSeen(
    IReadOnlyList<string> To, string At, DateOnly? Mailed, string? Trouble, bool CanSend, bool IsUnderWay = false);

/// <summary>A mail of the morning that went when somebody asked for it.</summary>
public sealed record MorningMailSent(IReadOnlyList<string> To, string Subject);
