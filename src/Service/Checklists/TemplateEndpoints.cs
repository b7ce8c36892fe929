using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>Checklist templates.</summary>
internal static class TemplateEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/templates", ListAsync).RequireAuthorization(Roles.Reads).WithName("ListTemplates").WithSummary("All versions of all checklist templates.");
        routes.MapPost("/refreshes/{refresh}/templates", AddAsync).RequireAuthorization(Roles.Leads).WithName("AddTemplate").WithSummary("Adds a version of a template; swaps that have begun keep theirs.");
    }

    /// <summary>A template to add.</summary>
    internal sealed record NewTemplate(string Yaml);

    private static async Task<Ok<List<TemplateSeen>>> ListAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Templates.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ThenByDescending(t => t.Version).Take(500).Select(t => new TemplateSeen(t.Name, t.Version, t.Steps, t.Yaml, t.At)).ToListAsync(cancel));

    private static async Task<Results<Ok<TemplateSeen>, ProblemHttpResult>> AddAsync(string refresh, NewTemplate wanted, Writer writer, CancellationToken cancel) =>
        Problems.ProblemHttp.ToHttp(await writer.WriteAsync(refresh, w => TemplateStore.AddAsync(w, wanted.Yaml, cancel), cancel));
}
