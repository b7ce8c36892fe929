using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>The work behind <see cref="PasskeyEndpoints"/>.</summary>
internal static class PasskeyHandlers
{
    private const int Most = 20;
    private const int MostName = 60;

    internal static async Task<Ok<PasskeysSeen>> ListAsync(ClaimsPrincipal user, YardDb db, CancellationToken cancel)
    {
        var name = user.NameOf();
        var all = await db.Passkeys.AsNoTracking().Where(p => p.Account == name).OrderBy(p => p.MadeAt).Take(Most).ToListAsync(cancel);
        return TypedResults.Ok(new PasskeysSeen(
            all.ConvertAll(p => new PasskeySeen(p.Id, p.Name, p.MadeAt, p.UsedAt, p.IsBackedUp)),
            await db.Recoveries.CountAsync(r => r.Account == name, cancel)));
    }

    internal static async Task<Results<Ok<PasskeyBegun>, ProblemHttpResult>> BeginAsync(
        PasskeyBegin wanted, ClaimsPrincipal user, YardDb db, OnceMore check, SecondFactor second, HttpContext context,
        CancellationToken cancel)
    {
        // Whoever found a screen unlocked adds nothing.
        if (!(await check.AskAsync(db, user, wanted.Password, cancel)).TryGet(out var account, out var problem))
            return (problem is AccountWrongProblem ? new PasswordNowWrong() : problem).ToHttp();
        if (await db.Passkeys.CountAsync(p => p.Account == account.Name, cancel) >= Most) return new PasskeyManyProblem(Most).ToHttp();
        return TypedResults.Ok(await second.BeginAsync(account, context));
    }

    internal static async Task<Results<Ok<PasskeyMade>, ProblemHttpResult>> AddAsync(
        PasskeyWanted wanted, ClaimsPrincipal user, YardDb db, SecondFactor second, PasskeyDesk desk, HttpContext context,
        CancellationToken cancel)
    {
        if (wanted.Name.Trim() is not { Length: > 0 and <= MostName } called || !Visible.IsPlain(called))
            return new PasskeyNameProblem().ToHttp();
        var name = user.NameOf();
        if (await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel) is not { } account)
            return ServiceProblem.NotFound("account", name).ToHttp();
        return (await second.MadeAsync(account, wanted, context)).TryGet(out var passkey, out var problem)
            ? TypedResults.Ok(await desk.AddAsync(db, account, passkey, called, user.SessionOf(), cancel))
            : problem.ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> RemoveAsync(
        string passkey, ClaimsPrincipal user, YardDb db, PasskeyDesk desk, CancellationToken cancel)
    {
        if (!user.IsSecond()) return new SecondNeededProblem().ToHttp();
        var name = user.NameOf();
        return await desk.RemoveAsync(db, name, passkey, cancel)
            ? TypedResults.NoContent()
            : ServiceProblem.NotFound("passkey", passkey).ToHttp();
    }

    internal static async Task<Results<Ok<RecoveryCodes>, ProblemHttpResult>> RenewAsync(
        ClaimsPrincipal user, YardDb db, PasskeyDesk desk, CancellationToken cancel)
    {
        if (!user.IsSecond()) return new SecondNeededProblem().ToHttp();
        return TypedResults.Ok(new RecoveryCodes(await desk.RenewAsync(db, user.NameOf(), cancel)));
    }

    internal static async Task<Results<Ok<SecondWanted>, ProblemHttpResult>> AskAsync(
        ClaimsPrincipal user, YardDb db, SecondFactor second, HttpContext context, CancellationToken cancel)
    {
        var name = user.NameOf();
        return await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel) is { } account
            && await second.AskAsync(db, account, SecondUse.Session, context, cancel) is { } asked
            ? TypedResults.Ok(asked)
            : ServiceProblem.NotFound("passkey", name).ToHttp();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> ShowAsync(
        SecondShown shown, ClaimsPrincipal user, YardDb db, SecondFactor second, PasskeyDesk desk, HttpContext context,
        CancellationToken cancel)
    {
        var session = user.SessionOf();
        if (!(await second.ProveAsync(db, shown, SecondUse.Session, session, context, cancel)).TryGet(out var proof, out var problem))
            return problem.ToHttp();
        await desk.StrengthenAsync(db, proof, session, cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> ForgetAsync(
        string name, ClaimsPrincipal user, YardDb db, PasskeyDesk desk, CancellationToken cancel)
    {
        if (name == user.NameOf()) return new AccountIsYourOwn(name).ToHttp();
        if (await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == name, cancel) is not { } account)
            return ServiceProblem.NotFound("account", name).ToHttp();
        return await desk.ForgetAsync(db, account, cancel) ? TypedResults.NoContent() : new PasskeyNoneProblem(name).ToHttp();
    }
}
