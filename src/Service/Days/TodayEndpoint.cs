using YardRelay.Service.Accounts;

namespace YardRelay.Service.Days;

/// <summary>A day at a glance: what needs me now, the day's visits, what is on the move.</summary>
internal static class TodayEndpoint
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/today", TodayHandler.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetToday")
            .WithSummary("A day at a glance; day=2026-11-25 for another one.");
        routes.MapGet("/refreshes/{refresh}/needs", TodayHandler.NeedsAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetNeeds")
            .WithSummary("What needs somebody now, the most urgent first; as the day has it, without the rest of the day.");
    }
}
