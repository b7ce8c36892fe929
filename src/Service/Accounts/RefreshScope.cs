using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>Accounts that reach every refresh, or those that they name. What is of another refresh is not there.</summary>
internal static class RefreshScope
{
    /// <summary>The claim that names a refresh which an account reaches; none: it reaches all.</summary>
    public const string Claim = "reaches";

    private sealed record OfTheWholeService() : ServiceProblem(
        "not-allowed", "This is of the whole service, and your account is for single refreshes. A coordinator of all of them can.", 403);

    /// <summary>Why a caller for single refreshes does not reach what a route names; null: they do, or it is not there.</summary>
    public static ServiceProblem? Against(ClaimsPrincipal user, Named? named, Endpoint? endpoint)
    {
        if (user.RefreshesOf().Count == 0) return null;
        if (named is null)
            return endpoint?.Metadata.GetOrderedMetadata<IAuthorizeData>().Any(a => a.Policy is Roles.Leads or Roles.Oversees) == true
                ? new OfTheWholeService()
                : null;
        return named.Refresh is null || user.Reaches(named.Refresh) ? null : ServiceProblem.NotFound(named.What, named.Id);
    }

    /// <summary>The refreshes that the caller reaches; none: all.</summary>
    public static IReadOnlyList<string> RefreshesOf(this ClaimsPrincipal user) => [.. user.FindAll(Claim).Select(c => c.Value)];

    /// <summary>Whether the caller reaches a refresh.</summary>
    public static bool Reaches(this ClaimsPrincipal user, string refresh) =>
        user.RefreshesOf() is var all && (all.Count == 0 || all.Contains(refresh));
}
