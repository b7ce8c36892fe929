using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.OpenIdConnect;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>The organisation's identity provider, where people sign in to their own page, and staff to the console.</summary>
/// <param name="Authority">Its address, such as <c>https://login.kestrelbay.example</c>.</param>
/// <param name="Client">Name under which the service is known there.</param>
/// <param name="Name">What people call it.</param>
/// <param name="Groups">The claim of its tokens that names groups.</param>
internal sealed record OrganisationOptions(string Authority, string Client, string? Secret, string Name, string Groups)
{
    /// <summary>
    /// Reads <c>organisation</c>, <c>organisation-client</c>, <c>organisation-secret</c>, <c>organisation-name</c> and
    /// <c>organisation-groups</c>; null: there is none.
    /// </summary>
    /// <exception cref="BadSettingException">It is no address that names and tokens may go to.</exception>
    public static OrganisationOptions? Read(Settings settings)
    {
        if (settings["organisation"] is not { } text) return null;
        // Over a network names and tokens go in cipher only.
        if (!Uri.TryCreate(text, UriKind.Absolute, out var uri) || !(uri.Scheme == "https" || (uri.Scheme == "http" && uri.IsLoopback)))
            throw new BadSettingException($"'{text}' is no identity provider. 'organisation' takes its https:// address.");
        return new(
            text.TrimEnd('/'), settings["organisation-client"] ?? "yard-relay", settings["organisation-secret"],
            settings["organisation-name"] ?? "your organisation", settings["organisation-groups"] ?? "groups");
    }
}

/// <summary>
/// Signs people in by their organisation (OpenID Connect, code flow with PKCE). To their own page comes whoever has the mail address that
/// the roster names: what they get is a personal link that is opened already, so that it expires, is listed and can be withdrawn like any
/// other. To the console come staff: <see cref="StaffSignIn"/>.
/// </summary>
internal static class OrganisationSignIn
{
    public const string Scheme = "organisation";
    public const string Path = "/organisation/sign-in";
    private const string Nobody = "/my?nobody";
    private const string Failed = "/my?failed";

    // With the provider's own key, and with nothing that others could have.
    private static readonly string[] _signed =
        ["RS256", "RS384", "RS512", "PS256", "PS384", "PS512", "ES256", "ES384", "ES512"];

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
        o.Scope.Add("profile");
        o.TokenValidationParameters.ValidAlgorithms = _signed;
        foreach (var cookie in new[] { o.CorrelationCookie, o.NonceCookie })
            (cookie.SameSite, cookie.SecurePolicy) = (SameSiteMode.Lax, CookieSecurePolicy.SameAsRequest);
        o.Events.OnTokenValidated = context =>
        {
            // What comes straight from the provider the framework takes unsigned, too, as OpenID Connect Core 3.1.3.7 allows.
            if (_signed.Contains(context.SecurityToken.Header.Alg))
                return StaffSignIn.Is(context.Properties) ? Task.CompletedTask : ValidatedAsync(context);
            Log(context.HttpContext, organisation, "the token is not signed");
            return AwayAsync(context, RefusedAt(context.Properties));
        };
        o.Events.OnTicketReceived = async context =>
        {
            if (!StaffSignIn.Is(context.Properties)) return;
            context.HandleResponse();
            context.Response.Redirect(await StaffSignIn.FinishAsync(
                context.HttpContext, context.Principal!, context.ReturnUri, organisation.Groups));
        };
        o.Events.OnRemoteFailure = failed =>
        {
            Log(failed.HttpContext, organisation, failed.Failure?.Message);
            return AwayAsync(failed, RefusedAt(failed.Properties));
        };
    });

    /// <summary>The doors to it: of people's own page, and of the console.</summary>
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet(Path, (HttpContext context) => BeginAsync(context, new() { RedirectUri = "/my" }))
            .AllowAnonymous().ExcludeFromDescription();
        routes.MapGet(StaffSignIn.Path, (HttpContext context, string? to) => BeginAsync(context, StaffSignIn.Begin(to)))
            .AllowAnonymous().ExcludeFromDescription();
    }

    private static async Task BeginAsync(HttpContext context, AuthenticationProperties properties)
    {
        try
        {
            await context.ChallengeAsync(Scheme, properties);
        }
        catch (InvalidOperationException away) when (away.InnerException is IOException or HttpRequestException)
        {
            // The provider does not say where people sign in: it is asked anew the next time.
            Log(context, context.RequestServices.GetRequiredService<ServiceOptions>().Organisation!, away.InnerException.Message);
            context.Response.Redirect(RefusedAt(properties));
        }
    }

    private static string RefusedAt(AuthenticationProperties? properties) =>
        StaffSignIn.Is(properties) ? StaffSignIn.Refused("organisation", properties?.RedirectUri) : Failed;

    private static void Log(HttpContext context, OrganisationOptions organisation, string? why) =>
        context.RequestServices.GetRequiredService<ILoggerFactory>()
            .CreateLogger(typeof(OrganisationSignIn))
            .LogWarning("Somebody could not be signed in by {Organisation}: {Why}", organisation.Authority, why);

    private static Task AwayAsync<T>(HandleRequestContext<T> context, string to)
        where T : AuthenticationSchemeOptions
    {
        context.HandleResponse();
        context.Response.Redirect(to);
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
            await AwayAsync(context, Nobody);
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
