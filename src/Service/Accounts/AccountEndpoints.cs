using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using YardRelay.Service.Browsers;

namespace YardRelay.Service.Accounts;

/// <summary>Local accounts: sign in with a cookie (console) or for a token (command line).</summary>
internal static class AccountEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/sessions", AccountHandlers.SignInAsync).AllowAnonymous()
            .WithName("SignIn")
            .WithSummary("Signs the console in with a cookie.");
        routes.MapPost("/sessions/second", AccountHandlers.SecondAsync).AllowAnonymous()
            .WithName("SignInSecond")
            .WithSummary("Shows a passkey or a recovery code after the password, and signs the console in.");
        routes.MapDelete("/sessions/current", AccountHandlers.SignOutAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("SignOut")
            .WithSummary("Signs the caller out: a browser's cookie, or a program's token, opens nothing any more.");
        routes.MapPost("/tokens", AccountHandlers.TokenAsync).AllowAnonymous().AlsoForPrograms()
            .WithName("MakeToken")
            .WithSummary("Makes a token for the command line.");
        routes.MapGet("/me", (ClaimsPrincipal user) => TypedResults.Ok(AccountClaims.Of(user)))
            .RequireAuthorization(Roles.Anyone)
            .WithName("GetMe")
            .WithSummary("Who is asking.");
        routes.MapPut("/me/password", AccountHandlers.ChangePasswordAsync)
            .RequireAuthorization(Roles.Signed)
            .WithName("ChangePassword")
            .WithSummary("Another password for the caller's own account; it is signed out everywhere but here.");
        routes.MapPut("/accounts/{name}", AccountHandlers.SetAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutAccount")
            .WithSummary("Makes or changes a local account.");
    }
}
