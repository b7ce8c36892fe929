using YardRelay.Service.Accounts;

namespace YardRelay.Service.OldComputers;

/// <summary>Pallets of old computers: what is on each, its list, and that it leaves.</summary>
internal static class PalletEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/pallets", PalletHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListPallets")
            .WithSummary("Pallets with how many computers are on each.");
        routes.MapGet("/refreshes/{refresh}/pallets/{pallet}/list.csv", PalletHandlers.CsvAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetPalletList")
            .WithSummary("The list of a pallet as CSV (RFC 4180), safe to open in a spreadsheet.")
            .Produces(200, contentType: "text/csv");
        routes.MapPost("/refreshes/{refresh}/pallets/{pallet}/departure", PalletHandlers.LeaveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SendPallet")
            .WithSummary("A pallet leaves for good with all that is on it; refused where any of it is not wiped.");
    }
}
