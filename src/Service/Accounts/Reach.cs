using Microsoft.AspNetCore.Authorization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>What the route of a request names, and where that is.</summary>
/// <param name="What">refresh, swap, snag or follow-up.</param>
/// <param name="Refresh">The refresh that it is of; null: there is no such thing, which the endpoint says.</param>
/// <param name="Swap">The swap that it is, or is of; null: it is of none.</param>
/// <param name="Site">The site of that swap; null: it has none.</param>
internal sealed record Named(string What, string Id, string? Refresh, string? Swap = null, string? Site = null);

/// <summary>
/// How far accounts reach, asked of each request before anything of it is read: <see cref="SecondAsked"/>, <see cref="RefreshScope"/> and
/// <see cref="SwapScope"/>. And what a technician reads has only what their sites need.
/// </summary>
internal static class Reach
{
    /// <summary>Lets a request through whose account reaches what it names.</summary>
    public static async Task AskAsync(HttpContext context, RequestDelegate next)
    {
        var user = context.User;
        var named = new Lazy<Task<Named?>>(() => NamedAsync(context));
        context.Features.Set(named);
        if (await context.RequestServices.GetRequiredService<SecondAsked>().AgainstAsync(user, named, context.RequestAborted) is { } second)
        {
            await second.ToHttp().ExecuteAsync(context);
            return;
        }
        var isOfSites = user.RoleOf() == Roles.Technician;
        if (isOfSites || user.RefreshesOf().Count > 0)
        {
            var it = await named.Value;
            if ((RefreshScope.Against(user, it, context.GetEndpoint()) ?? SwapScope.Against(user, it)) is { } problem)
            {
                await problem.ToHttp().ExecuteAsync(context);
                return;
            }
        }
        if (isOfSites && IsReading(context))
            context.RequestServices.GetRequiredService<YardDb>().SeeOnly(user.SitesOf());
        await next(context);
    }

    /// <summary>Whether a request reads only: by its method, or because all who read may ask it, such as for a preview.</summary>
    private static bool IsReading(HttpContext http) =>
        HttpMethods.IsGet(http.Request.Method)
        || HttpMethods.IsHead(http.Request.Method)
        || http.GetEndpoint()?.Metadata.GetOrderedMetadata<IAuthorizeData>().Any(a => a.Policy == Roles.Reads) == true;

    private static async Task<Named?> NamedAsync(HttpContext http)
    {
        if (Id("refresh") is { } refresh) return new("refresh", refresh, refresh);
        var (what, id) = (Id("swap"), Id("snag"), Id("followUp")) switch
        {
            ({ } swap, _, _) => ("swap", swap),
            (_, { } snag, _) => ("snag", snag),
            (_, _, { } followUp) => ("follow-up", followUp),
            _ => ("", ""),
        };
        if (id.Length == 0) return null;
        // On a context of its own: what the endpoint reads with is not used before it is said what may be seen.
        await using var db = await http.RequestServices.GetRequiredService<IDbContextFactory<YardDb>>().CreateDbContextAsync(
            http.RequestAborted);
        return await db.Swaps.AsNoTracking()
            .Where(s => what == "swap"
                ? s.Id == id
                : what == "snag"
                ? db.Snags.Any(n => n.Id == id && n.Swap == s.Id)
                : db.FollowUps.Any(f => f.Id == id && f.Swap == s.Id))
            .Select(s => new Named(what, id, s.Refresh, s.Id, s.Site))
            .FirstOrDefaultAsync(http.RequestAborted) ?? new(what, id, null);

        string? Id(string name) => http.GetRouteValue(name) as string;
    }
}
