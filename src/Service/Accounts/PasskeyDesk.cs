using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>Passkeys added and taken away, and entered.</summary>
internal sealed class PasskeyDesk(RecoveryDesk recovery, Ended ended, ServiceLedger ledger, TimeProvider time)
{
    /// <summary>Adds one, which strengthens the session that adds it; the first brings recovery codes.</summary>
    /// <param name="session">Digest of that session.</param>
    public async Task<PasskeyMade> AddAsync(
        YardDb db, AccountRow account, UserPasskeyInfo passkey, string called, string session, CancellationToken cancel)
    {
        IReadOnlyList<string>? codes = null;
        var id = PasskeyStore.IdOf(passkey.CredentialId);
        await ledger.EnterAsync(db, async () =>
        {
            var isFirst = !await db.Passkeys.AnyAsync(p => p.Account == account.Name, cancel);
            db.Passkeys.Add(new()
            {
                Id = id,
                Account = account.Name,
                Name = called,
                PublicKey = passkey.PublicKey,
                SignCount = passkey.SignCount,
                Transports = [.. passkey.Transports ?? []],
                IsUserVerified = passkey.IsUserVerified,
                IsBackupEligible = passkey.IsBackupEligible,
                IsBackedUp = passkey.IsBackedUp,
                MadeAt = time.GetUtcNow()
            });
            await db.SaveChangesAsync(cancel);
            if (isFirst)
            {
                codes = await recovery.RenewAsync(db, account.Name, cancel);
                // What was signed in by the password alone shows the passkey, too, from now on.
                await Sessions.EndAllAsync(db, ended, account.Name, session, cancel);
            }
            await MarkAsync(db, session, cancel);
            var by = AccountDesk.DoerOf(account);
            return new(
                "account.passkey-added",
                $"{by.Shown} added a passkey, {called}" + (isFirst ? ", the first; signed out everywhere else" : ""),
                new() { ["passkey"] = id },
                by);
        }, cancel);
        return new(id, codes);
    }

    /// <summary>Takes one away; with the last one go the recovery codes. False: the account has no such one.</summary>
    public async Task<bool> RemoveAsync(YardDb db, string account, string passkey, CancellationToken cancel)
    {
        var isGone = false;
        await ledger.EnterAsync(db, async () =>
        {
            if (await db.Passkeys.AsNoTracking().FirstOrDefaultAsync(p => p.Id == passkey && p.Account == account, cancel) is not { } row)
                return null;
            ended.Add(EndedKind.Passkey, [(passkey, DateTimeOffset.MaxValue)]);
            isGone = await db.Passkeys.Where(p => p.Id == passkey).ExecuteDeleteAsync(cancel) == 1;
            var isLast = !await db.Passkeys.AnyAsync(p => p.Account == account, cancel);
            if (isLast) await recovery.EndAsync(db, account, cancel);
            return new(
                "account.passkey-removed",
                $"{account} took their passkey {row.Name} away" + (isLast ? ", the last one" : ""),
                new() { ["passkey"] = passkey });
        }, cancel);
        return isGone;
    }

    /// <summary>Takes all of an account away, which lost them, and signs it out everywhere. False: it has none.</summary>
    public async Task<bool> ForgetAsync(YardDb db, AccountRow account, CancellationToken cancel)
    {
        var all = await db.Passkeys.AsNoTracking().Where(p => p.Account == account.Name).Select(p => p.Id).ToListAsync(cancel);
        if (all.Count == 0) return false;
        await ledger.EnterAsync(db, async () =>
        {
            ended.Add(EndedKind.Passkey, [.. all.Select(p => (p, DateTimeOffset.MaxValue))]);
            await db.Passkeys.Where(p => p.Account == account.Name).ExecuteDeleteAsync(cancel);
            await recovery.EndAsync(db, account.Name, cancel);
            await Sessions.EndAllAsync(db, ended, account.Name, null, cancel);
            return new(
                "account.passkeys-forgotten",
                $"{(all.Count == 1 ? "A passkey" : $"{all.Count} passkeys")} of {AccountDesk.NameOf(account)} taken away, with their "
                    + "codes; signed out everywhere");
        }, cancel);
        return true;
    }

    /// <summary>Gives an account new recovery codes.</summary>
    public async Task<IReadOnlyList<string>> RenewAsync(YardDb db, string account, CancellationToken cancel)
    {
        IReadOnlyList<string> codes = [];
        await ledger.EnterAsync(db, async () =>
        {
            codes = await recovery.RenewAsync(db, account, cancel);
            return new("account.recovery-renewed", $"{account} made new recovery codes");
        }, cancel);
        return codes;
    }

    /// <summary>Strengthens a session by what was shown in it.</summary>
    public Task StrengthenAsync(YardDb db, SecondProof proof, string session, CancellationToken cancel) =>
        ledger.EnterAsync(db, async () =>
        {
            await MarkAsync(db, session, cancel);
            var by = AccountDesk.DoerOf(proof.Account);
            return new("account.second-shown", $"{by.Shown} went on {proof.How}", new() { ["session"] = Sessions.IdOf(session) }, by);
        }, cancel);

    private static Task<int> MarkAsync(YardDb db, string session, CancellationToken cancel) =>
        db.Tokens.Where(t => t.Sha256 == session).ExecuteUpdateAsync(u => u.SetProperty(t => t.IsSecond, true), cancel);
}
