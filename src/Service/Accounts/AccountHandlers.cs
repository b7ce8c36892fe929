using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Files.Names;
using YardRelay.Records;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>The work behind <see cref="AccountEndpoints"/>.</summary>
internal static class AccountHandlers
{
    internal static async Task<Results<Ok<Me>, ProblemHttpResult>> SignInAsync(
        SignIn wanted, YardDb db, SignInDesk desk, HttpContext context, CancellationToken cancel)
    {
        var tried = await desk.InAsync(
            db, new(wanted.Name, wanted.Password, context.Request.Cookies[KnownDevices.Cookie]), Browser(context), true, context, cancel);
        if (!tried.TryGet(out var begun, out var problem)) return problem.ToHttp();
        var user = new ClaimsPrincipal(
            new ClaimsIdentity(AccountClaims.Of(begun.Account, begun.Row.Sha256), CookieAuthenticationDefaults.AuthenticationScheme));
        await context.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, user, new() { IsPersistent = true });
        desk.Devices.Give(context, begun.Account.Name);
        return TypedResults.Ok(AccountClaims.Of(user));
    }

    // Two people of a roster may have one name, and are told apart by their swaps; nobody has that of somebody who works here.
    private static async Task<bool> TakenAsync(YardDb db, string name, AccountWanted wanted, CancellationToken cancel)
    {
        var (folded, isPerson) = (NameFold.Of(wanted.Shown), wanted.Role == Roles.Person);
        return folded == NameFold.Of(Doer.System.Shown)
            || (await db.Accounts.AsNoTracking()
                .Where(a => a.Name != name && !(isPerson && a.Role == Roles.Person))
                .Select(a => new { a.Name, a.Shown })
                .ToListAsync(cancel))
                .Exists(a => NameFold.Of(a.Name) == folded || NameFold.Of(a.Shown) == folded);
    }

    private static string Browser(HttpContext context) =>
        context.Request.Headers.UserAgent.ToString() is { Length: > 0 } said ? BrowserNames.Of(said) : "a browser that does not say";

    internal static async Task<NoContent> SignOutAsync(
        ClaimsPrincipal user, YardDb db, Ended ended, HttpContext context, CancellationToken cancel)
    {
        await Sessions.EndOwnAsync(db, ended, user.FindFirstValue(Sessions.Claim), cancel);
        await context.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<Ok<TokenMade>, ProblemHttpResult>> TokenAsync(
        NewToken wanted, YardDb db, SignInDesk desk, HttpContext context, CancellationToken cancel)
    {
        var tried = await desk.InAsync(
            db, new(wanted.Name, wanted.Password, wanted.Device), wanted.Label, isBrowser: false, context, cancel);
        if (!tried.TryGet(out var made, out var problem)) return problem.ToHttp();
        var account = made.Account;
        return TypedResults.Ok(new TokenMade(
            made.Secret,
            made.Row.Expires,
            new(account.Name, account.Shown, account.Role, account.Sites, account.Refreshes),
            desk.Devices.With(wanted.Device, account.Name)));
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> ChangePasswordAsync(
        PasswordChange wanted, ClaimsPrincipal user, YardDb db, AccountDesk desk, PasswordCheck check, CancellationToken cancel)
    {
        var session = user.FindFirstValue(Sessions.Claim)!;
        if (!(await check.SignedInAsync(db, user.NameOf(), wanted.Now, session, cancel)).TryGet(out var account, out var problem))
            return (problem is AccountWrongProblem ? new PasswordNowWrong() : problem).ToHttp();
        if (Passwords.Against(wanted.Wanted, account.Name) is { } bad) return bad.ToHttp();
        await desk.ChangePasswordAsync(db, account, wanted.Wanted, session, cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> SetAsync(
        string name, AccountWanted wanted, ClaimsPrincipal user, YardDb db, AccountDesk desk, CancellationToken cancel)
    {
        if (!Roles.Policies[Roles.Anyone].Contains(wanted.Role) || wanted.Role == Roles.Hand)
            return new AccountRoleProblem(wanted.Role).ToHttp();
        if (wanted.Password is { } password && Passwords.Against(password, name) is { } bad) return bad.ToHttp();
        var known = await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (wanted.Password is null && known is null) return new AccountNewProblem(name).ToHttp();
        var refreshes = wanted.Refreshes ?? known?.Refreshes ?? [];
        if (wanted.Role == Roles.Person && (refreshes.Count != 1 || wanted.Person is null)) return new AccountPersonProblem().ToHttp();
        // What people do is told under the name that is shown: nobody takes another's.
        if (await TakenAsync(db, name, wanted, cancel)) return new AccountShownProblem(wanted.Shown).ToHttp();
        // Else nobody might be left who can do it again.
        if (name == user.NameOf() && (wanted.Role != user.RoleOf() || refreshes.Count > 0)) return new AccountIsYourOwn(name).ToHttp();
        foreach (var refresh in refreshes)
            if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel)) return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        await desk.PutAsync(db, name, wanted, cancel);
        return TypedResults.NoContent();
    }
}
