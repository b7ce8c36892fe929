using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.HttpsPolicy;

namespace YardRelay.Service.Browsers;

/// <summary>The way that requests come: past which proxies, and in cipher.</summary>
internal static class Ways
{
    private static readonly TimeSpan OnlyInCipherFor = TimeSpan.FromDays(180);

    /// <summary>Sets up what <see cref="Use"/> does.</summary>
    public static void Add(IServiceCollection services, ServiceOptions options)
    {
        services.Configure<HstsOptions>(o => o.MaxAge = OnlyInCipherFor);
        if (HttpsPort(options) is { } port) services.AddHttpsRedirection(o => o.HttpsPort = port);
        services.Configure<ForwardedHeadersOptions>(o =>
        {
            o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
            // As many as stand one behind the other, but none that is not named: not even on this computer.
            o.ForwardLimit = null;
            o.KnownProxies.Clear();
            o.KnownIPNetworks.Clear();
            foreach (var proxy in options.Proxies) o.KnownIPNetworks.Add(proxy);
        });
    }

    /// <summary>
    /// What proxies say counts where they are named in the settings. Browsers are led to https where it is served, and told to come by it
    /// alone. Programs go on as they are enrolled: on a way to elsewhere they would drop their token.
    /// </summary>
    /// <param name="ofPrograms">Where only programs come.</param>
    public static void Use(WebApplication app, ServiceOptions options, params PathString[] ofPrograms)
    {
        if (options.Proxies.Count > 0) app.UseForwardedHeaders();
        app.UseHsts();
        if (HttpsPort(options) is not null) app.UseWhen(IsABrowsers, browsers => browsers.UseHttpsRedirection());

        bool IsABrowsers(HttpContext context) =>
            context.Request.Headers.Authorization.Count == 0 && !ofPrograms.Any(p => context.Request.Path.StartsWithSegments(p));
    }

    /// <summary>Where browsers are led to; null: the service serves no https itself, and whoever does for it leads them.</summary>
    private static int? HttpsPort(ServiceOptions options) => options.Urls.Split(';')
        .Select(BindingAddress.Parse)
        .FirstOrDefault(a => a.Scheme == Uri.UriSchemeHttps)?.Port;
}
