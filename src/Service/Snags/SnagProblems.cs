using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Snags;

internal sealed record SnagReasonProblem() : Problem(
    "snag.reason",
    "A waiver needs a reason that says something, in at most 500 characters: why is the file not needed? Whoever signs sees it.");

internal sealed record SnagManyProblem(int MostPerPage, int SnagsCount) : Problem(
    "snag.many",
    $"1 to {MostPerPage} snags are waived at once, not {SnagsCount}.");

internal sealed record SnagEndedProblem() : ServiceProblem(
    "snag.ended",
    "This snag was retried and is carried now; there is nothing to waive.", 409);

internal sealed record SnagSourceProblem() : ServiceProblem(
    "snag.source",
    "This is no file to give up: say whether the source is the same one, or what is gone was deleted; or mount the right disk and retry.",
    409);

internal sealed record SnagNoSourceProblem() : ServiceProblem(
    "snag.no-source",
    "This snag is about one file and not about the source. Retry or waive it.", 409);

internal sealed record SourceReasonProblem() : Problem(
    "snag.source-reason",
    "Say whether the source is the same (same), or what is gone was deleted (deleted), with a reason of 1 to 500 characters.");

internal sealed record SourceGoneProblem() : Problem(
    "snag.source-gone",
    "What is gone cannot be the same. Mount the right disk and retry; or say that it was deleted (deleted), with how you know.");
