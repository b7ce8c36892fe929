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

    internal static async Task<Results<Ok<Me>, ProblemHttpResult>> SignInAsync(
        SignIn wanted, YardDb db, Passwords passwords, TimeProvider time, HttpContext context, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, passwords, wanted.Name, wanted.Password, time, cancel)).TryGet(out var account, out var problem))
            return problem.ToHttp();
        if (await Sessions.BeginAsync(db, account, Browser(context), isBrowser: true, time.GetUtcNow(), cancel) is not { } begun)
            return new AccountWrongProblem().ToHttp();
        var user = new ClaimsPrincipal(
            new ClaimsIdentity(AccountClaims.Of(account, begun.Row.Sha256), CookieAuthenticationDefaults.AuthenticationScheme));
        await context.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, user, new() { IsPersistent = true });
        return TypedResults.Ok(AccountClaims.Of(user));
    }

    private static string Browser(HttpContext context) =>
        context.Request.Headers.UserAgent.ToString() is { Length: > 0 } said ? said : "a browser that does not say";

    internal static async Task<NoContent> SignOutAsync(ClaimsPrincipal user, YardDb db, HttpContext context, CancellationToken cancel)
    {
        var session = user.FindFirstValue(Sessions.Claim);
        await db.Tokens.Where(t => t.Sha256 == session).ExecuteDeleteAsync(cancel);
        await context.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<Ok<TokenMade>, ProblemHttpResult>> TokenAsync(
        NewToken wanted, YardDb db, Passwords passwords, TimeProvider time, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, passwords, wanted.Name, wanted.Password, time, cancel)).TryGet(out var account, out var problem))
            return problem.ToHttp();
        if (await Sessions.BeginAsync(db, account, wanted.Label, isBrowser: false, time.GetUtcNow(), cancel) is not { } made)
            return new AccountWrongProblem().ToHttp();
        return TypedResults.Ok(new TokenMade(made.Secret, made.Row.Expires, new(account.Name, account.Shown, account.Role, account.Sites)));
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> ChangePasswordAsync(
        PasswordChange wanted, ClaimsPrincipal user, YardDb db, Passwords passwords, TimeProvider time, CancellationToken cancel)
    {
        if (!(await CheckAsync(db, passwords, user.NameOf(), wanted.Now, time, cancel)).TryGet(out var account, out var problem))
            return (problem is AccountWrongProblem ? new PasswordNowWrong() : problem).ToHttp();
        if (!Passwords.CanBeOne(wanted.Wanted)) return new AccountPasswordProblem().ToHttp();
        passwords.Keep(account, wanted.Wanted);
        await Sessions.KeepAndEndAllAsync(db, account.Name, user.FindFirstValue(Sessions.Claim), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Result<AccountRow>> CheckAsync(
        YardDb db, Passwords passwords, string name, string password, TimeProvider time, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (account?.LockedUntil > time.GetUtcNow())
            return new AccountLockedProblem();
        if (passwords.IsRight(account, password))
        {
            if (account.DisabledAt is not null) return new AccountDisabledProblem();
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
        if (!Passwords.CanBeOne(wanted.Password))
            return new AccountPasswordProblem().ToHttp();
        await AccountDesk.PutAsync(db, passwords, name, wanted, cancel);
        return TypedResults.NoContent();
    }
}
