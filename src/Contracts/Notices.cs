namespace YardRelay.Contracts;

/// <summary>A notice that was made for a person.</summary>
/// <param name="Moment">announced, booked, moved, unbooked, exchange-asked, answered, called-off, comes-along, reminder, day-before,
/// urgent-ready, please-accept, wipe-ahead or held-ends.</param>
/// <param name="State">sent, waits, bounced, dropped (not sent in time, or given up) or uncertain.</param>
/// <param name="OpenedAt">When the link in it was opened.</param>
public sealed record NoticeSeen(
    string Id, string Swap, string Name, string Moment, string Language, string To, string Subject, string State, DateTimeOffset MadeAt,
    DateTimeOffset? SentAt, DateTimeOffset? OpenedAt, int Tries, string? Trouble);

/// <summary>How far a person is told, and what came of it.</summary>
/// <param name="Mail">Where they are written to; null: nobody knows.</param>
/// <param name="Last">The newest notice that went; null: none.</param>
/// <param name="OpenedAt">When their page was first opened.</param>
/// <param name="SeenAt">When it was last looked at.</param>
/// <param name="IsReady">They have said that they are ready.</param>
/// <param name="Trouble">Why the newest did not arrive; null: nothing is known to be wrong.</param>
/// <param name="ToldAt">Since when they are told when it is: a mail that says it was handed over, or somebody said so. The same as the
/// swap's first station and its step.</param>
/// <param name="Next">What they hear next; null: nothing is due.</param>
public sealed record ToldSeen(
    string Swap, string Name, string Site, string? Wave, string? Mail, bool MailOff, int Sent, NoticeSeen? Last, DateTimeOffset? OpenedAt,
    DateTimeOffset? SeenAt, bool IsReady, DateTimeOffset? AcceptedAt, string? Trouble,
    DateTimeOffset? ToldAt, string? Room, DateTimeOffset? Start, NextNotice? Next);

/// <summary>What a person hears next by mail.</summary>
/// <param name="Moment">Which notice; null: none will tell them of their time.</param>
/// <param name="Due">When it goes; null: never.</param>
/// <param name="Why">Why it never goes; null: it does.</param>
public sealed record NextNotice(string? Moment, DateTimeOffset? Due, string? Why);

/// <summary>How a refresh tells people.</summary>
/// <param name="Since">Since when; null: they are not told.</param>
/// <param name="CanSend">A mail server is set.</param>
public sealed record ToldPage(DateTimeOffset? Since, bool CanSend, IReadOnlyList<ToldSeen> People);

/// <summary>Switches telling people on or off. What was due before is not told late.</summary>
public sealed record NoticesWanted(bool On);

/// <summary>A mail that came back, and what it was.</summary>
/// <param name="Kind">report (a delivery report) or answer (the person's words, now a question that waits).</param>
/// <param name="Words">What it says.</param>
public sealed record MailTaken(string Kind, string Swap, string Name, string Words);

/// <summary>Sends a notice once more.</summary>
/// <param name="Moment">Which; one whose time is not over.</param>
/// <param name="Swaps">To whom, 1 to 500.</param>
public sealed record NoticeAgain(string Moment, IReadOnlyList<string> Swaps);

/// <summary>How many will be sent.</summary>
/// <param name="Skipped">Those that will not, and why.</param>
public sealed record NoticesMade(int Made, IReadOnlyList<string> Skipped);

/// <summary>A text for a moment.</summary>
/// <param name="IsOwn">The refresh's own; else the one that ships.</param>
/// <param name="Fields">What may stand in braces.</param>
public sealed record NoticeTextSeen(string Moment, string Language, string Text, bool IsOwn, IReadOnlyList<string> Fields);

/// <summary>Sets the refresh's own text.</summary>
/// <param name="Text">The first line is the subject, Markdown with fields below; empty: the one that ships again.</param>
public sealed record NoticeTextWanted(string Text);

/// <summary>Asks how a notice would read.</summary>
/// <param name="Swap">For whom.</param>
/// <param name="Text">As it is being written; null: as it is kept.</param>
public sealed record NoticePreviewWanted(string Moment, string Language, string Swap, string? Text = null);

/// <summary>How it would read.</summary>
/// <param name="Problems">What is wrong with the text; empty: it can be kept.</param>
public sealed record NoticePreview(IReadOnlyList<string> Problems, string Subject, string Plain, string Html);
