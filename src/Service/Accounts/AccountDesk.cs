using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Accounts;

/// <summary>Accounts made and changed.</summary>
internal sealed class AccountDesk(Passwords passwords, Ended ended)
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
    public async Task PutAsync(YardDb db, string name, AccountWanted wanted, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (account is null)
        {
            ended.Add(EndedKind.AccountAgain, [(name, DateTimeOffset.MaxValue)]);
            db.Accounts.Add(account = new() { Name = name, Shown = wanted.Shown, Role = wanted.Role, Password = "", Sites = [] });
        }

        (account.Shown, account.Role, account.Sites, account.Person) = (wanted.Shown, wanted.Role, [.. wanted.Sites], wanted.Person);
        if (wanted.Refreshes is { } reached) account.Refreshes = [.. reached];
        // Role and sites count from the next request on. Whoever came in by another password is out.
        if (wanted.Password is not { } password || (account.Password.Length > 0 && passwords.IsRight(account, password)))
        {
            await db.SaveChangesAsync(cancel);
            return;
        }
        passwords.Keep(account, password);
        await Sessions.KeepAndEndAllAsync(db, ended, name, null, cancel);
    }
}
