using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Checklists;

internal sealed record ChecklistKindProblem(string Name, string Kind) : ServiceProblem(
    "checklist.kind",
    $"{Name} is not for swaps of kind {Kind}. Choose another checklist.", 409);

internal sealed record ChecklistFrozenProblem(string Swap) : ServiceProblem(
    "checklist.frozen",
    $"Parts of swap {Swap} are signed off, so its checklist stays as it was signed.", 409);

internal sealed record ChecklistNewerProblem(string Name, int Newest, int Since) : ServiceProblem(
    "checklist.newer",
    $"Somebody kept version {Newest} of {Name} meanwhile, and yours was made from version {Since}. Look at theirs, and put into it what is "
        + "yours.", 409);

internal sealed record StepAgeProblem(int MostAgeSeconds, int? AgeSeconds) : Problem(
    "step.age",
    $"A step was done 0 to {MostAgeSeconds:#,0} seconds ago, not {AgeSeconds}. Look at the clock of the device.");

internal sealed record StepIfMatchProblem() : ServiceProblem(
    "step.if-match",
    "Say with If-Match which version of the checklist you saw, so that nobody's work is overwritten.", 428);

internal sealed record StepFrozenProblem(string Title) : ServiceProblem(
    "step.frozen",
    $"'{Title}' is signed off and frozen.", 409);

internal sealed record StepClaimProblem(string Claim) : Problem(
    "step.claim",
    $"'{Claim}' is not a claim. Use ticked, started, ran, answered, scanned, not-applicable or reopened.");
