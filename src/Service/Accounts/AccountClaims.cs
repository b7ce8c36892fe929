using System.Security.Claims;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>An account as claims, and back as people see it.</summary>
internal static class AccountClaims
{
    private const string Second = "second";
    private const string Organisation = "organisation";

    /// <param name="session">The session that asks.</param>
    public static IEnumerable<Claim> Of(AccountRow account, TokenRow session) =>
        [
            new(Sessions.Claim, session.Sha256),
            .. session.IsSecond ? new Claim[] { new(Second, "yes") } : [],
            .. account.Subject is not null ? new Claim[] { new(Organisation, "yes") } : [],
            new(ClaimTypes.Name, account.Name),
            new(ClaimTypes.Role, account.Role),
            new("shown", account.Shown),
            .. account.Sites.Select(s => new Claim("site", s)),
            .. account.Refreshes.Select(r => new Claim(RefreshScope.Claim, r)),
            .. account.Person is { } person ? new Claim[] { new("person", person) } : []
        ];

    public static Me Of(ClaimsPrincipal user) =>
        new(user.NameOf(), user.ShownOf(), user.RoleOf(), user.SitesOf(), user.RefreshesOf(), user.IsSecond(),
            user.HasClaim(Organisation, "yes"));

    /// <summary>Whether the caller's session was begun with a passkey, or strengthened by one.</summary>
    public static bool IsSecond(this ClaimsPrincipal user) => user.HasClaim(Second, "yes");

    /// <summary>The digest of the caller's session.</summary>
    public static string SessionOf(this ClaimsPrincipal user) => user.FindFirstValue(Sessions.Claim) ?? "";
}
