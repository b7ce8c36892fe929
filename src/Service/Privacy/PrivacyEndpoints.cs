using YardRelay.Service.Accounts;

namespace YardRelay.Service.Privacy;

/// <summary>What is kept about a person: shown, given out, erased.</summary>
internal static class PrivacyEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/keeping", PrivacyHandlers.KeepingAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("GetKeeping")
            .WithSummary("How long what is kept about people stays.");
        routes.MapPut("/refreshes/{refresh}/keeping", PrivacyHandlers.SetKeepingAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SetKeeping")
            .WithSummary("Says how many days after the last of a person's swaps is closed what is kept about them is erased.");
        routes.MapGet("/swaps/{swap}/person/kept", PrivacyHandlers.KeptAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("GetKept")
            .WithSummary("What is kept about the person of a swap.");
        routes.MapGet("/swaps/{swap}/person/export", PrivacyHandlers.ExportAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("ExportPerson")
            .WithSummary("All that is kept about the person of a swap, as a ZIP.");
        routes.MapPost("/swaps/{swap}/person/erasure", PrivacyHandlers.EraseAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("ErasePerson")
            .WithSummary("Erases what is kept about the person of a swap; the ledger's chain stays whole.");
        routes.MapGet("/person/kept", PrivacyHandlers.OwnKeptAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("GetOwnKept")
            .WithSummary("What is kept about oneself.");
        routes.MapGet("/person/export", PrivacyHandlers.OwnExportAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("ExportOwn")
            .WithSummary("All that is kept about oneself, as a ZIP.");
    }
}
