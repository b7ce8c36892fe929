using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Orders;

/// <summary>How a swap's record stands, as orders ask for it.</summary>
internal static class Standings
{
    public static SwapStanding Standing(this SwapRow swap) => new(
        swap.Kind,
        swap.OldTag,
        swap.NewTag,
        swap.Trips,
        IsPurged: swap.PurgedAt is not null,
        IsCalledOff: swap.CalledOffAt is not null,
        OldDied: swap.OldDiedAt is not null,
        IsSwapped: swap.SwappedAt is not null,
        IsStaged: swap.StagedAt is not null,
        swap.ReceiverTag,
        IsAccepted: swap.ReceiverAcceptedAt is not null,
        HasBegun: SwapFacts.HasUnfinishedParcel(swap));
}
