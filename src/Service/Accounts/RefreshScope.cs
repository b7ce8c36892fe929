using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>
/// How far accounts reach: every refresh, or those that they name. Asked of each request before anything of it is read; what is of another
/// refresh is not there.
/// </summary>
internal static class RefreshScope
{
    /// <summary>The claim that names a refresh which an account reaches; none: it reaches all.</summary>
    public const string Claim = "reaches";

    private sealed record OfTheWholeService() : ServiceProblem(
        "not-allowed", "This is of the whole service, and your account is for single refreshes. A coordinator of all of them can.", 403);

    /// <summary>Lets a request through whose account reaches what it names.</summary>
    public static async Task AskAsync(HttpContext context, RequestDelegate next)
    {
        if (context.User.HasClaim(c => c.Type == Claim) && await AgainstAsync(context) is { } problem)
            await problem.ToHttp().ExecuteAsync(context);
        else await next(context);
    }

    private static async Task<ServiceProblem?> AgainstAsync(HttpContext http)
    {
        if (await NamedAsync(http) is not { } named)
            return http.GetEndpoint()?.Metadata.GetOrderedMetadata<IAuthorizeData>().Any(a => a.Policy == Roles.Leads) == true
                ? new OfTheWholeService()
                : null;
        return named.Refresh is null || http.User.Reaches(named.Refresh) ? null : ServiceProblem.NotFound(named.What, named.Id);
    }

    /// <summary>What the route names, and of which refresh it is: null where there is no such thing, which the endpoint says.</summary>
    private static async Task<(string What, string Id, string? Refresh)?> NamedAsync(HttpContext http)
    {
        var (db, cancel) = (http.RequestServices.GetRequiredService<YardDb>(), http.RequestAborted);
        if (Id("refresh") is { } refresh) return ("refresh", refresh, refresh);
        if (Id("swap") is { } swap) return ("swap", swap, await OfAsync(db.Swaps.Where(s => s.Id == swap).Select(s => s.Refresh)));
        if (Id("snag") is { } snag) return ("snag", snag, await OfAsync(db.Snags.Where(s => s.Id == snag).Select(s => s.Refresh)));
        if (Id("followUp") is { } id) return ("follow-up", id, await OfAsync(db.FollowUps.Where(f => f.Id == id).Select(f => f.Refresh)));
        return null;

        string? Id(string name) => http.GetRouteValue(name) as string;
        Task<string?> OfAsync(IQueryable<string> refreshes) => refreshes.FirstOrDefaultAsync(cancel);
    }
}

/// <summary>What <see cref="RefreshScope"/> asks of a caller.</summary>
internal static class RefreshClaims
{
    /// <summary>The refreshes that the caller reaches; none: all.</summary>
    public static IReadOnlyList<string> RefreshesOf(this ClaimsPrincipal user) =>
        [.. user.FindAll(RefreshScope.Claim).Select(c => c.Value)];

    /// <summary>Whether the caller reaches a refresh.</summary>
    public static bool Reaches(this ClaimsPrincipal user, string refresh) =>
        user.RefreshesOf() is var all && (all.Count == 0 || all.Contains(refresh));
}
