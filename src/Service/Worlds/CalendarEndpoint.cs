using Microsoft.OpenApi;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Worlds;

/// <summary>Reads holidays and black-outs out of an iCalendar file (RFC 5545), recurring ones too.</summary>
internal static class CalendarEndpoint
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPost("/refreshes/{refresh}/closures/calendar", CalendarHandler.HandleAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("TakeCalendar")
            .WithSummary(
                "Takes holidays from an iCalendar file (text/calendar); site=… for one site only. The same file again changes nothing.")
            .AddOpenApiOperationTransformer((operation, _, _) =>
        {
            operation.RequestBody = new OpenApiRequestBody
            {
                Required = true,
                Content = new Dictionary<string, OpenApiMediaType>
                {
                    ["text/calendar"] = new() { Schema = new OpenApiSchema { Type = JsonSchemaType.String } }
                }
            };
            return Task.CompletedTask;
        });
}
