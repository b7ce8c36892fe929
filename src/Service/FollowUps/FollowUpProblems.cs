using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.FollowUps;

internal sealed record VisitPlannedAlready(string Swap, string Reason) : ServiceProblem(
    "follow-up.visit",
    $"Somebody comes back to {Swap} already, for: {Reason} Do both at once, or end that one first.", 409);

internal sealed record FollowUpOwnerProblem(string Owner) : Problem(
    "follow-up.owner",
    $"'{Owner}' is no coordinator or technician. Name the account of somebody who can do it.");

internal sealed record FollowUpManyProblem(string Swap, int MostOpen) : ServiceProblem(
    "follow-up.many",
    $"{Swap} has {MostOpen} open follow-ups. End some first.", 409);

internal sealed record ListEndProblem(string End) : ServiceProblem(
    "list.end",
    $"'{End}' is no end of a follow-up. Use open, done or all.", 400);

internal sealed record FollowUpWordsProblem(string What, int MostWords) : Problem(
    "follow-up.words",
    $"Say {What} in 1 to {MostWords} characters.");

internal sealed record VisitLength(int MostVisitMinutes) : Problem(
    "follow-up.visit",
    $"A return visit takes 5 to {MostVisitMinutes} minutes.");

internal sealed record RefusalSignedProblem(string Name) : ServiceProblem(
    "refusal.signed",
    $"{Name} has signed already. Open that sign-off again with a reason, then note what is missing.", 409);

internal sealed record FollowUpDoneProblem(string? DoneBy, string? Outcome) : ServiceProblem(
    "follow-up.done",
    $"{DoneBy} ended this follow-up: {Outcome} Open a new one.", 409);
