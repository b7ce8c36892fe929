using YardRelay.Core.FollowUps;

namespace YardRelay.Contracts;

/// <summary>Something still to be done for a swap beside its checklist.</summary>
/// <param name="Owner">Name of the account that it waits for.</param>
/// <param name="Cause">problem, refusal, wipe or detour.</param>
/// <param name="DoneAt">Null: open.</param>
public sealed record FollowUpSeen(
    string Id, string Swap, string Name, string Site, string Words, string Owner, string OwnerName, DateTimeOffset Due, FollowUpHold Holds,
    string Cause, string MadeBy, DateTimeOffset MadeAt, string? DoneBy, DateTimeOffset? DoneAt, string? Outcome,
    ReturnVisitSeen? Visit = null);

/// <summary>Somebody comes back for a swap.</summary>
/// <param name="Technician">Name of who comes; null: the engine has not found a time yet.</param>
public sealed record ReturnVisitSeen(int Minutes, string? Technician, DateTimeOffset? Start, DateTimeOffset? End);

/// <summary>Opens a follow-up.</summary>
/// <param name="Owner">Name of an account; null: whoever opens it.</param>
/// <param name="Due">Null: the end of the next day.</param>
/// <param name="VisitMinutes">Somebody must come back for so long: the engine finds the first time that fits. Null: nobody must.</param>
public sealed record FollowUpWanted(
    string Words, string? Owner = null, DateTimeOffset? Due = null, FollowUpHold? Holds = null, int? VisitMinutes = null);

/// <summary>Changes a follow-up that is open; what is null stays.</summary>
public sealed record FollowUpChange(string? Words = null, string? Owner = null, DateTimeOffset? Due = null, FollowUpHold? Holds = null);

/// <summary>Ends a follow-up.</summary>
/// <param name="Outcome">What came of it.</param>
public sealed record FollowUpEnd(string Outcome);

/// <summary>The person does not accept, and says why.</summary>
public sealed record RefusalWanted(string Words);
