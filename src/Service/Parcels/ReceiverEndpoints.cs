using YardRelay.Service.Accounts;

namespace YardRelay.Service.Parcels;

/// <summary>A leave hands its parcel to the person named, once that person accepts it.</summary>
internal static class ReceiverEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPut("/swaps/{swap}/receiver", ReceiverHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutReceiver")
            .WithSummary("Names who receives the parcel of a leave, and at which computer. Another person must accept anew.");
        routes.MapPost("/swaps/{swap}/receiver/acceptance", ReceiverHandlers.AcceptAsync)
            .RequireAuthorization(Roles.Anyone)
            .WithName("AcceptParcel")
            .WithSummary("Accepts the parcel of a leave: by the person who receives it, or written down by who heard it.");
    }
}
