using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Parcels;

internal sealed record LandingClashProblem(string Rule) : Problem(
    "landing.clash",
    $"'{Rule}' is no clash rule. Use beside, stay, newer or ours.");

internal sealed record LandingManyProblem() : Problem(
    "landing.many",
    "A landing plan has at most 500 lines.");

internal sealed record ReceiverKindProblem(string Swap, string Kind) : ServiceProblem(
    "receiver.kind",
    $"{Swap} is a {Kind}; only the parcel of a leave is handed to somebody else.", 409);

internal sealed record ReceiverTagProblem() : Problem(
    "receiver.tag",
    "An asset tag has at most 60 characters.");

internal sealed record ReceiverUnknown(string Person, string Refresh) : Problem(
    "receiver.person",
    $"Nobody with the key '{Person}' is in the roster of {Refresh}. Add that person, or correct the key.");

internal sealed record ReceiverLeaves(string Receiver) : Problem(
    "receiver.person",
    $"{Receiver} is the one who leaves.");

internal sealed record NotYoursToAccept() : ServiceProblem(
    "not-allowed",
    "Only the person who receives the parcel accepts it, or a technician or coordinator who heard them say so.", 403);

internal sealed record ReceiverNoneProblem(string Swap) : ServiceProblem(
    "receiver.none",
    $"Nobody is named to receive the parcel of {Swap}. Name somebody first.", 409);

internal sealed record ReceiverEarlyProblem(string Swap) : ServiceProblem(
    "receiver.early",
    $"Nothing of {Swap} is staged yet, so there is nothing to accept.", 409);

internal sealed record LostFindProblem() : Problem(
    "lost.find",
    "Say what to look for: 2 to 100 characters of a tag, a name or a swap.");

internal sealed record RescueKindProblem(string Swap, string Kind) : ServiceProblem(
    "rescue.kind",
    $"{Swap} is a {Kind}, no rescue. Correct its kind in the roster first.", 409);

internal sealed record RescueTagProblem(string Swap, string Name, string Named, string Tag) : Problem(
    "rescue.tag",
    $"The old computer of {Swap} {Name} is {Named}, not {Tag}. Look again whether it "
        + $"is the right one.");

internal sealed record RescueParcelProblem(string From, string Why) : ServiceProblem(
    "rescue.parcel",
    $"{From} cannot serve: {Why}.", 409);

internal sealed record RescueRestoredProblem(string Swap) : ServiceProblem(
    "rescue.restored",
    $"{Swap} was restored from another parcel already.", 409);

internal sealed record RestoreSkipReasonProblem() : Problem(
    "restore-skip.reason",
    "Say why nothing is restored, so that it says something, in at most 500 characters. Whoever signs sees it.");

internal sealed record RestoreSkipKindProblem(string Kind) : ServiceProblem(
    "restore-skip.kind",
    $"A {Kind} has nothing to restore.", 409);

internal sealed record RestoreSkipRestoredProblem(string Swap) : ServiceProblem(
    "restore-skip.restored",
    $"{Swap} was restored already.", 409);

internal sealed record RestoreSkipUnseenProblem(string Swap) : ServiceProblem(
    "restore-skip.unseen",
    $"Nobody has looked yet what of the parcel stands on the new computer. Order a look first: 'yardline swap order look "
        + $"{Swap}'.", 409);

internal sealed record RestoreSkipSignedProblem(string Swap) : ServiceProblem(
    "restore-skip.signed",
    $"{Swap} is signed off with this decision.", 409);
