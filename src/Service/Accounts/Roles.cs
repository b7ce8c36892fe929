using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;

namespace YardRelay.Service.Accounts;

/// <summary>Who may call what. Every endpoint names one of these policies.</summary>
internal static class Roles
{
    public const string Coordinator = "coordinator";
    public const string Technician = "technician";
    public const string Auditor = "auditor";
    public const string Person = "person";
    public const string Hand = "hand";

    /// <summary>Coordinators only.</summary>
    public const string Leads = "leads";

    /// <summary>Coordinators, and technicians for the swaps of their sites.</summary>
    public const string Works = "works";

    /// <summary>Coordinators, technicians and auditors.</summary>
    public const string Reads = "reads";

    /// <summary>Coordinators and auditors: what is of a whole refresh, and not of the sites of one technician.</summary>
    public const string Oversees = "oversees";

    /// <summary>Hands only.</summary>
    public const string Hands = "hands";

    /// <summary>The person whom a swap is for, on their own page.</summary>
    public const string Owns = "owns";

    /// <summary>Everybody who is signed in by an account of their own.</summary>
    public const string Signed = "signed";

    /// <summary>Everybody who is signed in.</summary>
    public const string Anyone = "anyone";

    public static readonly IReadOnlyDictionary<string, string[]> Policies = new Dictionary<string, string[]>
    {
        [Leads] = [Coordinator],
        [Works] = [Coordinator, Technician],
        [Reads] = [Coordinator, Technician, Auditor],
        [Oversees] = [Coordinator, Auditor],
        [Hands] = [Hand],
        [Owns] = [Person],
        [Signed] = [Coordinator, Technician, Auditor, Person],
        [Anyone] = [Coordinator, Technician, Auditor, Person, Hand],
    };

    public static void Add(AuthorizationOptions options)
    {
        foreach (var (name, roles) in Policies) options.AddPolicy(name, policy => policy.RequireAuthenticatedUser().RequireRole(roles));
        // An endpoint that forgot to say who may call it is closed, not open.
        options.FallbackPolicy = new AuthorizationPolicyBuilder().RequireAuthenticatedUser().RequireRole("nobody").Build();
    }

    public static string NameOf(this ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.Name) ?? "";

    public static string ShownOf(this ClaimsPrincipal user) => user.FindFirstValue("shown") ?? user.NameOf();

    public static string RoleOf(this ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.Role) ?? "";

    public static IReadOnlyList<string> SitesOf(this ClaimsPrincipal user) => [.. user.FindAll("site").Select(c => c.Value)];

    /// <summary>Whether the caller may work on a swap at that site.</summary>
    public static bool MayWorkAt(this ClaimsPrincipal user, string site) => user.RoleOf() != Technician || user.SitesOf().Contains(site);
}
