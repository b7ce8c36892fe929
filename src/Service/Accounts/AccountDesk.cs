using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Accounts made and changed.</summary>
internal static class AccountDesk
{
    /// <summary>Makes or changes an account.</summary>
    public static async Task PutAsync(YardDb db, Passwords passwords, string name, AccountWanted wanted, CancellationToken cancel)
    {
        var account = await db.Accounts.FirstOrDefaultAsync(a => a.Name == name, cancel);
        if (account is null)
            db.Accounts.Add(account = new() { Name = name, Shown = wanted.Shown, Role = wanted.Role, Password = "", Sites = [] });
        (account.Shown, account.Role, account.Sites, account.Person) = (wanted.Shown, wanted.Role, [.. wanted.Sites], wanted.Person);
        // Role and sites count from the next request on. Whoever came in by another password is out.
        var isSame = account.Password.Length > 0 && passwords.IsRight(account, wanted.Password);
        if (isSame)
        {
            await db.SaveChangesAsync(cancel);
            return;
        }
        passwords.Keep(account, wanted.Password);
        await Sessions.KeepAndEndAllAsync(db, name, null, cancel);
    }
}
