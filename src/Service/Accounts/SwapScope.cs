using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>Whose swaps a caller may see and work on: a technician those at their own sites, the others all.</summary>
internal static class SwapScope
{
    private sealed record AtAnotherSite(string Swap, string Site) : ServiceProblem(
        "not-allowed", $"Swap {Swap} is at {Site}, which is not one of your sites. Ask the coordinator to hand it to you.", 403);

    /// <summary>Why what a route names is none of the caller's; null: it is, or is of no swap, or is not there.</summary>
    public static ServiceProblem? Against(ClaimsPrincipal user, Named? named) =>
        named is { Swap: { } swap, Site: { } site } && !user.MayWorkAt(site) ? new AtAnotherSite(swap, site) : null;

    /// <summary>
    /// Why the caller may not work on a swap that no route names: it is not there, or at none of their sites; null: they may.
    /// </summary>
    public static async Task<Problem?> AgainstAsync(YardDb db, string swap, ClaimsPrincipal user, CancellationToken cancel)
    {
        var site = await db.Swaps.AsNoTracking().Where(s => s.Id == swap).Select(s => s.Site).FirstOrDefaultAsync(cancel);
        return site is null
            ? ServiceProblem.NotFound("swap", swap)
            : Against(user, new("swap", swap, null, swap, site));
    }
}
