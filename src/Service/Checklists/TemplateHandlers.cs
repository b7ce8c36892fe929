using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>The work behind <see cref="TemplateEndpoints"/>.</summary>
internal static class TemplateHandlers
{
    internal static Results<Ok<TemplatePreview>, ProblemHttpResult> Preview(RefreshKey refresh, TemplateDraft draft)
    {
        var read = TemplateReader.Read(draft.Yaml);
        if (!read.TryGet(out var template, out _))
            return TypedResults.Ok(new TemplatePreview(
                [.. read.Problems.Select(FaultOf)], "", draft.Kind ?? SwapKind.Renew, [], [], new Dictionary<string, string>()));
        var kind = draft.Kind ?? (template.Kinds.Count > 0 ? template.Kinds[0] : SwapKind.Renew);
        // What a condition asks for may come true: it is shown with its words.
        var open = template with
        {
            Steps = [.. template.Steps.Select(s =>
                s with { When = s.When is { Kinds: { Count: > 0 } kinds } && !kinds.Contains(kind) ? s.When : null })]
        };
        return TypedResults.Ok(new TemplatePreview(
            [],
            template.Name,
            kind,
            [.. template.Kinds],
            [.. open.For(new(kind), _ => new StepState.Open()).Select(s => StepView.Of(s, null))],
            template.Steps.Where(s => s.When is not null).ToDictionary(s => s.Key, s => StepView.Words(s.When!))));
    }

    private static TemplateFault FaultOf(Problem problem) =>
        problem is ChecklistFault fault ? new(fault.Line, fault.Said) : new(null, problem.Message);

    /// <summary>A template to add.</summary>
    /// <param name="Since">The version that it was made from: where there is a newer one, nothing is added. Null: added anyway.</param>
    internal sealed record NewTemplate(string Yaml, int? Since = null);

    internal static async Task<Ok<List<TemplateSeen>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Templates.AsNoTracking()
            .Where(t => t.Refresh == refresh)
            .OrderBy(t => t.Name)
            .ThenByDescending(t => t.Version)
            .Take(500)
            .ToListAsync(cancel))
            .ConvertAll(TemplateStore.Seen));

    internal static async Task<Results<Ok<TemplateSeen>, ProblemHttpResult>> AddAsync(
        RefreshKey refresh, NewTemplate wanted, Writer writer, CancellationToken cancel) =>
        (await writer.WriteAsync(refresh, w => TemplateStore.AddAsync(w, wanted.Yaml, cancel, wanted.Since), cancel)).ToHttp();
}
