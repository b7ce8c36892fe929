using YardRelay.Core;
using YardRelay.Core.Swaps;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Swaps;

internal sealed record SignOffDrawnProblem(int MostDrawn) : Problem(
    "sign-off.drawn",
    $"A drawn signature is the data of an SVG path of M, L and numbers, at most {MostDrawn:#,0} characters.");

internal sealed record SignerIsThePerson(string Name) : Problem(
    "sign-off.name",
    $"This is the swap of {Name}. Whoever signs writes that name.");

internal sealed record CoordinatorSigns() : ServiceProblem(
    "not-allowed",
    "Only a coordinator signs the whole swap off.", 403);

internal sealed record NameIsThePersons() : Problem(
    "sign-off.name",
    "Name and drawn signature are the person's; you sign with your own account.");

internal sealed record NotSignedOff(string Swap, string PartText) : ServiceProblem(
    "sign-off.none",
    $"Swap {Swap} is not signed off as {PartText}.", 404);

internal sealed record SignOffReasonProblem(int MostReason) : Problem(
    "sign-off.reason",
    $"Say in 1 to {MostReason} characters why what was signed is opened again.");

internal sealed record NothingToOpenAgain(string Swap, string PartText) : ServiceProblem(
    "sign-off.none",
    $"Swap {Swap} is not signed off as {PartText}, so there is nothing to open again.", 409);

internal sealed record CoordinatorOpensAgain() : ServiceProblem(
    "not-allowed",
    "The coordinator has signed the whole swap; only a coordinator opens it again.", 403);

internal sealed record EditSwapsProblem(int Most, int SwapsCount) : Problem(
    "edit.swaps",
    $"An edit is for 1 to {Most:#,0} swaps, not {SwapsCount:#,0}.");

internal sealed record EditWeightProblem(int? Weight) : Problem(
    "edit.weight",
    $"A weight is 1 to 9, not {Weight}.");

internal sealed record EditPinProblem() : Problem(
    "edit.pin",
    "A pin is set or taken out, not both.");

internal sealed record EditDepotProblem(string Swap, string Name) : ServiceProblem(
    "edit.depot",
    $"Files of {Swap} {Name} lie in another depot already; nothing was changed.", 409);

internal sealed record EditDepotBusyProblem(string Swap, string Name) : ServiceProblem(
    "edit.depot-busy",
    $"A hand is at work on the parcel of {Swap} {Name}. Withdraw that order or wait for its end; nothing was changed.", 409);

internal sealed record EditTimeProblem(string Field, string Text) : Problem(
    Field,
    $"'{Text}' is not a time. Write 2026-11-25 08:00-12:00.");

internal sealed record SwapKindUnknown(string Kind) : ServiceProblem(
    "list.kind", $"'{Kind}' is not a kind of swap. Use {string.Join(", ", Enum.GetNames<SwapKind>()).ToLowerInvariant()}.", 400);

internal sealed record StationUnknown(string Next) : ServiceProblem(
    "list.next", $"'{Next}' is not a station. Use {string.Join(", ", Enum.GetNames<Station>())}.", 400);

internal sealed record SwapOrderUnknown(string Sort, string Orders) : ServiceProblem(
    "list.sort", $"'{Sort}' is not an order. Use {Orders}.", 400);

internal sealed record SwapsCursorProblem() : ServiceProblem(
    "list.cursor", "The cursor is not one of ours. Leave it out to start from the front.", 400);

internal sealed record SwapsCursorOfAnotherOrder() : ServiceProblem(
    "list.cursor", "The cursor belongs to another order. Leave it out to start from the front.", 400);
