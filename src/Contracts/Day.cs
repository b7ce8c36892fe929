namespace YardRelay.Contracts;

/// <summary>Something that needs somebody now, in a sentence, with the one thing that helps.</summary>
/// <param name="Swap">Its id; empty where it is about a depot.</param>
/// <param name="Action">open, or depot.</param>
public sealed record NeedSeen(string Swap, string Name, string Sign, string Words, DateTimeOffset Since, string Action, string ActionWords);

/// <summary>A day at a glance.</summary>
/// <param name="EndsAt">When the day ends as things stand; null: nothing is booked.</param>
public sealed record DaySeen(
    DateOnly Day, string Zone, DateTimeOffset Now, int Swaps, int Sites, int Done, int UnderWay, int Stopped, DateTimeOffset? EndsAt,
    IReadOnlyList<SwapListed> Visits,
    IReadOnlyList<SwapListed> Moving,
    IReadOnlyList<NeedSeen> Needs,
    IReadOnlyList<TechnicianSeen> Technicians);

/// <summary>An entry of the ledger as it is kept.</summary>
/// <param name="Words">For people, from what stands beside the chain.</param>
public sealed record LedgerEntrySeen(long Number, string Json, string Sha256, string Words);
