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
