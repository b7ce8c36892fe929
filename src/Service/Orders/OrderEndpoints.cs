using YardRelay.Service.Accounts;
using YardRelay.Service.Hands;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>Orders: people give them, hands take them with a lease, renew it and report numbered batches.</summary>
internal static class OrderEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/orders", OrderHandlers.GiveOneAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("GiveOrder")
            .WithSummary("Orders a hand to survey, carry, verify or restore.");
        routes.MapPost("/refreshes/{refresh}/orders", OrderHandlers.GiveManyAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("GiveOrders")
            .WithSummary("Orders the same at many swaps at once.");
        routes.MapPut("/swaps/{swap}/pause", OrderHandlers.PauseOneAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("PauseOrder")
            .WithSummary("Lets the work of a hand at a swap rest, or go on; its place is kept.");
        routes.MapDelete("/swaps/{swap}/order", OrderHandlers.WithdrawOneAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WithdrawOrder")
            .WithSummary("Withdraws the order that waits or is under way at a swap; what it brought stays.");
        routes.MapPost("/hand/orders/next", OrderHandlers.NextAsync)
            .RequireAuthorization(Roles.Hands)
            .AddEndpointFilter<HandProtocolFilter>()
            .WithName("TakeOrder")
            .WithSummary("The hand's next order; waits up to 25 s for one, then answers 204.")
            .WithMetadata(AnswersSecret.Yes)
            .Produces(204);
        routes.MapPost("/hand/orders/{order}/reports/{number:int}", OrderHandlers.ReportAsync)
            .RequireAuthorization(Roles.Hands)
            .AddEndpointFilter<HandProtocolFilter>()
            .WithName("ReportOrder")
            .WithSummary("A numbered batch; renews the lease. A repeated number changes nothing.");
    }
}
