namespace YardRelay.Core.Custody;

internal sealed record CustodyGoneProblem(string Tag, string End, string? EndedTo) : Problem(
    "custody.gone",
    $"{Tag} has left: {End} to {EndedTo}. Look at the tag again.");

internal sealed record CustodyPalletProblem(string Tag, string Pallet) : Problem(
    "custody.pallet",
    $"{Tag} is on pallet {Pallet}. Scan it out there first.");

internal sealed record CustodyNoPalletProblem(string Tag) : Problem(
    "custody.no-pallet",
    $"{Tag} is on no pallet.");

internal sealed record CustodyNotWipedProblem(string Tag) : Problem(
    "custody.not-wiped",
    $"{Tag} is not wiped. No computer leaves with somebody's data on it.");

internal sealed record CustodyMissingProblem(string Tag, CustodyAct How, string? LastAt) : Problem(
    "custody.missing",
    $"{Tag} is said to be {How.ToString().ToLowerInvariant()}{(LastAt is null ? "" : $", last at {LastAt}")}. If it is in front of you, "
        + "say at its swap that it was found.");

internal sealed record CustodyNotMissingProblem(string Tag) : Problem(
    "custody.not-missing",
    $"Nobody has said that {Tag} is missing, so it was not found again. Say where it lies.");
