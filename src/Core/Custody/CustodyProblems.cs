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
