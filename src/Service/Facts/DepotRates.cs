using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>How fast a depot's link is, as far as trips have taught.</summary>
internal static class DepotRates
{
    public static DepotRate Of(DepotRow depot) => depot.Observed == 0 ? DepotRate.Default : new(depot.BytesPerSecond, depot.Observed);
}
