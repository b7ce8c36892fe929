using YardRelay.Service.Accounts;

namespace YardRelay.Service.Ledgers;

/// <summary>The ledger as it is kept, for whoever wants to check it.</summary>
internal static class LedgerEndpoints
{
    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapGet("/refreshes/{refresh}/ledger", LedgerHandlers.ListAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("ListLedger")
            .WithSummary("Ledger entries in their order, in pieces.");
}
