using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Asks whoever is signed in who they are once more, before something that outlives their session.</summary>
internal sealed class OnceMore(PasswordCheck check, TimeProvider time)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromMinutes(10);

    /// <summary>The caller's account.</summary>
    /// <param name="password">Its password; null where the organisation vouches for them, who has done so a moment ago.</param>
    /// <returns>The account; what <see cref="PasswordCheck"/> says, or <see cref="PasskeyAnewProblem"/>.</returns>
    public async Task<Result<AccountRow>> AskAsync(YardDb db, ClaimsPrincipal user, string? password, CancellationToken cancel)
    {
        var (name, session) = (user.NameOf(), user.SessionOf());
        if (await db.Accounts.FirstOrDefaultAsync(a => a.Name == name && a.Subject != null, cancel) is not { } account)
            return await check.SignedInAsync(db, name, password ?? "", session, cancel);
        var since = time.GetUtcNow() - Fresh;
        return await db.Tokens.AnyAsync(t => t.Sha256 == session && t.MadeAt > since, cancel) ? account : new PasskeyAnewProblem();
    }
}
