using YardRelay.Service.Accounts;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Checklists;
using YardRelay.Service.Choosing;
using YardRelay.Service.Damages;
using YardRelay.Service.Days;
using YardRelay.Service.Detours;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Hands;
using YardRelay.Service.Ledgers;
using YardRelay.Service.Live;
using YardRelay.Service.Notices;
using YardRelay.Service.OldComputers;
using YardRelay.Service.Orders;
using YardRelay.Service.Parcels;
using YardRelay.Service.Persons;
using YardRelay.Service.Planning;
using YardRelay.Service.Privacy;
using YardRelay.Service.Readiness;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Reports;
using YardRelay.Service.Rosters;
using YardRelay.Service.Rounds;
using YardRelay.Service.SetUps;
using YardRelay.Service.Snags;
using YardRelay.Service.Swaps;
using YardRelay.Service.Worlds;
using YardRelay.Service.Yards;

namespace YardRelay.Service;

/// <summary>All endpoints, feature by feature.</summary>
internal static class Endpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        AccountEndpoints.Map(api);
        SessionEndpoints.Map(api);
        PasskeyEndpoints.Map(api);
        AskingEndpoints.Map(api);
        StaffGroupEndpoints.Map(api);
        RefreshEndpoints.Map(api);
        RosterEndpoint.Map(api);
        WorldEndpoint.Map(api);
        SiteEndpoints.Map(api);
        TechnicianEndpoints.Map(api);
        DateEndpoints.Map(api);
        SpareEndpoints.Map(api);
        DepotEndpoints.Map(api);
        DamageEndpoints.Map(api);
        EstimateEndpoints.Map(api);
        ObservedEndpoint.Map(api);
        PlanEndpoints.Map(api);
        DraftEndpoints.Map(api);
        AskEndpoints.Map(api);
        FeedEndpoints.Map(api);
        CalendarEndpoint.Map(api);
        SwapEditEndpoint.Map(api);
        SwapEndpoints.Map(api);
        SignOffEndpoints.Map(api);
        TemplateEndpoints.Map(api);
        MovesEndpoints.Map(api);
        ChoicesEndpoint.Map(api);
        StepEndpoint.Map(api);
        PhotoEndpoints.Map(api);
        MoveEndpoint.Map(api);
        CarryListEndpoints.Map(api);
        FolderEndpoints.Map(api);
        PlaceRuleEndpoints.Map(api);
        LandingEndpoint.Map(api);
        RescueEndpoints.Map(api);
        ReceiverEndpoints.Map(api);
        RestoreSkipEndpoints.Map(api);
        CatalogueEndpoints.Map(api);
        ReportEndpoints.Map(api);
        SnagEndpoints.Map(api);
        EnrolEndpoints.Map(api);
        HandEndpoints.Map(api);
        OrderEndpoints.Map(api);
        FollowUpEndpoints.Map(api);
        NoticeEndpoints.Map(api);
        PersonLinkEndpoints.Map(api);
        PersonEndpoints.Map(api);
        SlotEndpoints.Map(api);
        ExchangeEndpoints.Map(api);
        ChoosingEndpoints.Map(api);
        PrivacyEndpoints.Map(api);
        MapDays(api);
    }

    /// <summary>What is asked before, on and after a day.</summary>
    private static void MapDays(IEndpointRouteBuilder api)
    {
        SetUpEndpoint.Map(api);
        ReadyEndpoint.Map(api);
        MorningEndpoints.Map(api);
        RoundEndpoint.Map(api);
        HandoverEndpoints.Map(api);
        DetourEndpoints.Map(api);
        OldComputerEndpoints.Map(api);
        PalletEndpoints.Map(api);
        YardEndpoints.Map(api);
        TodayEndpoint.Map(api);
        LedgerEndpoints.Map(api);
        EventsEndpoint.Map(api);
    }
}
