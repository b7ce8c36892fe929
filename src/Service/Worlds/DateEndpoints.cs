using YardRelay.Service.Accounts;

namespace YardRelay.Service.Worlds;

/// <summary>What bounds a plan in time: closures, deliveries, waves.</summary>
internal static class DateEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/closures", DateHandlers.ClosuresAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListClosures")
            .WithSummary("Holidays and black-outs.");
        routes.MapPut("/refreshes/{refresh}/closures/{key}", DateHandlers.PutClosureAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutClosure")
            .WithSummary("Makes or changes a holiday or black-out.");
        routes.MapDelete("/refreshes/{refresh}/closures/{key}", DateHandlers.DropClosureAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropClosure")
            .WithSummary("Takes a holiday or black-out out.");
        routes.MapGet("/refreshes/{refresh}/deliveries", DateHandlers.DeliveriesAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListDeliveries")
            .WithSummary("Batches of new computers.");
        routes.MapPut("/refreshes/{refresh}/deliveries/{key}", DateHandlers.PutDeliveryAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutDelivery")
            .WithSummary("Makes or changes a batch of new computers.");
        routes.MapDelete("/refreshes/{refresh}/deliveries/{key}", DateHandlers.DropDeliveryAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropDelivery")
            .WithSummary("Takes a batch out: its computers are at hand.");
        routes.MapGet("/refreshes/{refresh}/waves", DateHandlers.WavesAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListWaves")
            .WithSummary("Parts of the refresh that go together.");
        routes.MapPut("/refreshes/{refresh}/waves/{key}", DateHandlers.PutWaveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutWave")
            .WithSummary("Makes or changes a wave.");
        routes.MapDelete("/refreshes/{refresh}/waves/{key}", DateHandlers.DropWaveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropWave")
            .WithSummary("Takes a wave out; its swaps are in none then.");
    }
}
