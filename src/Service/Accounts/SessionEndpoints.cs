namespace YardRelay.Service.Accounts;

/// <summary>Where one's own account is signed in, and its end; and the same of others, for coordinators.</summary>
internal static class SessionEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/sessions", SessionHandlers.ListAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("ListSessions")
            .WithSummary("Where the caller's account is signed in: browsers and programs, last used first.");
        routes.MapDelete("/sessions", SessionHandlers.EndOthersAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("EndOtherSessions")
            .WithSummary("Signs the caller's account out everywhere but here.");
        routes.MapDelete("/sessions/{session}", SessionHandlers.EndAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("EndSession")
            .WithSummary("Signs one browser or program of the caller's account out.");
        routes.MapGet("/accounts", SessionHandlers.AccountsAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("ListAccounts")
            .WithSummary("All local accounts by name, and where they are signed in.");
        routes.MapPut("/accounts/{name}/use", SessionHandlers.DisableAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutAccountUse")
            .WithSummary("Disables an account, which signs it out everywhere, or lets it in again.");
        routes.MapDelete("/accounts/{name}/sessions", SessionHandlers.EndAllAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("EndAccountSessions")
            .WithSummary("Signs an account out everywhere.");
        routes.MapDelete("/accounts/{name}", SessionHandlers.RemoveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("RemoveAccount")
            .WithSummary("Removes an account for good; what it did stays under its name in the ledger.");
    }
}
