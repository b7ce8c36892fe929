using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>The work behind <see cref="StepEndpoint"/>.</summary>
internal static class StepHandler
{
    internal static async Task<Results<Ok<ChecklistSeen>, ProblemHttpResult>> HandleAsync(
        SwapId swap, StepKey step, StepChange change, HttpRequest request, HttpResponse response, Writer writer,
        CancellationToken cancel)
    {
        StepClaim? claim = change.Claim switch
        {
            "ticked" => new StepClaim.Ticked(),
            "started" => new StepClaim.Started(),
            "ran" => new StepClaim.Ran(),
            "answered" => new StepClaim.Answered(change.Value ?? ""),
            "scanned" => new StepClaim.Scanned(change.Tag ?? ""),
            "not-applicable" => new StepClaim.Inapplicable(change.Reason ?? ""),
            "reopened" => new StepClaim.Reopened(),
            _ => null,
        };
        if (claim is null)
            return new StepClaimProblem(change.Claim).ToHttp();
        return await StepDesk.WorkAsync(swap, step, claim, change.AgeSeconds, request, response, writer, null, cancel);
    }
}
