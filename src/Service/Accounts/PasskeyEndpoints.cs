namespace YardRelay.Service.Accounts;

/// <summary>Passkeys of one's own account, and recovery codes.</summary>
internal static class PasskeyEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/me/passkeys", PasskeyHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListPasskeys")
            .WithSummary("The caller's passkeys, and how many recovery codes are left.");
        routes.MapPost("/me/passkeys/begin", PasskeyHandlers.BeginAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("BeginPasskey")
            .WithSummary("What the caller's browser makes a passkey from; asks for the password again.");
        routes.MapPost("/me/passkeys", PasskeyHandlers.AddAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("AddPasskey")
            .WithSummary("Adds a passkey that the caller's browser made; the first one brings recovery codes.");
        routes.MapDelete("/me/passkeys/{passkey}", PasskeyHandlers.RemoveAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("RemovePasskey")
            .WithSummary("Takes a passkey of the caller away.");
        routes.MapPost("/me/recovery-codes", PasskeyHandlers.RenewAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("RenewRecoveryCodes")
            .WithSummary("New recovery codes for the caller; those of before count no more.");
        routes.MapPost("/me/second/begin", PasskeyHandlers.AskAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("AskSecond")
            .WithSummary("Asks for a passkey to strengthen the caller's session.");
        routes.MapPost("/me/second", PasskeyHandlers.ShowAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ShowSecond")
            .WithSummary("Strengthens the caller's session by a passkey or a recovery code.");
        routes.MapDelete("/accounts/{name}/passkeys", PasskeyHandlers.ForgetAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("ForgetPasskeys")
            .WithSummary("Takes all passkeys and codes of an account away that lost them, and signs it out everywhere.");
    }
}
