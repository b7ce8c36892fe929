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

    /// <param name="label">What they come with: a browser, a program.</param>
    public async Task<Result<Begun>> InAsync(
        YardDb db, Shown shown, string label, bool isBrowser, HttpContext context, CancellationToken cancel)
    {
        var tried = await check.AsStrangerAsync(
            db, shown.Name, shown.Password, context.Connection.RemoteIpAddress, shown.Mark, cancel);
        if (!tried.TryGet(out var account, out var problem)) return Result<Begun>.Failed([problem]);
        Begun? begun = null;
        await ledger.EnterAsync(db, async () =>
        {
            if (await Sessions.BeginAsync(db, account, label, isBrowser, time.GetUtcNow(), cancel) is not { } made) return null;
            begun = new(account, made.Secret, made.Row);
            var by = AccountDesk.DoerOf(account);
            return new(
                "account.signed-in",
                $"{by.Shown} signed in: {made.Row.Label}",
                new() { ["session"] = Sessions.IdOf(made.Row.Sha256), ["browser"] = isBrowser },
                by);
        }, cancel);
        return begun is null ? new AccountWrongProblem() : begun;
    }
}
