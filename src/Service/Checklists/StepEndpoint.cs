using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>Works a step of a swap's checklist. Two technicians never overwrite each other: the second is told what the first did.</summary>
internal static class StepEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPut("/swaps/{swap}/checklist/steps/{step}", HandleAsync).RequireAuthorization(Roles.Works).WithName("SetStep").WithSummary("Claims a step. If-Match: the checklist's version as the caller saw it.");

    private static async Task<Results<Ok<ChecklistSeen>, ProblemHttpResult>> HandleAsync(string swap, string step, StepChange change, HttpRequest request, HttpResponse response, ClaimsPrincipal user, YardDb db, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        StepClaim? claim = change.Claim switch
        {
            "ticked" => new StepClaim.Ticked(),
            "scanned" => new StepClaim.Scanned(change.Tag ?? ""),
            "not-applicable" => new StepClaim.Inapplicable(change.Reason ?? ""),
            "reopened" => new StepClaim.Reopened(),
            _ => null,
        };
        if (claim is null) return new Problem[] { new("step.claim", $"'{change.Claim}' is not a claim. Use ticked, scanned, not-applicable or reopened.") }.ToHttp();
        if (await SwapEndpoints.ScopeAsync(db, swap, user, cancel) is { } refusal) return refusal;
        var match = request.Headers.IfMatch.ToString().Trim('"');
        if (match.Length == 0) return new Problem[] { new ServiceProblem("step.if-match", "Say with If-Match which version of the checklist you saw, so that nobody's work is overwritten.", 428) }.ToHttp();
        var result = await writer.WriteAsync<ChecklistSeen>(SwapEndpoints.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            var template = await TemplateStore.GetAsync(w.Db, row, cancel);
            var found = template.For(row.Kind).FirstOrDefault(s => s.Key == step);
            if (found is null) return ServiceProblem.NotFound("step", step);
            var state = await w.Db.Steps.FirstOrDefaultAsync(s => s.Swap == swap && s.Key == step, cancel);
            var stepped = StepRule.Claim(found, claim, found.Work is StepWork.Scan { New: true } ? row.NewTag : row.OldTag, w.By, w.Now);
            if (match != row.ChecklistVersion.ToString()) return new StaleProblem($"The checklist changed since you looked{(state is null ? "" : $": '{found.Title}' is {state.State} by {state.By}")}. Look again, then decide.", await SeenAsync(w, row));
            if (!stepped.TryGet(out var next, out var problem)) return problem;
            var signed = await w.Db.SignOffs.Where(s => s.Swap == swap).Select(s => s.Part).ToListAsync(cancel);
            if (SwapReader.FrozenPhases(signed).Contains(found.Phase)) return ServiceProblem.Conflict("step.frozen", $"'{found.Title}' is signed off and frozen.");
            if (state is not null) w.Db.Steps.Remove(state);
            await w.Db.SaveChangesAsync(cancel);
            switch (next)
            {
                case StepState.Done done:
                    w.Db.Steps.Add(new() { Swap = swap, Key = step, State = "done", By = done.By, At = done.At });
                    w.Note("step.done", swap, $"{w.By}: {found.Title}", new() { ["step"] = step });
                    break;
                case StepState.NotApplicable no:
                    w.Db.Steps.Add(new() { Swap = swap, Key = step, State = "not-applicable", By = no.By, At = no.At, Reason = no.Reason });
                    w.Note("step.not-applicable", swap, $"{w.By}: {found.Title} does not apply: {no.Reason}", new() { ["step"] = step });
                    break;
                case StepState.Open:
                    w.Note("step.reopened", swap, $"{w.By} reopened: {found.Title}", new() { ["step"] = step });
                    break;
            }
            row.ChecklistVersion++;
            if (found.Marks is { } station)
            {
                SwapFacts.Reach(row, station, next is StepState.Open ? null : w.Now);
                w.WorldChanged();
            }
            return await SeenAsync(w, row);

            async Task<ChecklistSeen> SeenAsync(Writing.Writing writing, SwapRow of)
            {
                await writing.Db.SaveChangesAsync(cancel);
                return (await new SwapReader(writing.Db, time).ChecklistAsync(of, [], [], cancel)).Checklist;
            }
        }, cancel);
        if (result.IsOk) response.Headers.ETag = $"\"{result.Value.Version}\"";
        return result.ToHttp();
    }
}
