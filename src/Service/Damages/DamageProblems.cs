using YardRelay.Core;

namespace YardRelay.Service.Damages;

internal sealed record DamageReasonProblem(int MostReason) : Problem(
    "damage.reason",
    $"What happened to the depot? Say it in 1 to {MostReason} characters.");
