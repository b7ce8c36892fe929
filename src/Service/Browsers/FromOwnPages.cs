using Microsoft.AspNetCore.Authorization;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Browsers;

/// <summary>
/// What a browser sends along by itself, a cookie, changes something only where a page of this service asked for it; so do sign-ins,
/// which give one. The browser says where a request comes from (<c>Sec-Fetch-Site</c>, or before that <c>Origin</c>), whatever its
/// content is. Programs name their token in each request, which no page can make a browser do: they are not asked.
/// </summary>
internal static class FromOwnPages
{
    private sealed record FromElsewhere(string From) : ServiceProblem(
        "request.from-elsewhere",
        $"This request comes from {From}, and not from a page of this service. Nothing was changed. Open the service's own page and do it "
            + "there; a program signs in for a token.",
        403);

    private sealed record OpenToPrograms;

    /// <summary>Says of an endpoint that lets in without anything that programs come to it, who say nothing of pages.</summary>
    public static TBuilder AlsoForPrograms<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new OpenToPrograms());

    /// <summary>Refuses what a page from elsewhere had a browser send.</summary>
    /// <param name="address">Where people reach the service, behind a proxy perhaps; null: where the request says that it is.</param>
    public static Func<HttpContext, RequestDelegate, Task> Asked(string? address)
    {
        var named = Uri.TryCreate(address, UriKind.Absolute, out var uri) ? uri.GetLeftPart(UriPartial.Authority) : null;
        return (context, next) =>
            ElsewhereOf(context.Request, named) is { } from && !IsReading(context.Request)
                ? new FromElsewhere(from).ToHttp().ExecuteAsync(context)
                : next(context);
    }

    private static bool IsReading(HttpRequest request) =>
        HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method) || HttpMethods.IsOptions(request.Method);

    /// <summary>Where it comes from, for people; null: from here, or from a program.</summary>
    private static string? ElsewhereOf(HttpRequest request, string? named)
    {
        if (request.Headers.Authorization.Count > 0) return null;
        var (site, origin) = (request.Headers["Sec-Fetch-Site"].ToString(), request.Headers.Origin.ToString());
        if (site.Length > 0) return site == "same-origin" ? null : origin.Length > 0 ? origin : "another page";
        if (origin.Length > 0) return IsOwn(origin, request, named) ? null : origin;
        return NeedsAPage(request) ? "a program that does not say from which page" : null;
    }

    /// <summary>Whether a page at an origin is this service's own.</summary>
    /// <param name="address">Where people reach the service; null: where the request says that it is.</param>
    public static bool IsOwn(string origin, HttpRequest request, string? address) =>
        Same(origin, address) || Same(origin, $"{request.Scheme}://{request.Host}");

    private static bool Same(string origin, string? own) => string.Equals(origin, own, StringComparison.OrdinalIgnoreCase);

    /// <summary>With a cookie somebody is signed in; without, only what is open to everybody does anything.</summary>
    private static bool NeedsAPage(HttpRequest request)
    {
        if (request.Cookies.Count > 0) return true;
        var what = request.HttpContext.GetEndpoint()?.Metadata;
        return what?.GetMetadata<IAllowAnonymous>() is not null && what.GetMetadata<OpenToPrograms>() is null;
    }
}
