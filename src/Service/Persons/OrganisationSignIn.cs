using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.OpenIdConnect;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>The organisation's identity provider, where people sign in to their own page.</summary>
/// <param name="Authority">Its address, such as <c>https://login.kestrelbay.example</c>.</param>
/// <param name="Client">Name under which the service is known there.</param>
internal sealed record OrganisationOptions(string Authority, string Client, string? Secret)
{
    /// <summary>Reads <c>organisation</c>, <c>organisation-client</c> and <c>organisation-secret</c>; null: there is none.</summary>
    /// <exception cref="BadSettingException">It is no address that names and tokens may go to.</exception>
    public static OrganisationOptions? Read(Settings settings)
    {
        if (settings["organisation"] is not { } text) return null;
        // Over a network names and tokens go in cipher only.
        if (!Uri.TryCreate(text, UriKind.Absolute, out var uri) || !(uri.Scheme == "https" || (uri.Scheme == "http" && uri.IsLoopback)))
            throw new BadSettingException($"'{text}' is no identity provider. 'organisation' takes its https:// address.");
        return new(text.TrimEnd('/'), settings["organisation-client"] ?? "yard-relay", settings["organisation-secret"]);
    }
}

/// <summary>
/// Signs people in to their own page by their organisation (OpenID Connect, code flow with PKCE): whoever has the mail address that the
/// roster names. What they get is a personal link that is opened already,
/// so that it expires, is listed and can be withdrawn like any other.
/// </summary>
internal static class OrganisationSignIn
{
    public const string Scheme = "organisation";
    public const string Path = "/organisation/sign-in";
    private const string Nobody = "/my?nobody";

    public static void Add(AuthenticationBuilder authentication, OrganisationOptions organisation) =>
        authentication.AddOpenIdConnect(Scheme, o =>
    {
        (o.Authority, o.ClientId, o.ClientSecret) = (organisation.Authority, organisation.Client, organisation.Secret);
        o.RequireHttpsMetadata = organisation.Authority.StartsWith("https", StringComparison.Ordinal);
        (o.ResponseType, o.ResponseMode, o.UsePkce) = ("code", "query", true);
        o.CallbackPath = "/organisation/signed-in";
        o.SignInScheme = PersonLinks.Scheme;
        o.MapInboundClaims = false;
        o.Scope.Clear();
        o.Scope.Add("openid");
        o.Scope.Add("email");
        foreach (var cookie in new[] { o.CorrelationCookie, o.NonceCookie })
            (cookie.SameSite, cookie.SecurePolicy) = (SameSiteMode.Lax, CookieSecurePolicy.SameAsRequest);
        o.Events.OnTokenValidated = ValidatedAsync;
        o.Events.OnRemoteFailure = failed =>
        {
            failed.HttpContext.RequestServices.GetRequiredService<ILoggerFactory>()
                .CreateLogger(typeof(OrganisationSignIn))
                .LogWarning("Somebody could not be signed in by {Organisation}: {Why}", organisation.Authority, failed.Failure?.Message);
            return AwayAsync(failed);
        };
    });

    private static Task AwayAsync<T>(HandleRequestContext<T> context)
        where T : AuthenticationSchemeOptions
    {
        context.HandleResponse();
        context.Response.Redirect(Nobody);
        return Task.CompletedTask;
    }

    private static async Task ValidatedAsync(TokenValidatedContext context)
    {
        var (services, cancel) = (context.HttpContext.RequestServices, context.HttpContext.RequestAborted);
        var (db, now) = (services.GetRequiredService<YardDb>(), services.GetRequiredService<TimeProvider>().GetUtcNow());
        var mail = context.Principal?.FindFirstValue("email")?.Trim().ToLowerInvariant();
        // An address that the organisation does not say it verified could be anybody's.
        if (context.Principal?.FindFirstValue("email_verified") is not "true") mail = null;
#pragma warning disable CA1862 // The database compares; it knows no other way to leave case aside.
        var swap = mail is null
            ? null
            : await db.Swaps.AsNoTracking()
                .Where(s => s.PurgedAt == null
                    && db.People.Any(p => p.Refresh == s.Refresh && p.Key == s.Person && p.Mail != null && p.Mail.ToLower() == mail))
                .OrderBy(s => s.CalledOffAt == null ? 0 : 1)
                .ThenByDescending(s => s.Id)
                .FirstOrDefaultAsync(cancel);
#pragma warning restore CA1862
        if (swap is null)
        {
            await PersonLinks.CountAsync(db, "organisation", now, cancel);
            await AwayAsync(context);
            return;
        }
        var link = await services.GetRequiredService<Writer>().WriteAsync<LinkRow>(swap.Refresh, w =>
        {
            var (_, made) = PersonLinks.Make(swap, PersonLinks.ByOrganisation, "their organisation", w.Now);
            (made.OpenedAt, made.SeenAt) = (w.Now, w.Now);
            w.Db.Links.Add(made);
            w.Note("person.page-opened", swap.Id, $"{swap.Name} opened their own page, signed in by their organisation");
            return Task.FromResult<Core.Result<LinkRow>>(made);
        }, cancel, swap.Name);
        context.Principal = PersonLinks.UserOf(link.Value, swap);
        context.Properties!.IsPersistent = true;
        context.Properties.ExpiresUtc = link.Value.Expires;
        context.Properties.RedirectUri = "/my";
    }
}
