using YardRelay.Service.Accounts;

namespace YardRelay.Service.Checklists;

/// <summary>What the conditions of steps can choose from.</summary>
internal static class ChoicesEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/templates/choices", ChoicesHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetTemplateChoices")
            .WithSummary("What conditions of steps can choose from: the sites, rooms, departments, roles and models that there are.");
}
