using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>What a passkey is shown for.</summary>
internal enum SecondUse
{
    /// <summary>To begin a session.</summary>
    SignIn,

    /// <summary>To strengthen the session that asks.</summary>
    Session,

    /// <summary>To add one.</summary>
    Make,
}

/// <summary>Somebody showed a passkey, or a code in its place.</summary>
/// <param name="How">Which, in words that follow "signed in".</param>
internal sealed record SecondProof(AccountRow Account, string How);

/// <summary>
/// What is shown beside a password: a passkey (Web Authentication), or a recovery code in its place. What is asked goes to the browser and
/// comes back sealed, counts for five minutes, for one account, one use and one session, and once.
/// </summary>
internal sealed class SecondFactor(
    IDataProtectionProvider protection, Guesses guesses, RefusedSignIns refused, RecoveryDesk recovery, TimeProvider time)
{
    private static readonly TimeSpan Lives = TimeSpan.FromMinutes(5);
    private readonly IDataProtector _seal = protection.CreateProtector("second factor");

    private sealed record Ticket(SecondUse Use, string Account, string Stamp, string? Session, string State, DateTimeOffset Until);

    /// <summary>Whether an account has passkeys.</summary>
    public static Task<bool> HasAsync(YardDb db, AccountRow account, CancellationToken cancel) =>
        db.Passkeys.AnyAsync(p => p.Account == account.Name, cancel);

    /// <summary>Asks for one; null: the account has none.</summary>
    /// <param name="context">Of the session that asks, where it is to be strengthened.</param>
    public async Task<SecondWanted?> AskAsync(
        YardDb db, AccountRow account, SecondUse use, HttpContext context, CancellationToken cancel)
    {
        if (!await HasAsync(db, account, cancel)) return null;
        var asked = await HandlerOf(context).MakeRequestOptionsAsync(account, context);
        return new(
            Seal(use, account, use == SecondUse.Session ? context.User.SessionOf() : null, asked.AssertionState ?? ""),
            JsonSerializer.Deserialize<JsonElement>(asked.RequestOptionsJson),
            await db.Recoveries.CountAsync(r => r.Account == account.Name, cancel));
    }

    /// <summary>Looks at what was shown.</summary>
    /// <param name="session">The session that it is to strengthen; null: none yet.</param>
    public async Task<Result<SecondProof>> ProveAsync(
        YardDb db, SecondShown shown, SecondUse use, string? session, HttpContext context, CancellationToken cancel)
    {
        if (Open(shown.Ticket, use, session) is not { } ticket) return new SecondLateProblem();
        var guess = await guesses.CountAsync($"{ticket.Account} second", context.Connection.RemoteIpAddress, null, cancel);
        if (guess.Wait is { } wait) return new AccountLockedProblem(Math.Max(1, (int)Math.Ceiling(wait.TotalMinutes)));
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == ticket.Account, cancel);
        if (account is not { DisabledAt: null } || StampOf(account) != ticket.Stamp) return new SecondLateProblem();
        var how = shown.Code is { } code
            ? await recovery.UseAsync(db, account, code, cancel) is { } left ? $"with a recovery code, of which {left} are left" : null
            : shown.Passkey is { } passkey && await IsRightAsync(db, account, passkey, ticket.State, context, cancel)
            ? "with a passkey"
            : null;
        if (how is null)
        {
            refused.Add(account.Name);
            return new SecondWrongProblem();
        }
        await guesses.GiveBackAsync(guess, cancel);
        return await guesses.IsFirstAsync(shown.Ticket, cancel) ? new SecondProof(account, how) : new SecondLateProblem();
    }

    /// <summary>Begins a passkey for an account: what the browser makes one from.</summary>
    public async Task<PasskeyBegun> BeginAsync(AccountRow account, HttpContext context)
    {
        var asked = await HandlerOf(context).MakeCreationOptionsAsync(
            new() { Id = account.Name, Name = account.Name, DisplayName = account.Shown }, context);
        return new(
            Seal(SecondUse.Make, account, context.User.SessionOf(), asked.AttestationState ?? ""),
            JsonSerializer.Deserialize<JsonElement>(asked.CreationOptionsJson));
    }

    /// <summary>The passkey that a browser made for the account whose session asks.</summary>
    public async Task<Result<UserPasskeyInfo>> MadeAsync(AccountRow account, PasskeyWanted wanted, HttpContext context)
    {
        if (Open(wanted.Ticket, SecondUse.Make, context.User.SessionOf()) is not { } ticket
            || ticket.Account != account.Name
            || ticket.Stamp != StampOf(account)) return new SecondLateProblem();
        var made = await HandlerOf(context).PerformAttestationAsync(
            new() { CredentialJson = wanted.Passkey.GetRawText(), AttestationState = ticket.State, HttpContext = context });
        if (!made.Succeeded) return new PasskeyWrongProblem(made.Failure.Message);
        return await guesses.IsFirstAsync(wanted.Ticket, context.RequestAborted) ? made.Passkey : new SecondLateProblem();
    }

    private async Task<bool> IsRightAsync(
        YardDb db, AccountRow account, JsonElement passkey, string state, HttpContext context, CancellationToken cancel)
    {
        var shown = await HandlerOf(context).PerformAssertionAsync(
            new() { CredentialJson = passkey.GetRawText(), AssertionState = state, HttpContext = context });
        if (!shown.Succeeded || shown.User.Name != account.Name) return false;
        var (id, now) = (PasskeyStore.IdOf(shown.Passkey.CredentialId), time.GetUtcNow());
        var (count, backedUp) = ((long)shown.Passkey.SignCount, shown.Passkey.IsBackedUp);
        // One that was removed meanwhile opens nothing.
        return await db.Passkeys.Where(p => p.Id == id && p.Account == account.Name).ExecuteUpdateAsync(
            u => u.SetProperty(p => p.SignCount, count).SetProperty(p => p.IsBackedUp, backedUp).SetProperty(p => p.UsedAt, now),
            cancel) == 1;
    }

    private string Seal(SecondUse use, AccountRow account, string? session, string state) =>
        _seal.Protect(JsonSerializer.Serialize(new Ticket(
            use, account.Name, StampOf(account), session, state, time.GetUtcNow() + Lives)));

    private Ticket? Open(string sealedTicket, SecondUse use, string? session)
    {
        try
        {
            return JsonSerializer.Deserialize<Ticket>(_seal.Unprotect(sealedTicket)) is { } ticket
                && ticket.Use == use
                && ticket.Session == session
                && ticket.Until > time.GetUtcNow()
                ? ticket
                : null;
        }
        catch (Exception strange) when (strange is CryptographicException or JsonException)
        {
            return null;
        }
    }

    // Another password since then, and what was asked counts no more.
    private static string StampOf(AccountRow account) => TokenAuthentication.Digest("stamp " + account.Password);

    private static IPasskeyHandler<AccountRow> HandlerOf(HttpContext context) =>
        context.RequestServices.GetRequiredService<IPasskeyHandler<AccountRow>>();
}
