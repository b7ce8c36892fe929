using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Snags;

internal sealed record SnagReasonProblem() : Problem(
    "snag.reason",
    "A waiver needs a reason of 1 to 500 characters: why is the file not needed?");

internal sealed record SnagManyProblem(int MostPerPage, int SnagsCount) : Problem(
    "snag.many",
    $"1 to {MostPerPage} snags are waived at once, not {SnagsCount}.");

internal sealed record SnagEndedProblem() : ServiceProblem(
    "snag.ended",
    "This snag was retried and is carried now; there is nothing to waive.", 409);
