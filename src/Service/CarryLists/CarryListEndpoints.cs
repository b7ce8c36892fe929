using YardRelay.Service.Accounts;

namespace YardRelay.Service.CarryLists;

/// <summary>What is on the old computer, and what of it comes along.</summary>
internal static class CarryListEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/swaps/{swap}/inventory", CarryListHandlers.InventoryAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetInventory")
            .WithSummary("What the last survey found: places, programs, what is in a cloud already. No file is named.");
        routes.MapGet("/swaps/{swap}/carry-list", CarryListHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetCarryList")
            .WithSummary("What comes along and what stays, with a review of the next trip.");
        routes.MapPut("/swaps/{swap}/carry-list", CarryListHandlers.ChangeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("ChangeCarryList")
            .WithSummary("Decides about folders: carry, leave-out with a reason, not-applicable, or by-rule to take a decision back.");
    }
}
