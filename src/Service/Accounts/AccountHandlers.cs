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
    private const int MostName = 100;

    internal static async Task<Results<Ok<Me>, Accepted<SecondWanted>, ProblemHttpResult>> SignInAsync(
        SignIn wanted, YardDb db, SignInDesk desk, SecondFactor second, HttpContext context, CancellationToken cancel)
    {
        var tried = await desk.KnownAsync(
            db, new(wanted.Name, wanted.Password, context.Request.Cookies[KnownDevices.Cookie]), context, cancel);
        if (!tried.TryGet(out var account, out var problem)) return problem.ToHttp();
        if (await second.AskAsync(db, account, SecondUse.SignIn, context, cancel) is { } asked)
            return TypedResults.Accepted((string?)null, asked);
        return (await desk.BeginHereAsync(db, account, false, null, context, cancel)).TryGet(out var me, out problem)
            ? TypedResults.Ok(me)
            : problem.ToHttp();
    }

    internal static async Task<Results<Ok<Me>, ProblemHttpResult>> SecondAsync(
        SecondShown shown, YardDb db, SignInDesk desk, SecondFactor second, HttpContext context, CancellationToken cancel)
    {
        var proved = await second.ProveAsync(db, shown, SecondUse.SignIn, null, context, cancel);
        if (!proved.TryGet(out var proof, out var problem)) return problem.ToHttp();
        return (await desk.BeginHereAsync(db, proof.Account, true, proof.How, context, cancel)).TryGet(out var me, out problem)
            ? TypedResults.Ok(me)
            : problem.ToHttp();
    }

    // What is not seen makes no other name of it.
    private static bool IsName(string name) => name.Trim() == name && name.Length is > 0 and <= MostName && Visible.IsPlain(name);

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
        var tried = await desk.KnownAsync(db, new(wanted.Name, wanted.Password, wanted.Device), context, cancel);
        if (!tried.TryGet(out var account, out var problem)) return problem.ToHttp();
        // A program has no passkeys: a browser lets it in.
        if (await SecondFactor.HasAsync(db, account, cancel)) return new SecondInBrowserProblem().ToHttp();
        return (await desk.BeginAsync(db, account, new(wanted.Label, false, false), null, cancel)).TryGet(out var begun, out problem)
            ? TypedResults.Ok(desk.Made(begun, wanted.Device))
            : problem.ToHttp();
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
        if (!IsName(name) || !IsName(wanted.Shown)) return new AccountNameProblem(MostName).ToHttp();
        if (wanted.Password is { } password && Passwords.Against(password, name) is { } bad) return bad.ToHttp();
        var known = await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (wanted.Password is null && known is null) return new AccountNewProblem(name).ToHttp();
        var refreshes = wanted.Refreshes ?? known?.Refreshes ?? [];
        if (wanted.Role == Roles.Person && (refreshes.Count != 1 || wanted.Person is null)) return new AccountPersonProblem().ToHttp();
        // What they may is said where the groups are; and who they are by their organisation alone.
        if (known is { Subject: not null }
            && (wanted.Password is not null
                || wanted.Role != known.Role
                || !wanted.Sites.SequenceEqual(known.Sites)
                || !refreshes.SequenceEqual(known.Refreshes)))
            return new AccountOfOrganisationProblem(name).ToHttp();
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
