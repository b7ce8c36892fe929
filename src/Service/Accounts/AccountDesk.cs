using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>Accounts made and changed.</summary>
internal sealed class AccountDesk(Passwords passwords, Ended ended, ServiceLedger ledger)
{
    /// <summary>
    /// People's own accounts of an earlier version named a key only: they get the refresh that has it, and open nothing where several have.
    /// </summary>
    public static async Task BindPeopleAsync(YardDb db, CancellationToken cancel)
    {
        foreach (var account in (await db.Accounts.Where(a => a.Person != null).ToListAsync(cancel)).Where(a => a.Refreshes.Count == 0))
        {
            var known = db.People.Where(p => p.Key == account.Person).Select(p => p.Refresh);
            var of = await known.OrderBy(r => r).Take(2).ToListAsync(cancel);
            if (of.Count == 1) account.Refreshes = of;
        }
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Makes or changes an account; whoever makes one says its password.</summary>
    /// <param name="by">Who does it; null: whoever is signed in.</param>
    public Task PutAsync(YardDb db, string name, AccountWanted wanted, CancellationToken cancel, Doer? by = null) =>
        ledger.EnterAsync(db, () => PutAsync(db, name, wanted, by, cancel), cancel);

    private async Task<ServiceNote?> PutAsync(YardDb db, string name, AccountWanted wanted, Doer? by, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        var isNew = account is null;
        if (account is null)
        {
            ended.Add(EndedKind.AccountAgain, [(name, DateTimeOffset.MaxValue)]);
            db.Accounts.Add(account = new() { Name = name, Shown = wanted.Shown, Role = wanted.Role, Password = "", Sites = [] });
        }

        (account.Shown, account.Role, account.Sites, account.Person) = (wanted.Shown, wanted.Role, [.. wanted.Sites], wanted.Person);
        if (wanted.Refreshes is { } reached) account.Refreshes = [.. reached];
        // Role and sites count from the next request on. Whoever came in by another password is out.
        var isOther = wanted.Password is { } password && !(account.Password.Length > 0 && passwords.IsRight(account, password));
        if (isOther)
        {
            passwords.Keep(account, wanted.Password!);
            await Sessions.KeepAndEndAllAsync(db, ended, name, null, cancel);
        }
        else await db.SaveChangesAsync(cancel);
        return new(
            isNew ? "account.made" : "account.changed",
            $"{NameOf(account)} {(isNew ? "is made" : "is changed")}: {WordsOf(account)}"
                + (isOther && !isNew ? "; another password, signed out everywhere" : ""),
            new() { ["role"] = account.Role, ["password"] = isOther },
            by);
    }

    /// <summary>Gives an account another password, and ends its other sessions.</summary>
    /// <param name="session">Digest of the one that stays.</param>
    public Task ChangePasswordAsync(YardDb db, AccountRow account, string password, string session, CancellationToken cancel) =>
        ledger.EnterAsync(db, async () =>
        {
            passwords.Keep(account, password);
            await Sessions.KeepAndEndAllAsync(db, ended, account.Name, session, cancel);
            var by = DoerOf(account);
            return new("account.password", $"{by.Shown} changed their password; signed out everywhere else", By: by);
        }, cancel);

    /// <summary>Shuts an account, or lets it in again.</summary>
    public Task ShutAsync(YardDb db, AccountRow account, bool isShut, DateTimeOffset now, CancellationToken cancel) =>
        ledger.EnterAsync(db, async () =>
        {
            ended.Add(isShut ? EndedKind.Account : EndedKind.AccountAgain, [(account.Name, DateTimeOffset.MaxValue)]);
            account.DisabledAt = isShut ? account.DisabledAt ?? now : null;
            if (isShut) await Sessions.KeepAndEndAllAsync(db, ended, account.Name, null, cancel);
            else await db.SaveChangesAsync(cancel);
            return isShut
                ? new("account.disabled", $"{NameOf(account)} is disabled")
                : new("account.let-in", $"{NameOf(account)} is let in again");
        }, cancel);

    /// <summary>
    /// An account as the service's ledger tells of it. People may want all erased that tells who they are: of them it tells nothing to
    /// erase.
    /// </summary>
    public static string NameOf(AccountRow account) =>
        account.Role == Roles.Person ? "The account of a person" : $"{account.Name} ({account.Shown})";

    /// <summary>Whoever acts by an account, as the service's ledger tells of them.</summary>
    public static Doer DoerOf(AccountRow account) =>
        account.Role == Roles.Person ? new("a person", null) : new(account.Shown, account.Name);

    /// <summary>What an account may, in words.</summary>
    public static string WordsOf(AccountRow account) => WordsOf(account.Role, account.Sites, account.Refreshes);

    /// <summary>A role and how far it reaches, in words.</summary>
    public static string WordsOf(string role, IReadOnlyCollection<string> sites, IReadOnlyCollection<string> refreshes) =>
        role
            + (sites.Count == 0 ? "" : $" at {string.Join(", ", sites)}")
            + (refreshes.Count == 0 ? "" : $" of {string.Join(", ", refreshes)}");
}
