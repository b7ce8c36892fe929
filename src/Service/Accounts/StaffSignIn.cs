using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Signs staff in to the console by their organisation.</summary>
internal static class StaffSignIn
{
    /// <summary>Where a browser begins.</summary>
    public const string Path = "/organisation/staff";

    private const string For = "for";
    private const string Staff = "staff";

    /// <summary>What goes along to the provider and back, sealed.</summary>
    /// <param name="to">The page of the console that was asked for; null: the first one.</param>
    public static AuthenticationProperties Begin(string? to)
    {
        var isHere = to is { Length: > 1 and < 500 } && to[0] == '/' && to[1] is not ('/' or '\\') && !to.Any(char.IsControl);
        return new(new Dictionary<string, string?> { [For] = Staff }) { RedirectUri = isHere ? to : "/" };
    }

    /// <summary>Whether somebody comes back who began here.</summary>
    public static bool Is(AuthenticationProperties? properties) => properties?.Items.TryGetValue(For, out var who) == true && who == Staff;

    /// <summary>Where the sign-in page says why nobody was let in: at the page that was asked for.</summary>
    public static string Refused(string code, string? to) =>
        $"{to ?? "/"}{(to?.Contains('?') == true ? '&' : '?')}refused={Uri.EscapeDataString(code)}";

    /// <summary>Lets in whom the provider vouches for, or says on the sign-in page why not.</summary>
    /// <param name="to">The page that was asked for.</param>
    /// <param name="groups">The claim that names groups.</param>
    /// <returns>Where the browser goes on.</returns>
    public static async Task<string> FinishAsync(HttpContext context, ClaimsPrincipal token, string? to, string groups)
    {
        var (services, cancel) = (context.RequestServices, context.RequestAborted);
        if (Vouched.Of(token, groups) is not { } who) return Refused("organisation", to);
        var (db, desk) = (services.GetRequiredService<YardDb>(), services.GetRequiredService<SignInDesk>());
        if (!(await services.GetRequiredService<StaffDesk>().AccountOfAsync(db, who, cancel)).TryGet(out var account, out var problem))
        {
            services.GetRequiredService<RefusedSignIns>().Add(RefusedSignIns.ByOrganisation);
            return Refused(problem.Code, to);
        }
        Result<Contracts.Me> begun = await desk.BeginHereAsync(
            db, account, who.IsSecond, "by their organisation" + (who.IsSecond ? ", which saw a second factor" : ""), context, cancel);
        return begun.IsOk ? to ?? "/" : Refused(begun.Problem.Code, to);
    }
}
