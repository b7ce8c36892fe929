using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Persons;

/// <summary>Whose page it is.</summary>
internal static class PersonScope
{
    public static readonly ServiceProblem NoSwap = new PersonNoSwapProblem();

    /// <summary>
    /// The swap of the link that was opened; of somebody who signed in with an account, the newest that is not called off.
    /// </summary>
    public static async Task<SwapRow?> SwapAsync(YardDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        if (user.FindFirstValue("swap") is { } swap) return await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == swap, cancel);
        var own = user.RefreshesOf();
        return user.FindFirstValue("person") is { Length: > 0 } person
            ? await db.Swaps.AsNoTracking()
                .Where(s => s.Person == person && own.Contains(s.Refresh))
                .OrderBy(s => s.CalledOffAt == null ? 0 : 1)
                .ThenByDescending(s => s.Id)
                .FirstOrDefaultAsync(cancel)
            : null;
    }
}
