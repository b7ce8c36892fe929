using YardRelay.Records;
using YardRelay.Service.Accounts;

namespace YardRelay.Service.Ledgers;

/// <summary>Ledgers as they are kept, for whoever wants to check them: of a refresh, and of the service itself.</summary>
internal static class LedgerEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/ledger", LedgerHandlers.ListAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("ListLedger")
            .WithSummary("Ledger entries in their order, in pieces.");
        routes.MapGet("/refreshes/{refresh}/ledger/check", LedgerHandlers.CheckAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("CheckLedger")
            .WithSummary("Reads the whole ledger: the chain, its signed head, the words beside it, and the records against what it says.");
        routes.MapGet("/service/ledger", LedgerHandlers.ListOfServiceAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("ListServiceLedger")
            .WithSummary("What happened to the whole service: who came in, who was refused, what became of accounts.");
        routes.MapGet("/service/ledger/check", LedgerHandlers.CheckOfServiceAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("CheckServiceLedger")
            .WithSummary("Reads the whole of it: the chain, its signed head, and the words beside it.");
    }
}
