using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Privacy;

internal sealed record ErasureOpenProblem(string Missing) : ServiceProblem(
    "erasure.open",
    $"It cannot be erased yet. {Missing}", 409);

internal sealed record KeepingDaysProblem(int? Days) : Problem(
    "keeping.days",
    $"What is kept stays 1 to 3660 days, not {Days}. Leave it out to keep it until somebody asks.");

internal sealed record ErasureReasonProblem(int MostReason) : Problem(
    "erasure.reason",
    $"Say why it is erased, in 1 to {MostReason} characters and without a name.");
