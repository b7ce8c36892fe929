using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>What is said of a step, within a change of its swap.</summary>
internal static class StepDesk
{
    private const int MostAgeSeconds = 7 * 24 * 3600;

    /// <summary>Claims a step.</summary>
    /// <param name="also">What is kept with the claim; not called where the claim says nothing new.</param>
    public static async Task<Results<Ok<ChecklistSeen>, ProblemHttpResult>> WorkAsync(
        SwapId swap, StepKey step, StepClaim claim, int? ageSeconds, HttpRequest request, HttpResponse response, Writer writer,
        Func<Change, DateTimeOffset, Task>? also, CancellationToken cancel)
    {
        if (ageSeconds is < 0 or > MostAgeSeconds)
            return new StepAgeProblem(MostAgeSeconds, ageSeconds).ToHttp();
        var match = request.Headers.IfMatch.ToString().Trim('"');
        if (match.Length == 0)
            return new StepIfMatchProblem().ToHttp();
        var result = await writer.WriteAsync<ChecklistSeen>(
            swap.Refresh, w => ClaimAsync(w, swap, step, claim, match, ageSeconds, also, cancel), cancel);
        if (result.IsOk) response.Headers.ETag = $"\"{result.Value.Version}\"";
        return result.ToHttp();
    }

    /// <summary>Claims a step within a change.</summary>
    /// <param name="match">The version of the checklist that was seen; null: whatever stands, since only this very step counts.</param>
    /// <param name="also">What is kept with the claim; not called where the claim says nothing new.</param>
    public static async Task<Result<ChecklistSeen>> ClaimAsync(
        Change w,
        SwapId swap,
        StepKey step,
        StepClaim claim,
        string? match,
        int? ageSeconds,
        Func<Change, DateTimeOffset, Task>? also,
        CancellationToken cancel)
    {
        var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
        if (SwapFacts.Closed(row) is { } closed) return closed;
        var facts = await ChecklistFacts.ReadAsync(w.Db, row, cancel);
        if (facts.Steps.FirstOrDefault(s => s.Step.Key == step) is not { Step: var found } now)
            return ServiceProblem.NotFound("step", step);
        var state = facts.Rows.GetValueOrDefault(step);
        var at = w.Now - TimeSpan.FromSeconds(ageSeconds ?? 0);
        var stepped = StepRule.Claim(
            found, now.State, claim, found.Work is StepWork.Scan { New: true } ? row.NewTag : row.OldTag, w.By, at);
        // Nothing else changes what the checklist shows, so nothing is read again to show it.
        var signed = await w.Db.SignOffs.Where(s => s.Swap == swap).Select(s => s.Part).ToListAsync(cancel);
        if (match is not null && match != row.ChecklistVersion.ToString())
            return new StaleProblem(
                $"The checklist changed since you looked{(state is null ? "" : $": '{found.Title}' is {state.State} by {state.By}")}. "
                    + $"Look again, then decide.",
                StepView.Of(facts, signed));
        if (!stepped.TryGet(out var next, out var problem)) return problem;
        if (SwapFacts.FrozenPhases(signed).Contains(found.Phase))
            return new StepFrozenProblem(found.Title);
        // A claim repeated says nothing new.
        if (next == now.State) return StepView.Of(facts, signed);
        var kept = ChecklistFacts.RowOf(swap, step, next, at);
        if (kept is not null) w.Db.Entry(kept).State = state is null ? EntityState.Added : EntityState.Modified;
        else if (state is not null) w.Db.Entry(state).State = EntityState.Deleted;
        if (also is not null) await also(w, at);
        var (entry, words) = next switch
        {
            StepState.Done when found.Work is StepWork.Photo => ("step.done", $"{w.By}: {found.Title}, with a photo"),
            StepState.Done { Value: { } value } => ("step.done", $"{w.By}: {found.Title}: {value}"),
            StepState.Done { Runs: > 0 and var runs } =>
                ("step.done", $"{w.By}: {found.Title}, after {(runs == 1 ? "1 run" : $"{runs} runs")}"),
            StepState.Done { StartedAt: { } since } =>
                (
                    "step.done",
                    $"{w.By}: {found.Title}, "
                        + $"{((at - since).TotalMinutes is >= 1 and var minutes ? $"after {(int)minutes} min" : "within a minute")}"),
            StepState.Done => ("step.done", $"{w.By}: {found.Title}"),
            StepState.UnderWay { Runs: > 0 and var runs } => ("step.run", $"{w.By} ran for the {Ordinal(runs)} time: {found.Title}"),
            StepState.UnderWay => ("step.started", $"{w.By} started: {found.Title}"),
            StepState.NotApplicable no => ("step.not-applicable", $"{w.By}: {found.Title} does not apply: {no.Reason}"),
            _ => ("step.reopened", $"{w.By} reopened: {found.Title}"),
        };
        if (ageSeconds >= 60) words += $", at {new RefreshClock(w.Refresh).Local(at):HH:mm}";
        var data = new JsonObject { ["step"] = step.Text };
        if (next is StepState.Done { Value: { } sha256 } && found.Work is StepWork.Photo) data["photo"] = sha256;
        w.Note(entry, swap, words, data);
        row.ChecklistVersion++;
        if (found.Marks is { } station)
        {
            SwapFacts.Reach(row, station, next.IsOpen ? null : at);
            w.WorldChanged();
        }
        var rows = facts.Rows.Where(r => r.Key != step).ToDictionary();
        if (kept is not null) rows[step] = kept;
        return StepView.Of(facts with { Rows = rows }, signed);
    }

    /// <summary>
    /// A station was reached without anybody at the checklist: it is behind the swap, and the steps that mark it are done, by whatever it
    /// was. What somebody said already stays as they said it.
    /// </summary>
    public static async Task MarkAsync(Change w, string swap, Station station, string by, CancellationToken cancel)
    {
        var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
        var facts = await ChecklistFacts.ReadAsync(w.Db, row, cancel);
        if (SwapFacts.Closed(row) is not null || SwapFacts.Reached(row).ContainsKey(station)) return;
        foreach (var open in facts.Steps.Where(s => s.Step.Marks == station && s.State.IsOpen && !facts.Rows.ContainsKey(s.Step.Key)))
            w.Db.Steps.Add(ChecklistFacts.RowOf(swap, open.Step.Key, new StepState.Done(by, w.Now), w.Now)!);
        SwapFacts.Reach(row, station, w.Now);
        row.ChecklistVersion++;
        w.WorldChanged();
    }

    private static string Ordinal(int number) => number switch { 1 => "first", 2 => "second", 3 => "third", _ => $"{number}th" };
}
