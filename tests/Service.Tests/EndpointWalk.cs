using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace YardRelay.Service.Tests;

/// <summary>A way to call an endpoint of the API.</summary>
/// <param name="Name">Of the endpoint.</param>
/// <param name="Route">Its route, names in braces.</param>
/// <param name="Policies">The policies that it names.</param>
/// <param name="IsOpen">It lets everybody in.</param>
/// <param name="Path">The route with ids in it.</param>
internal sealed record EndpointCall(
    string Name, string Route, IReadOnlyList<string> Policies, bool IsOpen, HttpMethod Method, string Path)
{
    /// <summary>Calls it with nothing in what it takes.</summary>
    public async Task<HttpResponseMessage> AskAsync(HttpClient caller)
    {
        using var request = new HttpRequestMessage(Method, Path);
        if (Method != HttpMethod.Get) request.Content = JsonContent.Create(new { });
        return await caller.SendAsync(request);
    }
}

/// <summary>Every endpoint of the API, so that a test that walks them forgets none that comes later.</summary>
internal static partial class EndpointWalk
{
    [GeneratedRegex(@"\{(\w+)(:\w+)?\}")]
    private static partial Regex Parts();

    /// <summary>All ways to call them.</summary>
    /// <param name="service">Whose endpoints they are.</param>
    /// <param name="idOf">The id for a part of a route.</param>
    public static IEnumerable<EndpointCall> Of(RunningService service, Func<string, string> idOf) =>
        from endpoint in service.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
        let route = endpoint.RoutePattern.RawText!
        let name = endpoint.Metadata.GetMetadata<IEndpointNameMetadata>()?.EndpointName
        where route.StartsWith("/api/", StringComparison.Ordinal) && name is not null
        from method in endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods
        select new EndpointCall(
            name,
            route,
            [.. endpoint.Metadata.GetOrderedMetadata<IAuthorizeData>().Select(a => a.Policy ?? "")],
            endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null,
            new(method),
            Parts().Replace(route, m => idOf(m.Groups[1].Value)));
}
