using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>
/// What is heard of a parcel's lists with each order: the last state is kept, and one that is not as it was left is a snag until a trip
/// explains it, it is as it was again, or a person takes it as it is.
/// </summary>
internal static class ParcelHearing
{
    /// <summary>What such a snag is about.</summary>
    public const string Path = "(the lists)";

    /// <summary>Enters what an order found and left.</summary>
    public static async Task TakeAsync(
        Change w, SwapRow swap, Order order, OrderOutcome outcome, DepotFound? found, CancellationToken cancel)
    {
        var isDone = outcome is not NotDone;
        // A trip tells all that stands there, and whoever empties a place knows that nothing is left.
        var explains = isDone && (order is Order.Purge || (order is Order.Trip && found?.Held?.Standing == ParcelStanding.Ahead));
        if (found?.Held is { Standing: not ParcelStanding.AsKnown } held && !explains) await OpenAsync(w, swap, held, cancel);
        else if (found?.Held is not null || explains) await EndAsync(w, swap, cancel);
        if (isDone && order is Order.Purge) swap.ParcelState = null;
        // A hand of before does not tell what it left: nothing is known of it then, until somebody looks.
        else if (isDone && order is Order.Trip or Order.Adopt) swap.ParcelState = found?.Left?.ToString();
        else swap.ParcelState ??= found?.Held?.State?.ToString();
    }

    /// <summary>A person takes the parcel as it was found.</summary>
    public static void Accept(SwapRow swap, SnagRow snag)
    {
        if (snag is { Kind: SnagKind.OtherLists or SnagKind.UntoldTrip }) swap.ParcelState = snag.ParcelState;
    }

    private static async Task OpenAsync(Change w, SwapRow swap, ParcelHeld held, CancellationToken cancel)
    {
        var kind = held.Standing == ParcelStanding.Ahead ? SnagKind.UntoldTrip : SnagKind.OtherLists;
        var row = await KnownAsync(w, swap, cancel);
        if (row is { End: "open" } && row.Kind == kind && row.ParcelState == held.State?.ToString()) return;
        row ??= WholeSnags.Open(w, swap, Path, kind);
        (row.Kind, row.Reason, row.ParcelState) = (kind, held.Words, held.State?.ToString());
        (row.End, row.EndedBy, row.EndReason, row.EndedAt) = ("open", null, null, null);
        w.Note("snag.found", swap.Id, $"Snag: {held.Words}", new() { ["snag"] = row.Id, ["kind"] = kind.ToString() });
    }

    private static async Task EndAsync(Change w, SwapRow swap, CancellationToken cancel)
    {
        if (await KnownAsync(w, swap, cancel) is not { End: "open" } row) return;
        (row.End, row.EndedBy, row.EndedAt) = ("retried", "a look at the parcel", w.Now);
        w.Note("snag.retried", swap.Id, "The parcel is as it was left again, or what came was told", new() { ["snag"] = row.Id });
    }

    private static Task<SnagRow?> KnownAsync(Change w, SwapRow swap, CancellationToken cancel) => w.Db.Snags.FirstOrDefaultAsync(
        n => n.Swap == swap.Id && (n.Kind == SnagKind.OtherLists || n.Kind == SnagKind.UntoldTrip) && n.End != "retried", cancel);
}
