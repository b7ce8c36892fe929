using YardRelay.Service.Accounts;

namespace YardRelay.Service.Checklists;

/// <summary>Checklist templates.</summary>
internal static class TemplateEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/templates", TemplateHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListTemplates")
            .WithSummary("All versions of all checklist templates.");
        routes.MapPost("/refreshes/{refresh}/templates", TemplateHandlers.AddAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("AddTemplate")
            .WithSummary("Adds a version of a template; swaps that have begun keep theirs.");
        routes.MapPost("/refreshes/{refresh}/template-preview", TemplateHandlers.Preview)
            .RequireAuthorization(Roles.Reads)
            .WithName("PreviewTemplate")
            .WithSummary("Shows how a template would look, and what is wrong with it. Keeps nothing.");
    }
}
