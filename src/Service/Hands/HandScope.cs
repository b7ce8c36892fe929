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
    /// <summary>Those at computers of some swaps of their refresh.</summary>
    public static IQueryable<HandRow> Of(IQueryable<HandRow> hands, IQueryable<SwapRow> swaps) =>
        hands.Where(h => swaps.Any(s => s.OldTag == h.Tag || s.NewTag == h.Tag || s.ReceiverTag == h.Tag));

    /// <summary>Why the caller may not deal with the hand of a computer: no swap has it, or none at their sites; null: they may.</summary>
    public static async Task<Problem?> AgainstAsync(
        YardDb db, string refresh, string tag, ClaimsPrincipal user, CancellationToken cancel)
    {
        var sites = await db.Swaps
            .Where(s => s.Refresh == refresh && (s.OldTag == tag || s.NewTag == tag || s.ReceiverTag == tag))
            .Select(s => s.Site)
            .ToListAsync(cancel);
        if (sites.Count == 0) return ServiceProblem.NotFound("computer", tag);
        return sites.Any(user.MayWorkAt) ? null : new HandAtAnotherSite(tag);
    }
}
