using YardRelay.Service.Accounts;

namespace YardRelay.Service.Rounds;

/// <summary>Passes swaps from one technician to another: one with a note, or all that is left of a day.</summary>
internal static class HandoverEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/handovers", HandoverHandlers.OneAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("HandOver")
            .WithSummary("Passes a swap to another technician, with a note. Its time stays.");
        routes.MapPost("/refreshes/{refresh}/technicians/{technician}/day-handover", HandoverHandlers.DayAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("HandOverDay")
            .WithSummary(
                "Passes all that is left of a technician's day to others: what is under way at once, what is promised by the planning "
                    + "engine.");
    }
}
