using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Service.Problems;

namespace YardRelay.Service.OldComputers;

internal sealed record ListEndProblem(string End) : ServiceProblem(
    "list.end",
    $"'{End}' is not known. Use there or gone.", 400);

internal sealed record ComputerUnknownProblem(string Tag, string Refresh) : ServiceProblem(
    "computer.unknown",
    $"{Tag} is no old computer of {Refresh}. Look at the tag again; a new computer is not handed in.", 404);

internal sealed record CustodyWhereProblem(int MostWhere) : Problem(
    "custody.where",
    $"Say where in 1 to {MostWhere} characters: a place, a pallet, or to whom it goes.");

internal sealed record CustodyIdProblem() : Problem(
    "custody.id",
    "Give the report an id of 8 to 64 characters, so that it may be repeated.");

internal sealed record CustodyFutureProblem(DateTimeOffset Now, DateTimeOffset At) : Problem(
    "custody.future",
    $"It is {Now:yyyy-MM-dd HH:mm} here, and the report says {At:yyyy-MM-dd HH:mm}. Look at the clock "
        + $"of the device.");

internal sealed record CustodyDetourProblem(string Tag, CustodyAct Act, string Swap) : Problem(
    "custody.detour",
    $"More follows from it than where {Tag} is. Say at its swap that it is {Act.ToString().ToLowerInvariant()}: "
        + $"'yardline detour {Act.ToString().ToLowerInvariant()} {Swap}'.");

internal sealed record WipeMethodProblem(int MostWhere) : Problem(
    "wipe.method",
    $"Say how it was wiped, in 1 to {MostWhere} characters.");

internal sealed record WipeAloneProblem(string Tag) : ServiceProblem(
    "wipe.alone",
    $"Only the hand at {Tag} itself has verified what was carried from it. Have the parcel verified by the service or at another computer; "
        + "or wipe it with that said on its paper.", 409);

internal sealed record WipeEvidenceProblem() : Problem(
    "wipe.evidence",
    "Say what proves it, in 1 to 500 characters: the number of a certificate, the name of a report, or what was seen.");

internal sealed record WipeResultProblem(string Result) : Problem(
    "wipe.result",
    $"'{Result}' is no result. Use done or failed.");

internal sealed record WipeDoneProblem(string Tag, string By, string Method, string Evidence) : ServiceProblem(
    "wipe.done",
    $"{Tag} was wiped by {By} already: {Method}, {Evidence}.", 409);

internal sealed record PalletOfOthersProblem(string Pallet, int Others) : ServiceProblem(
    "pallet.others",
    $"{(Others == 1 ? "1 computer" : $"{Others} computers")} on pallet {Pallet} are of sites that are not yours, and half a list is none. "
        + "Ask the coordinator for it.", 403);

internal sealed record PalletAsProblem() : Problem(
    "pallet.as",
    "A pallet is returned, donated or disposed.");

internal sealed record PalletToProblem() : Problem(
    "pallet.to",
    "Say in 1 to 120 characters to whom it goes.");

internal sealed record PalletNotWipedProblem(int NotWiped, int All, string Pallet, string Tags, string AndMore) : ServiceProblem(
    "pallet.not-wiped",
    $"{NotWiped} of {All} computers on pallet {Pallet} are not wiped: "
        + $"{Tags}{AndMore}. Wipe them, or scan "
        + $"them out.", 409);
