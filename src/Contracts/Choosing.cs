namespace YardRelay.Contracts;

/// <summary>What a person may do about their time.</summary>
/// <param name="Until">When choosing ends; null: there is nothing to choose.</param>
/// <param name="Refusal">Why it may not be chosen now: called-off, under-way, fixed or too-late; null: it may.</param>
/// <param name="Wait">What they wait for; null: nothing.</param>
/// <param name="IsOffered">They offer their time in exchange.</param>
/// <param name="Exchanges">Questions about an exchange that wait for an answer.</param>
public sealed record BookingSeen(
    DateTimeOffset? Until, string? Refusal, WaitSeen? Wait, bool IsOffered, IReadOnlyList<ExchangeSeen> Exchanges);

/// <summary>A time that somebody waits for.</summary>
/// <param name="Ahead">How many have waited longer for times that overlap.</param>
public sealed record WaitSeen(DateTimeOffset From, DateTimeOffset Until, int Ahead);

/// <summary>Waits for a time.</summary>
/// <param name="From">The visit begins no earlier.</param>
/// <param name="Until">And is over by then; at most 31 days later.</param>
public sealed record WaitWanted(DateTimeOffset From, DateTimeOffset Until);

/// <summary>A question whether two times are exchanged.</summary>
/// <param name="Mine">The time that the reader would give.</param>
/// <param name="Theirs">The time that they would get.</param>
/// <param name="IsOwn">The reader asked; else they are asked.</param>
public sealed record ExchangeSeen(string Id, DateTimeOffset Mine, DateTimeOffset Theirs, bool IsOwn);

/// <summary>Offers one's time in exchange, or no longer.</summary>
public sealed record OfferWanted(bool Offered);

/// <summary>Asks whoever made an offer to exchange.</summary>
/// <param name="Offer">The offer's id.</param>
public sealed record ExchangeWanted(string Offer);

/// <summary>Answers whoever asks to exchange.</summary>
public sealed record ExchangeAnswer(bool Agrees);

/// <summary>Times that fit, as things stand.</summary>
/// <param name="Slots">In the order of time.</param>
/// <param name="Offers">Times that others would give for one's own, and that fit both.</param>
public sealed record SlotsSeen(IReadOnlyList<SlotSeen> Slots, IReadOnlyList<OfferSeen> Offers);

/// <summary>A time that fits.</summary>
/// <param name="End">When the last hands-on part is over.</param>
public sealed record SlotSeen(DateTimeOffset Start, DateTimeOffset End, string TechnicianName, bool IsOwn);

/// <summary>A time that somebody would give for another. Whose it is stays with them.</summary>
/// <param name="IsAsked">One has asked for it already.</param>
public sealed record OfferSeen(string Offer, DateTimeOffset Start, DateTimeOffset End, bool IsAsked);

/// <summary>Chooses a time.</summary>
public sealed record SlotWanted(DateTimeOffset Start);

/// <summary>How people choose their times.</summary>
/// <param name="UntilHours">How many hours before the appointment choosing ends, 2 to 720.</param>
/// <param name="MostPerSlot">No more visits may begin at one time at a site by choice, 1 to 1000; null: as many as the plan has room
/// for.</param>
public sealed record ChoosingRules(int UntilHours, int? MostPerSlot = null);

/// <summary>Somebody who waits for a time.</summary>
/// <param name="At">Since when.</param>
public sealed record WaitingSeen(
    string Swap, string Name, string Site, DateTimeOffset From, DateTimeOffset Until, DateTimeOffset At, DateTimeOffset? Start);

/// <summary>Swaps that must be kept apart, or go together.</summary>
/// <param name="Swaps">Ids of two or more swaps.</param>
/// <param name="AtOnce">No more of them are under way at once, 1 or more; null: any number.</param>
/// <param name="OneDay">Those that have an appointment have it on one day.</param>
public sealed record GroupWanted(string Name, IReadOnlyList<string> Swaps, int? AtOnce = null, bool OneDay = false);

/// <summary>A group.</summary>
/// <param name="Names">Whose the swaps are, in the same order.</param>
public sealed record GroupSeen(string Key, string Name, IReadOnlyList<string> Swaps, IReadOnlyList<string> Names, int? AtOnce, bool OneDay);
