using YardRelay.Core.Orders;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>How an order stands.</summary>
internal static class OrderStates
{
    public const string Waiting = "waiting";
    public const string UnderWay = "under-way";
    public const string Done = "done";
    public const string Failed = "failed";
    public const string Withdrawn = "withdrawn";

    /// <summary>Orders whose hand is at work at this moment: it reports, nobody let it rest, and it waits for nothing.</summary>
    public static IQueryable<OrderRow> Moving(YardDb db, DateTimeOffset now) =>
        db.Orders.Where(o => o.State == UnderWay && !(o.LeaseUntil < now) && o.PausedAt == null && o.Waits == null);

    private static readonly string[] Looks = [OrderNames.Folders, OrderNames.Look];

    /// <summary>
    /// Orders whose failure nothing has made good: no later one of its kind was given, or it was withdrawn. Any trip makes another's
    /// failure good; a look that failed is forgotten with whatever came after it.
    /// </summary>
    public static IQueryable<OrderRow> OpenFailures(YardDb db) =>
        db.Orders.Where(o => o.State == Failed
            && !db.Orders.Any(l => l.Swap == o.Swap
                && l.MadeAt > o.MadeAt
                && l.State != Withdrawn
                && (l.Kind == o.Kind || (l.Kind.EndsWith("-trip") && o.Kind.EndsWith("-trip")) || Looks.Contains(o.Kind))));
}
