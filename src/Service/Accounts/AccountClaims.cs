using System.Security.Claims;
using YardRelay.Contracts;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>An account as claims, and back as people see it.</summary>
internal static class AccountClaims
{
    /// <param name="session">Digest of the session that asks.</param>
    public static IEnumerable<Claim> Of(AccountRow account, string session) =>
        [
            new(Sessions.Claim, session),
            new(ClaimTypes.Name, account.Name),
            new(ClaimTypes.Role, account.Role),
            new("shown", account.Shown),
            .. account.Sites.Select(s => new Claim("site", s)),
            .. account.Refreshes.Select(r => new Claim(RefreshScope.Claim, r)),
            .. account.Person is { } person ? new Claim[] { new("person", person) } : []
        ];

    public static Me Of(ClaimsPrincipal user) => new(user.NameOf(), user.ShownOf(), user.RoleOf(), user.SitesOf(), user.RefreshesOf());
}
