using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Hands;

/// <summary>At which computers a caller deals with hands: a technician where a swap at one of their sites has it.</summary>
internal static class HandScope
{
    /// <summary>The swaps for which a computer is.</summary>
    public static IQueryable<SwapRow> SwapsOf(YardDb db, string refresh, string tag) =>
        db.Swaps.AsNoTracking().Where(s => s.Refresh == refresh && (s.OldTag == tag || s.NewTag == tag || s.ReceiverTag == tag));

    /// <summary>Why the caller may not deal with the hand of a computer: no swap has it, or none at their sites; null: they may.</summary>
    public static async Task<Problem?> AgainstAsync(
        YardDb db, string refresh, string tag, ClaimsPrincipal user, CancellationToken cancel)
    {
        var sites = await SwapsOf(db, refresh, tag).Select(s => s.Site).ToListAsync(cancel);
        if (sites.Count == 0) return ServiceProblem.NotFound("computer", tag);
        return sites.Any(user.MayWorkAt) ? null : new HandAtAnotherSite(tag);
    }
}
