using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;
using YardRelay.Contracts;
using YardRelay.Core.Ids;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Clocks;

/// <summary>
/// Times in answers are those of the refresh that the request is about, with their offset, and a header names the zone. A request that
/// names no refresh has the zone that all refreshes of the caller share. What hands and persons are told is in UTC: they have the zone
/// where they need it.
/// </summary>
internal sealed class AnswerTimes(IHttpContextAccessor http) : IConfigureOptions<JsonOptions>
{
    private static readonly string[] Readers = Roles.Policies[Roles.Reads];
    private static readonly string[] Inner = ["snag", "followUp"];

    private sealed record Zoned(TimeZoneInfo Zone);

    /// <summary>Finds the zone of what a request is about, before it is answered.</summary>
    public static async Task SayZoneAsync(HttpContext context, RequestDelegate next)
    {
        if (Readers.Contains(context.User.RoleOf()) && await ZoneOfAsync(context) is { } zone)
        {
            context.Features.Set(new Zoned(zone));
            context.Response.Headers[AnswerZone.Header] = zone.Id;
        }
        await next(context);
    }

    private static async Task<TimeZoneInfo?> ZoneOfAsync(HttpContext context)
    {
        var (zones, cancel) = (context.RequestServices.GetRequiredService<RefreshZones>(), context.RequestAborted);
        if (context.GetRouteValue("refresh") is string refresh) return await zones.OfAsync(refresh, cancel);
        if (context.GetRouteValue("swap") is string swap)
            return SwapId.TryParse(swap, null, out var id) ? await zones.OfAsync(id.Refresh, cancel) : null;
        if (!Inner.Any(context.Request.RouteValues.ContainsKey)) return await zones.SharedAsync(context.User.RefreshesOf(), cancel);
        return context.Features.Get<Lazy<Task<Named?>>>() is { } named && (await named.Value)?.Refresh is { } its
            ? await zones.OfAsync(its, cancel)
            : null;
    }

    /// <inheritdoc/>
    public void Configure(JsonOptions options) =>
        options.SerializerOptions.TypeInfoResolver =
            (options.SerializerOptions.TypeInfoResolver ?? new DefaultJsonTypeInfoResolver()).WithAddedModifier(Turn);

    private void Turn(JsonTypeInfo shape)
    {
        foreach (var property in shape.Properties)
            if (property.Get is { } get && IsTime(property.PropertyType))
                property.Get = of => get(of) is DateTimeOffset at ? At(at) : null;
    }

    private static bool IsTime(Type type) => (Nullable.GetUnderlyingType(type) ?? type) == typeof(DateTimeOffset);

    private object At(DateTimeOffset at) =>
        http.HttpContext?.Features.Get<Zoned>() is { } answer ? TimeZoneInfo.ConvertTime(at, answer.Zone) : at;
}
