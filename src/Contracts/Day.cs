namespace YardRelay.Contracts;

/// <summary>Something that needs somebody now, in a sentence, with the one thing that helps.</summary>
/// <param name="Swap">Its id; empty where it is about a depot, or about a technician's day.</param>
/// <param name="Action">open, depot or plan.</param>
public sealed record NeedSeen(string Swap, string Name, string Sign, string Words, DateTimeOffset Since, string Action, string ActionWords);

/// <summary>A day at a glance.</summary>
/// <param name="EndsAt">When the day ends as things stand; null: nothing is booked.</param>
/// <param name="Away">Who is away when on that day.</param>
public sealed record DaySeen(
    DateOnly Day, string Zone, DateTimeOffset Now, int Swaps, int Sites, int Done, int UnderWay, int Stopped, DateTimeOffset? EndsAt,
    IReadOnlyList<SwapListed> Visits,
    IReadOnlyList<SwapListed> Moving,
    IReadOnlyList<NeedSeen> Needs,
    IReadOnlyList<TechnicianSeen> Technicians,
    IReadOnlyList<AwaySeen> Away);

/// <summary>An entry of the ledger as it is kept.</summary>
/// <param name="Words">For people, from what stands beside the chain.</param>
/// <param name="By">Who did it, from there, too.</param>
/// <param name="Account">Name of the account that did it; null: none did.</param>
/// <param name="Salt">Of the digests in the entry; empty: its words were erased.</param>
/// <param name="At">When.</param>
/// <param name="Swap">Id of the swap that it is about; null: about none.</param>
/// <param name="Name">Whose swap that is; null: about none, or they were erased.</param>
public sealed record LedgerEntrySeen(
    long Number, string Json, string Sha256, string Words, string By, string? Account, string Salt, DateTimeOffset At, string? Swap,
    string? Name);

/// <summary>What to show of a ledger.</summary>
/// <param name="Since">From this day on, by the clocks of the refresh; null: from its beginning.</param>
/// <param name="Until">Up to and with this day; null: to its end.</param>
/// <param name="Swap">About this swap only; null: all.</param>
/// <param name="By">Of those whose name has this in it; null: all.</param>
public sealed record LedgerAsked(DateOnly? Since = null, DateOnly? Until = null, string? Swap = null, string? By = null);

/// <summary>What is wrong with a ledger.</summary>
/// <param name="Number">Of the entry; 0: a record has none.</param>
public sealed record LedgerFaultSeen(long Number, string What);

/// <summary>A ledger as the service finds it: its head, signed, and what is wrong.</summary>
/// <param name="Number">Of the newest entry.</param>
/// <param name="Signature">Of the head by the service's key, Base64: ECDSA over P-256 with SHA-256; null: it has none.</param>
/// <param name="PublicKey">The service's key, SubjectPublicKeyInfo in Base64.</param>
/// <param name="Faults">The first 200.</param>
public sealed record LedgerChecked(
    string Chain, long Number, string Sha256, string? Signature, string PublicKey, IReadOnlyList<LedgerFaultSeen> Faults);
