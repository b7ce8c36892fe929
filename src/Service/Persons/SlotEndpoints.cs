using YardRelay.Service.Accounts;

namespace YardRelay.Service.Persons;

/// <summary>Another time for one's own swap, among those that the engine says fit; and waiting for one that is taken.</summary>
internal static class SlotEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/person/slots", SlotHandlers.ListAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("ListSlots")
            .WithSummary(
                "Times that fit the person's swap now, while everybody else keeps theirs, and those that others would give for it.");
        routes.MapPut("/person/slot", SlotHandlers.ChooseAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("ChooseSlot")
            .WithSummary("Chooses a time; refused where somebody was faster.");
        routes.MapPut("/person/wait", SlotHandlers.WaitAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("WaitForSlot")
            .WithSummary("Waits for a time that is taken now: once one is free, whoever waits longest gets it.");
        routes.MapDelete("/person/wait", SlotHandlers.StopAsync)
            .RequireAuthorization(Roles.Owns)
            .WithName("StopWaiting")
            .WithSummary("Waits no longer.");
    }
}
