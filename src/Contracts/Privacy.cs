namespace YardRelay.Contracts;

/// <summary>What is kept about a person, for how long, and whether it can be erased.</summary>
/// <param name="Swaps">Ids of their swaps.</param>
/// <param name="Parts">What is kept, kind by kind; what there is none of is left out.</param>
/// <param name="ErasesOn">The day from which it is erased by itself; null: when somebody asks.</param>
/// <param name="Missing">Why it cannot be erased yet; empty: it can be.</param>
/// <param name="ErasedAt">When it was erased; null: it is kept.</param>
public sealed record KeptSeen(
    string Name, IReadOnlyList<string> Swaps, IReadOnlyList<KeptPart> Parts, DateOnly? ErasesOn, IReadOnlyList<string> Missing,
    DateTimeOffset? ErasedAt);

/// <summary>One kind of thing that is kept about a person.</summary>
/// <param name="Kind">person, appointments, computers, inventory, folders, snags, steps, photos, sign-offs, words, notices, links or
/// history.</param>
/// <param name="Count">How many.</param>
public sealed record KeptPart(string Kind, long Count);

/// <summary>Erases what is kept about a person.</summary>
/// <param name="Reason">Why, 1 to 300 characters, without names: it stays in the ledger.</param>
public sealed record ErasureWanted(string Reason);

/// <summary>How long what is kept about people stays after the last of their swaps is closed.</summary>
/// <param name="Days">1 to 3,660; null: until somebody asks.</param>
/// <param name="AsksForNames">Names of people's files are shown to technicians and coordinators only where the person allows it.</param>
public sealed record KeepingRules(int? Days, bool AsksForNames = false);

/// <summary>Whether technicians may see the names of one's files that did not come along.</summary>
public sealed record NamesWanted(bool Allowed);
