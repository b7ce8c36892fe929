using YardRelay.Service.Accounts;

namespace YardRelay.Service.Damages;

/// <summary>A depot that was damaged.</summary>
internal static class DamageEndpoints
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPost("/refreshes/{refresh}/depots/{key}/damages", DamageHandlers.TellAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("TellDamage")
            .WithSummary("What lies in a depot may be damaged: none of it counts as verified any more; says whose only copy it may be.");
}
