using YardRelay.Service.Accounts;

namespace YardRelay.Service.CarryLists;

/// <summary>Rules of a refresh's own by which surveys know places; they come before those that ship with the product.</summary>
internal static class PlaceRuleEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/place-rules", PlaceRuleHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetPlaceRules")
            .WithSummary("The refresh's own rules for places, and those that ship, as YAML.");
        routes.MapPut("/refreshes/{refresh}/place-rules", PlaceRuleHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutPlaceRules")
            .WithSummary(
                "Sets them, or with an empty text takes them out; everything that is wrong is said at once. Later surveys go by them.");
    }
}
