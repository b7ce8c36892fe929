using YardRelay.Records;
using YardRelay.Service.Depots;

namespace YardRelay.Service.Days;

/// <summary>Asks what needs somebody, of one refresh after another.</summary>
internal sealed class NeedsDesk(YardDb db, DepotReader depots, FullDepots full)
{
    public DayNeeds Of(RefreshRow refresh, DateTimeOffset now) => new(db, depots, full, refresh, now);
}
