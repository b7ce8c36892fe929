using YardRelay.Service.Accounts;

namespace YardRelay.Service.OldComputers;

/// <summary>Old computers: who has each, where it lies, and its wipe.</summary>
internal static class OldComputerEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/old-computers", OldComputerHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListOldComputers")
            .WithSummary("Old computers by tag; q, site, pallet, end=there or gone.");
        routes.MapGet("/refreshes/{refresh}/old-computers/{tag}", OldComputerHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetOldComputer")
            .WithSummary("One old computer with all its moves.");
        routes.MapPost("/refreshes/{refresh}/old-computers/{tag}/moves", OldComputerHandlers.MoveAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("MoveOldComputer")
            .WithSummary(
                "Says who has it, where it lies, on or off which pallet, or to whom it left. A repeat with the same id changes nothing.");
        routes.MapPost("/refreshes/{refresh}/old-computers/{tag}/wipe", OldComputerHandlers.WipeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("WipeOldComputer")
            .WithSummary("Records a wipe; refused with reasons while any gate is closed.");
    }
}
