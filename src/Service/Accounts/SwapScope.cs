using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>Whose swaps a caller may work on: a technician those at their own sites, a coordinator all.</summary>
internal static class SwapScope
{
    private sealed record AtAnotherSite(string Swap, string Site) : ServiceProblem(
        "not-allowed", $"Swap {Swap} is at {Site}, which is not one of your sites. Ask the coordinator to hand it to you.", 403);

    /// <summary>Why the caller may not work on a swap: it is not there, or at none of their sites; null: they may.</summary>
    public static async Task<Problem?> AgainstAsync(YardDb db, string swap, ClaimsPrincipal user, CancellationToken cancel)
    {
        var site = await db.Swaps.AsNoTracking().Where(s => s.Id == swap).Select(s => s.Site).FirstOrDefaultAsync(cancel);
        if (site is null) return ServiceProblem.NotFound("swap", swap);
        return user.MayWorkAt(site) ? null : new AtAnotherSite(swap, site);
    }

    /// <summary>Lets only those in who may work on the swap that the route names, before anything else is looked at.</summary>
    public static RouteHandlerBuilder OfOwnSites(this RouteHandlerBuilder route) => route.AddEndpointFilter(async (context, next) =>
    {
        var http = context.HttpContext;
        return http.GetRouteValue("swap") is string swap
            && await AgainstAsync(http.RequestServices.GetRequiredService<YardDb>(), swap, http.User, http.RequestAborted) is { } problem
            ? problem.ToHttp()
            : await next(context);
    });
}
