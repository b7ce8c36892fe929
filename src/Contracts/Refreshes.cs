namespace YardRelay.Contracts;

/// <summary>A refresh to make.</summary>
/// <param name="Zone">IANA time zone of its days.</param>
/// <param name="Days">Length in days, 1 to 366.</param>
public sealed record NewRefresh(string Key, string Name, string Zone, DateOnly Starts, int Days);

/// <summary>A refresh.</summary>
/// <param name="Head">Head of its ledger, <c>number:sha256</c>.</param>
/// <param name="OldHoldDays">How many days an old computer is held after the last sign-off.</param>
/// <param name="AsksSecond">Whoever works in it shows a passkey, too.</param>
public sealed record RefreshSeen(
    string Key, string Name, string Zone, DateOnly Starts, int Days, long Swaps, string Head, int OldHoldDays,
    bool AsksSecond = false);

/// <summary>How long old computers are held.</summary>
/// <param name="Days">Days after the last sign-off, 0 to 366.</param>
public sealed record OldHoldWanted(int Days);

/// <summary>A piece of a list.</summary>
/// <param name="Next">Give this as <c>cursor</c> for the next piece; null: this is the last.</param>
public sealed record Page<T>(IReadOnlyList<T> Items, string? Next, long Total);

/// <summary>A part of a refresh's set-up.</summary>
/// <param name="Key">days, people, sites, technicians, depot, hands, accounts, notices or plan.</param>
/// <param name="State">there, wants or open.</param>
/// <param name="Words">What is there, or what is missing and what it is for.</param>
public sealed record SetUpPartSeen(string Key, string State, string Words);

/// <summary>What of a refresh is there and what is missing, in the order in which people set it up.</summary>
/// <param name="Unplannable">Why no first plan can be made yet; null: it can.</param>
public sealed record SetUpSeen(IReadOnlyList<SetUpPartSeen> Parts, string? Unplannable);

/// <summary>Changes what a refresh is called and when it is.</summary>
/// <param name="Zone">IANA time zone; like <paramref name="Starts"/> it can be changed until a plan was made.</param>
/// <param name="Days">Length in days, 1 to 366; no shorter than up to the last appointment.</param>
public sealed record RefreshWanted(string Name, string Zone, DateOnly Starts, int Days);
