using YardRelay.Core;
using YardRelay.Core.Custody;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Hands;

/// <summary>A technician deals with hands at computers of their own sites only.</summary>
internal sealed record HandAtAnotherSite(string Tag) : ServiceProblem(
    "not-allowed", $"{Tag} is of no swap at one of your sites. Ask the coordinator.", 403);

/// <summary>Who has a stolen computer enrols nothing at it.</summary>
internal sealed record HandAtMissing(string Tag, CustodyAct How) : ServiceProblem(
    "hand.missing",
    $"{Tag} is said to be {How.ToString().ToLowerInvariant()}. Say at its swap that it was found first.", 409);

internal sealed record HandCodeWrongProblem() : ServiceProblem(
    "hand.code-wrong",
    "This code is not known, was used already, has expired, or belongs to another computer. Make a new one with 'yardline hand "
        + "code TAG'.", 403);
