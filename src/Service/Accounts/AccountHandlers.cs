using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>The work behind <see cref="AccountEndpoints"/>.</summary>
internal static class AccountHandlers
{
    private const int MostFailures = 8;
    private static readonly TimeSpan LockedFor = TimeSpan.FromMinutes(5);
    private static readonly TimeSpan TokenLives = TimeSpan.FromDays(30);

    internal static async Task<Results<Ok<Me>, ProblemHttpResult>> SignInAsync(
        SignIn wanted, YardDb db, Passwords passwords, TimeProvider time, HttpContext context, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, passwords, wanted.Name, wanted.Password, time, cancel)).TryGet(out var account, out var problem))
            return problem.ToHttp();
        var user = new ClaimsPrincipal(new ClaimsIdentity(AccountClaims.Of(account), CookieAuthenticationDefaults.AuthenticationScheme));
        await context.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, user, new() { IsPersistent = true });
        return TypedResults.Ok(AccountClaims.Of(user));
    }

    internal static async Task<NoContent> SignOutAsync(HttpContext context)
    {
        await context.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<Ok<TokenMade>, ProblemHttpResult>> TokenAsync(
        NewToken wanted, YardDb db, Passwords passwords, TimeProvider time, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, passwords, wanted.Name, wanted.Password, time, cancel)).TryGet(out var account, out var problem))
            return problem.ToHttp();
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
        YardDb db, Passwords passwords, string name, string password, TimeProvider time, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (account?.LockedUntil > time.GetUtcNow())
            return new AccountLockedProblem();
        if (passwords.IsRight(account, password))
        {
            (account.Failures, account.LockedUntil) = (0, null);
            await db.SaveChangesAsync(cancel);
            return account;
        }
        if (account is not null)
        {
            if (++account.Failures >= MostFailures) (account.Failures, account.LockedUntil) = (0, time.GetUtcNow() + LockedFor);
            await db.SaveChangesAsync(cancel);
        }
        return new AccountWrongProblem();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> SetAsync(
        string name, AccountWanted wanted, YardDb db, Passwords passwords, CancellationToken cancel)
    {
        if (!Roles.Policies[Roles.Anyone].Contains(wanted.Role) || wanted.Role == Roles.Hand)
            return new AccountRoleProblem(wanted.Role).ToHttp();
        if (wanted.Password.Length is < 8 or > 200)
            return new AccountPasswordProblem().ToHttp();
        await AccountDesk.PutAsync(db, passwords, name, wanted, cancel);
        return TypedResults.NoContent();
    }
}
