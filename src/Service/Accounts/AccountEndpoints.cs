using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>Local accounts: sign in with a cookie (console) or for a token (command line).</summary>
internal static class AccountEndpoints
{
    private const int MostFailures = 8;
    private static readonly TimeSpan LockedFor = TimeSpan.FromMinutes(5);
    private static readonly TimeSpan TokenLives = TimeSpan.FromDays(30);
    private static readonly PasswordHasher<AccountRow> Hasher = new();

    // Checked when the name is unknown, so that the answer takes as long as for a known one.
    private static readonly string Nobody = Hasher.HashPassword(null!, Guid.NewGuid().ToString());

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/sessions", SignInAsync).AllowAnonymous().WithName("SignIn").WithSummary("Signs the console in with a cookie.");
        routes.MapDelete("/sessions/current", (Delegate)SignOutAsync)
            .RequireAuthorization(Roles.Anyone)
            .WithName("SignOut")
            .WithSummary("Signs the console out.");
        routes.MapPost("/tokens", TokenAsync).AllowAnonymous().WithName("MakeToken").WithSummary("Makes a token for the command line.");
        routes.MapGet("/me", (ClaimsPrincipal user) => TypedResults.Ok(AccountClaims.Of(user)))
            .RequireAuthorization(Roles.Anyone)
            .WithName("GetMe")
            .WithSummary("Who is asking.");
        routes.MapPut("/accounts/{name}", SetAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutAccount")
            .WithSummary("Makes or changes a local account.");
    }

    private static async Task<Results<Ok<Me>, ProblemHttpResult>> SignInAsync(
        SignIn wanted, YardDb db, TimeProvider time, HttpContext context, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, wanted.Name, wanted.Password, time, cancel)).TryGet(out var account, out var problem))
            return new[] { problem }.ToHttp();
        var user = new ClaimsPrincipal(new ClaimsIdentity(AccountClaims.Of(account), CookieAuthenticationDefaults.AuthenticationScheme));
        await context.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, user, new() { IsPersistent = true });
        return TypedResults.Ok(AccountClaims.Of(user));
    }

    private static async Task<NoContent> SignOutAsync(HttpContext context)
    {
        await context.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<TokenMade>, ProblemHttpResult>> TokenAsync(
        NewToken wanted, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, wanted.Name, wanted.Password, time, cancel)).TryGet(out var account, out var problem))
            return new[] { problem }.ToHttp();
        var token = TokenAuthentication.New();
        var expires = time.GetUtcNow() + TokenLives;
        db.Tokens.Add(new()
        {
            Sha256 = TokenAuthentication.Digest(token),
            Account = account.Name,
            Label = wanted.Label.Length > 100 ? wanted.Label[..100] : wanted.Label,
            Expires = expires
        });
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new TokenMade(token, expires, new(account.Name, account.Shown, account.Role, account.Sites)));
    }

    private static async Task<Result<AccountRow>> CheckAsync(
        YardDb db, string name, string password, TimeProvider time, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (account?.LockedUntil > time.GetUtcNow())
            return new ServiceProblem("account.locked", "Too many wrong passwords. Wait five minutes, then try again.", 429);
        if (account is not null && Hasher.VerifyHashedPassword(account, account.Password, password) != PasswordVerificationResult.Failed)
        {
            (account.Failures, account.LockedUntil) = (0, null);
            await db.SaveChangesAsync(cancel);
            return account;
        }
        if (account is null) Hasher.VerifyHashedPassword(null!, Nobody, password);
        else
        {
            if (++account.Failures >= MostFailures) (account.Failures, account.LockedUntil) = (0, time.GetUtcNow() + LockedFor);
            await db.SaveChangesAsync(cancel);
        }
        return new ServiceProblem("account.wrong", "Name or password is wrong.", 401);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SetAsync(
        string name, AccountWanted wanted, YardDb db, CancellationToken cancel)
    {
        if (!Roles.Policies[Roles.Anyone].Contains(wanted.Role) || wanted.Role == Roles.Hand)
            return new Problem[]
            {
                new("account.role", $"'{wanted.Role}' is not a role for an account. Use coordinator, technician, auditor or person.")
            }.ToHttp();
        if (wanted.Password.Length is < 8 or > 200)
            return new Problem[] { new("account.password", "A password has 8 to 200 characters.") }.ToHttp();
        await PutAsync(db, name, wanted, cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Makes or changes an account.</summary>
    public static async Task PutAsync(YardDb db, string name, AccountWanted wanted, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (account is null)
            db.Accounts.Add(account = new() { Name = name, Shown = wanted.Shown, Role = wanted.Role, Password = "", Sites = [] });
        (account.Shown, account.Role, account.Sites, account.Person) = (wanted.Shown, wanted.Role, [.. wanted.Sites], wanted.Person);
        account.Password = Hasher.HashPassword(account, wanted.Password);
        await db.SaveChangesAsync(cancel);
    }
}
