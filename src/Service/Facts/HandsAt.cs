using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>At which computers a hand is enrolled that could do an order.</summary>
internal sealed class HandsAt
{
    /// <summary>Stands where the tag of a computer stands in an order that the service does itself.</summary>
    public const string Service = "the service";

    /// <summary>None is known, nor asked for.</summary>
    public static readonly HandsAt None = new([]);

    private readonly HashSet<(string, string)> _there;

    private HandsAt(HashSet<(string, string)> there) => _there = there;

    public static async Task<HandsAt> ReadAsync(YardDb db, IReadOnlyCollection<OrderRow> orders, CancellationToken cancel)
    {
        var (refreshes, tags) = (orders.Select(o => o.Refresh).Distinct().ToList(), orders.Select(o => o.Tag).Distinct().ToList());
        if (tags.Count == 0) return new([]);
        return new((await db.Hands.AsNoTracking()
            .Where(h => refreshes.Contains(h.Refresh) && tags.Contains(h.Tag) && h.ReplacedAt == null)
            .Select(h => new { h.Refresh, h.Tag })
            .ToListAsync(cancel)).Select(h => (h.Refresh, h.Tag)).ToHashSet());
    }

    /// <summary>Whether there is one for an order, or it needs none.</summary>
    public bool HasFor(OrderRow order) => order.Tag == Service || _there.Contains((order.Refresh, order.Tag));
}
