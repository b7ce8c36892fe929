using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Hands;

internal sealed record HandCodeWrongProblem() : ServiceProblem(
    "hand.code-wrong",
    "This code is not known, was used already, has expired, or belongs to another computer. Make a new one with 'yardline hand "
        + "code TAG'.", 403);
