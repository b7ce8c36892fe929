using YardRelay.Service.Accounts;

namespace YardRelay.Service.Refreshes;

/// <summary>Refreshes: list them, make one.</summary>
internal static class RefreshEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes", RefreshHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListRefreshes")
            .WithSummary("All refreshes.");
        routes.MapPost("/refreshes", RefreshHandlers.MakeAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("MakeRefresh")
            .WithSummary("Makes a refresh; the same again changes nothing.");
        routes.MapGet("/refreshes/{refresh}", RefreshHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetRefresh")
            .WithSummary("One refresh.");
        routes.MapPut("/refreshes/{refresh}", RefreshHandlers.ChangeAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("ChangeRefresh")
            .WithSummary("What a refresh is called and when it is; zone and first day until a plan was made.");
        routes.MapPut("/refreshes/{refresh}/second", RefreshHandlers.AskSecondAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("AskForSecond")
            .WithSummary("Whether whoever works in the refresh shows a passkey, too.");
        routes.MapPut("/refreshes/{refresh}/old-hold", RefreshHandlers.HoldAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("HoldOldComputers")
            .WithSummary("How many days old computers are held after the last sign-off.");
    }
}
