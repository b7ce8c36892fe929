using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>What somebody shows who wants in.</summary>
/// <param name="Mark">What their device shows; null: nothing.</param>
internal sealed record Shown(string Name, string Password, string? Mark);

/// <summary>A session that began.</summary>
internal sealed record Begun(AccountRow Account, string Secret, TokenRow Row);

/// <summary>Lets people in: looks at what they show, begins their session, and enters it.</summary>
internal sealed class SignInDesk(PasswordCheck check, KnownDevices devices, ServiceLedger ledger, TimeProvider time)
{
    /// <summary>The devices from which somebody was signed in before.</summary>
    public KnownDevices Devices => devices;

    /// <summary>The account that a name and a password open.</summary>
    public Task<Result<AccountRow>> KnownAsync(YardDb db, Shown shown, HttpContext context, CancellationToken cancel) =>
        check.AsStrangerAsync(db, shown.Name, shown.Password, context.Connection.RemoteIpAddress, shown.Mark, cancel);

    /// <summary>Begins a session for an account that showed all that it has to.</summary>
    /// <param name="how">What let it in beside its password, in words; null: nothing.</param>
    public async Task<Result<Begun>> BeginAsync(
        YardDb db, AccountRow account, SessionKind kind, string? how, CancellationToken cancel)
    {
        Begun? begun = null;
        await ledger.EnterAsync(db, async () =>
        {
            if (await Sessions.BeginAsync(db, account, kind, time.GetUtcNow(), cancel) is not { } made) return null;
            begun = new(account, made.Secret, made.Row);
            var by = AccountDesk.DoerOf(account);
            return new(
                "account.signed-in",
                $"{by.Shown} signed in{(how is null ? "" : " " + how)}: {made.Row.Label}",
                new()
                {
                    ["session"] = Sessions.IdOf(made.Row.Sha256),
                    ["browser"] = kind.IsBrowser,
                    ["second"] = kind.IsSecond
                },
                by);
        }, cancel);
        return begun is null ? new AccountWrongProblem() : begun;
    }

    /// <summary>Begins a browser's session, and gives the browser what it shows from now on.</summary>
    public async Task<Result<Me>> BeginHereAsync(
        YardDb db, AccountRow account, bool isSecond, string? how, HttpContext context, CancellationToken cancel)
    {
        var tried = await BeginAsync(db, account, new(BrowserNames.In(context), true, isSecond), how, cancel);
        if (!tried.TryGet(out var begun, out var problem)) return problem;
        var user = UserOf(begun);
        await context.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, user, new() { IsPersistent = true });
        devices.Give(context, account.Name);
        return AccountClaims.Of(user);
    }

    /// <summary>What a program is given that was let in.</summary>
    /// <param name="mark">What it showed of before; null: nothing.</param>
    public TokenMade Made(Begun begun, string? mark) => new(
        begun.Secret, begun.Row.Expires, AccountClaims.Of(UserOf(begun)), devices.With(mark, begun.Account.Name));

    /// <summary>Who is signed in by a session.</summary>
    public static ClaimsPrincipal UserOf(Begun begun) =>
        new(new ClaimsIdentity(AccountClaims.Of(begun.Account, begun.Row), CookieAuthenticationDefaults.AuthenticationScheme));
}
