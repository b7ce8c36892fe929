using YardRelay.Service.Accounts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Parcels;

/// <summary>The decision that nothing is restored: by somebody with a name, after a look at what stands on the new computer.</summary>
internal static class RestoreSkipEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPut("/swaps/{swap}/restore-skip", RestoreSkipHandlers.PutAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("SkipRestore")
            .WithSummary(
                "Decides with a reason that nothing is restored; refused before a look has set the parcel against the new computer.");
        routes.MapDelete("/swaps/{swap}/restore-skip", RestoreSkipHandlers.DropAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("TakeBackRestoreSkip")
            .WithSummary("Takes the decision back.");
    }
}
