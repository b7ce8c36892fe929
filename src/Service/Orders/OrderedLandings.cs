using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Service.Parcels;

namespace YardRelay.Service.Orders;

/// <summary>The landing plan that an order goes by, kept with it: a plan that changes later is for the next order.</summary>
internal static class OrderedLandings
{
    /// <summary>Keeps the swap's plan with the order; what is wrong with it otherwise.</summary>
    public static async Task<IReadOnlyList<Problem>> KeepAsync(OrderAsked asked, IReadOnlyList<string> only, CancellationToken cancel)
    {
        var cargo = await asked.W.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == asked.Swap.Id, cancel);
        var plan = KeptLanding.Of(cargo).Plan;
        if (KeptLanding.Read(plan, only) is { IsOk: false } bad) return bad.Problems;
        asked.Row.Landing = JsonSerializer.Serialize(new OrderedLanding(plan, only));
        return [];
    }

    public static LandingWanted PlanOf(OrderAtHand at) => Of(at)?.Plan ?? KeptLanding.Of(at.Cargo).Plan;

    public static IReadOnlyList<string> OnlyOf(OrderAtHand at) => Of(at)?.Only ?? [];

    private static OrderedLanding? Of(OrderAtHand at) =>
        at.Row.Landing is { } kept ? JsonSerializer.Deserialize<OrderedLanding>(kept) : null;
}
