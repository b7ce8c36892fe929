using YardRelay.Core.Custody;
using YardRelay.Core.Swaps;

namespace YardRelay.Contracts;

/// <summary>A wipe as it was recorded.</summary>
/// <param name="Result">done or failed.</param>
/// <param name="Evidence">Number of a certificate, name of a report, or what was seen.</param>
public sealed record WipeSeen(string Method, string Result, string Evidence, string By, DateTimeOffset At);

/// <summary>An old computer: where it is, and whether it may be wiped.</summary>
/// <param name="State">in-use, held, may-be-wiped, wiped, wipe-failed, missing or gone.</param>
/// <param name="Words">Where it is, in a sentence.</param>
/// <param name="WipeFrom">First day on which it may be wiped; null: not known yet.</param>
/// <param name="Missing">What stands in the way of a wipe.</param>
/// <param name="Alone">Nobody but its own hand has verified what was carried from it.</param>
public sealed record OldComputerSeen(
    string Tag, string? Model, string Swap, string Name, string Site, SwapKind Kind, string State, string Words, string? Holder,
    string? Place, string? Pallet, DateTimeOffset? Since,
    DateOnly? WipeFrom, IReadOnlyList<string> Missing, WipeSeen? Wipe, CustodyAct? End, string? EndedTo, bool Alone = false);

/// <summary>A move in an old computer's history.</summary>
public sealed record CustodySeen(string Id, CustodyAct Act, string Where, string By, DateTimeOffset At, DateTimeOffset Recorded);

/// <summary>An old computer with all its moves, newest first.</summary>
public sealed record OldComputerHistory(OldComputerSeen Computer, IReadOnlyList<CustodySeen> Moves);

/// <summary>Says what happened to an old computer.</summary>
/// <param name="Id">Made by whoever reports it; a repeat changes nothing.</param>
/// <param name="Where">Place, pallet, holder, or to whom it goes; null with taken: whoever reports it.</param>
/// <param name="At">When it happened; null: now.</param>
public sealed record CustodyWanted(string Id, CustodyAct Act, string? Where = null, DateTimeOffset? At = null);

/// <summary>Says that an old computer was wiped, or that it failed.</summary>
/// <param name="Method">How, such as <c>three passes</c> or <c>key thrown away</c>.</param>
/// <param name="Result">done or failed.</param>
/// <param name="Alone">It is wiped though nobody but its own hand has verified what was carried, which is said on its paper.</param>
public sealed record WipeWanted(string Method, string Result, string Evidence, bool Alone = false);

/// <summary>A pallet.</summary>
/// <param name="Computers">On it now, or on it when it left.</param>
/// <param name="Wiped">Of these, wiped.</param>
/// <param name="Gone">Of these, left for good.</param>
public sealed record PalletSeen(string Name, int Computers, int Wiped, int Gone, DateTimeOffset? Since);

/// <summary>A pallet leaves with all that is on it.</summary>
/// <param name="As">returned, donated or disposed.</param>
public sealed record PalletDeparture(CustodyAct As, string To);
