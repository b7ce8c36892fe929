using System.Security.Claims;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>What begins a session.</summary>
/// <param name="Label">What they come with: a browser, a program.</param>
/// <param name="IsBrowser">A browser holds it in a cookie, and not a program.</param>
/// <param name="IsSecond">A passkey was shown, too, or what counts as one.</param>
internal sealed record SessionKind(string Label, bool IsBrowser, bool IsSecond);

/// <summary>
/// Where accounts are signed in: each browser and each program has a secret of its own, of which the digest is kept. Every request asks
/// whether it still counts, and goes by the account as it stands then.
/// </summary>
internal static class Sessions
{
    /// <summary>The claim that names the session.</summary>
    public const string Claim = "session";

    private const int MostLabel = 100;
    private const int IdLength = 16;

    /// <summary>A browser is signed out after so long without a request.</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromHours(12);

    /// <summary>A browser is signed out after so long, however much it is used.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(7);

    private static readonly TimeSpan TokenLives = TimeSpan.FromDays(30);
    private static readonly TimeSpan SeenEvery = TimeSpan.FromMinutes(1);

    /// <summary>Begins one for an account whose password was found right.</summary>
    /// <returns>The secret, which is kept nowhere; null: meanwhile the account has another password, is disabled or gone.</returns>
    public static async Task<(string Secret, TokenRow Row)?> BeginAsync(
        YardDb db, AccountRow account, SessionKind kind, DateTimeOffset now, CancellationToken cancel)
    {
        var (label, isBrowser) = (kind.Label, kind.IsBrowser);
        var secret = TokenAuthentication.New();
        var row = new TokenRow
        {
            Sha256 = TokenAuthentication.Digest(secret),
            Account = account.Name,
            Label = label.Length > MostLabel ? label[..MostLabel] : label,
            IsBrowser = isBrowser,
            IsSecond = kind.IsSecond,
            MadeAt = now,
            SeenAt = now,
            Expires = now + (isBrowser ? Longest : TokenLives)
        };
        db.Tokens.Add(row);
        await db.SaveChangesAsync(cancel);
        // What is over long since is nobody's any more.
        await db.Tokens.Where(t => t.Expires < now).ExecuteDeleteAsync(cancel);
        // Whoever changes a password ends the sessions that are there: this one came before that, or sees the change.
        if (await db.Accounts.AnyAsync(a => a.Name == account.Name && a.Password == account.Password && a.DisabledAt == null, cancel))
            return (secret, row);
        await db.Tokens.Where(t => t.Sha256 == row.Sha256).ExecuteDeleteAsync(cancel);
        return null;
    }

    /// <summary>The account that a session opens now; null: the session has ended, or nobody gets in by its account.</summary>
    public static async Task<AccountRow?> AccountOfAsync(YardDb db, TokenRow row, DateTimeOffset now, CancellationToken cancel)
    {
        if (EndOf(row) < now || row.Account is null) return null;
        var account = await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == row.Account, cancel);
        if (account is not { DisabledAt: null }) return null;
        if (!(now - row.SeenAt < SeenEvery))
            await db.Tokens.Where(t => t.Sha256 == row.Sha256).ExecuteUpdateAsync(u => u.SetProperty(t => t.SeenAt, now), cancel);
        return account;
    }

    /// <summary>When it ends by itself, unless it is used.</summary>
    public static DateTimeOffset EndOf(TokenRow row) =>
        row is { IsBrowser: true, SeenAt: { } seen } && seen + Idle < row.Expires ? seen + Idle : row.Expires;

    /// <summary>
    /// Keeps what was changed of an account, and ends all its sessions but one; within a transaction, so both or neither.
    /// </summary>
    /// <param name="but">Digest of the one that stays; null: none does.</param>
    public static async Task KeepAndEndAllAsync(YardDb db, Ended ended, string account, string? but, CancellationToken cancel)
    {
        await db.SaveChangesAsync(cancel);
        await EndAllAsync(db, ended, account, but, cancel);
    }

    /// <summary>Ends one of an account; false: it has no such one.</summary>
    /// <param name="id">See <see cref="IdOf"/>.</param>
    public static async Task<bool> EndAsync(YardDb db, Ended ended, string account, string id, CancellationToken cancel) =>
        id.Length == IdLength
        && await EndAsync(ended, db.Tokens.Where(t => t.Account == account && t.Sha256.StartsWith(id)), cancel) > 0;

    /// <summary>Ends all of an account but one.</summary>
    /// <param name="ended">Null: it is only looked what would be.</param>
    /// <param name="but">Digest of the one that stays; null: none does.</param>
    public static Task<int> EndAllAsync(YardDb db, Ended? ended, string account, string? but, CancellationToken cancel) =>
        EndAsync(ended, db.Tokens.Where(t => t.Account == account && t.Sha256 != but), cancel);

    /// <summary>Ends the one that asks.</summary>
    /// <param name="sha256">Its digest.</param>
    public static Task<int> EndOwnAsync(YardDb db, Ended ended, string? sha256, CancellationToken cancel) =>
        EndAsync(ended, db.Tokens.Where(t => t.Sha256 == sha256), cancel);

    private static async Task<int> EndAsync(Ended? ended, IQueryable<TokenRow> rows, CancellationToken cancel)
    {
        var all = await rows.AsNoTracking().Select(t => new { t.Sha256, t.Expires }).ToListAsync(cancel);
        ended?.Add(EndedKind.Session, [.. all.Select(t => (t.Sha256, t.Expires))]);
        return await rows.ExecuteDeleteAsync(cancel);
    }

    /// <summary>What names a session in lists: digests are of secrets too long to be found from them.</summary>
    public static string IdOf(string sha256) => sha256[..IdLength];

    /// <summary>Asks of a cookie whether its session still counts, and goes by the account as it stands.</summary>
    public static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        var services = context.HttpContext.RequestServices;
        var sha256 = context.Principal?.FindFirstValue(Claim);
        var cancel = context.HttpContext.RequestAborted;
        await using var db = await services.GetRequiredService<IDbContextFactory<YardDb>>().CreateDbContextAsync(cancel);
        var row = sha256 is null ? null : await db.Tokens.AsNoTracking().FirstOrDefaultAsync(t => t.Sha256 == sha256, cancel);
        var account = row is null
            ? null
            : await AccountOfAsync(db, row, services.GetRequiredService<TimeProvider>().GetUtcNow(), cancel);
        if (account is null) context.RejectPrincipal();
        else context.ReplacePrincipal(
            new(new ClaimsIdentity(AccountClaims.Of(account, row!), CookieAuthenticationDefaults.AuthenticationScheme)));
    }
}
