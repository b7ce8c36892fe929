using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>The work behind <see cref="SessionEndpoints"/>.</summary>
internal static class SessionHandlers
{
    private const int Most = 500;

    internal static async Task<Ok<List<SessionSeen>>> ListAsync(
        ClaimsPrincipal user, YardDb db, TimeProvider time, CancellationToken cancel)
    {
        var (name, mine, now) = (user.NameOf(), user.FindFirstValue(Sessions.Claim), time.GetUtcNow());
        var rows = await db.Tokens.AsNoTracking()
            .Where(t => t.Account == name && t.Expires > now)
            .OrderByDescending(t => t.SeenAt != null).ThenByDescending(t => t.SeenAt).ThenBy(t => t.Sha256)
            .Take(Most)
            .ToListAsync(cancel);
        return TypedResults.Ok(rows.Where(t => Sessions.EndOf(t) > now).Select(t => new SessionSeen(
            Sessions.IdOf(t.Sha256),
            t.IsBrowser ? BrowserNames.Of(t.Label) : t.Label,
            t.IsBrowser,
            t.MadeAt, t.SeenAt, Sessions.EndOf(t), t.Sha256 == mine)).ToList());
    }

    internal static async Task<NoContent> EndOthersAsync(ClaimsPrincipal user, YardDb db, Ended ended, CancellationToken cancel)
    {
        await Sessions.EndAllAsync(db, ended, user.NameOf(), user.FindFirstValue(Sessions.Claim), cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> EndAsync(
        string session, ClaimsPrincipal user, YardDb db, Ended ended, CancellationToken cancel)
    {
        return await Sessions.EndAsync(db, ended, user.NameOf(), session, cancel)
            ? TypedResults.NoContent()
            : ServiceProblem.NotFound("session", session).ToHttp();
    }

    internal static async Task<Ok<List<AccountSeen>>> AccountsAsync(YardDb db, TimeProvider time, CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        var accounts = await db.Accounts.AsNoTracking().OrderBy(a => a.Name).Take(Most).ToListAsync(cancel);
        var open = (await db.Tokens.AsNoTracking().Where(t => t.Account != null && t.Expires > now).ToListAsync(cancel))
            .Where(t => Sessions.EndOf(t) > now)
            .ToLookup(t => t.Account!);
        var passkeys = await db.Passkeys.GroupBy(p => p.Account).Select(g => new { g.Key, Many = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Many, cancel);
        return TypedResults.Ok(accounts.ConvertAll(a => new AccountSeen(
            a.Name, a.Shown, a.Role, a.Sites, a.Refreshes, a.Person, a.DisabledAt, open[a.Name].Max(t => t.SeenAt), open[a.Name].Count())
        {
            Passkeys = passkeys.GetValueOrDefault(a.Name),
            IsOfOrganisation = a.Subject is not null
        }));
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> DisableAsync(
        string name, AccountUse wanted, ClaimsPrincipal user, YardDb db, AccountDesk desk, TimeProvider time, CancellationToken cancel)
    {
        if (wanted.Disabled && name == user.NameOf()) return new AccountIsYourOwn(name).ToHttp();
        if (await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel) is not { } account)
            return ServiceProblem.NotFound("account", name).ToHttp();
        await desk.ShutAsync(db, account, wanted.Disabled, time.GetUtcNow(), cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> EndAllAsync(
        string name, YardDb db, Ended ended, ServiceLedger ledger, CancellationToken cancel)
    {
        if (await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == name, cancel) is not { } account)
            return ServiceProblem.NotFound("account", name).ToHttp();
        await ledger.EnterAsync(db, async () =>
        {
            await Sessions.EndAllAsync(db, ended, name, null, cancel);
            return new("account.signed-out", $"{AccountDesk.NameOf(account)} is signed out everywhere");
        }, cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> RemoveAsync(
        string name, ClaimsPrincipal user, YardDb db, Ended ended, ServiceLedger ledger, CancellationToken cancel)
    {
        if (name == user.NameOf()) return new AccountIsYourOwn(name).ToHttp();
        if (await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == name, cancel) is not { } account)
            return ServiceProblem.NotFound("account", name).ToHttp();
        await ledger.EnterAsync(db, async () =>
        {
            ended.Add(EndedKind.Account, [(name, DateTimeOffset.MaxValue)]);
            await Sessions.EndAllAsync(db, ended, name, null, cancel);
            await db.Passkeys.Where(p => p.Account == name).ExecuteDeleteAsync(cancel);
            await db.Recoveries.Where(r => r.Account == name).ExecuteDeleteAsync(cancel);
            return await db.Accounts.Where(a => a.Name == name).ExecuteDeleteAsync(cancel) > 0
                ? new("account.removed", $"{AccountDesk.NameOf(account)} is removed")
                : null;
        }, cancel);
        return TypedResults.NoContent();
    }
}
