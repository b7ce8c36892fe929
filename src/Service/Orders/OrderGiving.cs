using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>Gives orders, and lets what is under way rest or go on.</summary>
internal static class OrderGiving
{
    private const string System = "the system";

    /// <summary>Gives an order, or finds the same one that is still to be done.</summary>
    public static Task<Result<OrderRow>> GiveAsync(Change w, SwapRow swap, OrderWanted wanted, CancellationToken cancel) =>
        GiveAsync(w, swap, wanted, new Reaches(w.Db), cancel);

    private static async Task<Result<OrderRow>> GiveAsync(
        Change w, SwapRow swap, OrderWanted wanted, Reaches reaches, CancellationToken cancel)
    {
        if (Order.Of(wanted.Kind) is not { } plain) return new UnknownOrder(wanted.Kind);
        var does = OrderCase.Of(plain);
        var order = does.From(plain, wanted);
        if (!order.ComputerOf(swap.Standing()).TryGet(out var tag, out var why))
            return new CannotBeOrdered(order, swap.Id, (OrderNotNow)why);
        if (order.Reach.Parcel != ParcelUse.None && !await SwapDepots.ChooseAsync(w.Db, swap, cancel)) return new NoDepot();
        if (order is not Order.Verify && wanted.ByService == true) return new NotByService();
        var row = Row(swap, order.Name, tag, w.By, w.Now);
        if (await does.PrepareAsync(new(w, swap, row), order, cancel) is { Count: > 0 } wrong) return Result<OrderRow>.Failed(wrong);
        if (await reaches.AgainstAsync(swap, row, cancel) is { } tooFar) return tooFar;
        if (await Leases.OpenAsync(w.Db, swap.Id, cancel) is { } open)
            return open.Kind == order.Name ? open : new AnotherOpen(open.Kind, open.State, swap.Id);
        var how = $"{(row.ByNeed ? ", by need as far as there is room" : "")}{(row.Beside ? ", beside the person's own work" : "")}";
        Enter(w, swap, row, $"{w.By} ordered: {order.Words.ToLowerInvariant()} {ServiceHand.At(row.Tag)}{how}");
        return row;
    }

    /// <summary>Gives an order that follows from another by itself.</summary>
    public static void Follow(Change w, SwapRow swap, string kind, string tag) => Enter(
        w, swap, Row(swap, kind, tag, System, w.Now), $"{Order.WordsOf(kind)} follows by itself {ServiceHand.At(tag)}");

    /// <summary>Gives the same order at many swaps; what cannot have it is named with why.</summary>
    public static async Task<Result<OrdersMade>> GiveManyAsync(
        Change w, IReadOnlyList<SwapRow> swaps, OrdersWanted wanted, CancellationToken cancel)
    {
        if (Order.Of(wanted.Kind) is not { } order) return new UnknownOrder(wanted.Kind);
        if (order.Reach.OneByOne) return new OneByOne(order);
        if (wanted.Swaps.Except(swaps.Select(r => r.Id)).FirstOrDefault() is { } unknown) return ServiceProblem.NotFound("swap", unknown);
        var one = new OrderWanted(wanted.Kind, ByService: wanted.ByService, ByNeed: wanted.ByNeed, Beside: wanted.Beside);
        if (wanted.Swaps.Count == 0 && !wanted.IsAll) return new NoSwapsNamed();
        var (given, skipped, reaches) = (new List<OrderRow>(), new List<string>(), await Reaches.OfManyAsync(w.Db, cancel));
        foreach (var swap in swaps.Where(r => wanted.Swaps.Count == 0 || wanted.Swaps.Contains(r.Id)))
        {
            if ((await GiveAsync(w, swap, one, reaches, cancel)).TryGet(out var row, out var problem)) given.Add(row);
            else skipped.Add($"{swap.Id} {swap.Name}: {problem.Message}");
        }
        var hands = await HandsAt.ReadAsync(w.Db, given, cancel);
        return new OrdersMade(given.Count, skipped, [.. given.Where(o => !hands.HasFor(o)).Select(o => o.Tag).Distinct().Order()]);
    }

    /// <summary>Withdraws what waits or is under way at a swap. A hand that has it stops with its next report, within a second.</summary>
    public static async Task<List<OrderRow>> WithdrawAsync(
        Change w, string swap, Func<OrderRow, bool> which, string why, CancellationToken cancel)
    {
        var open = (await w.Db.Orders
            .Where(o => o.Swap == swap && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay))
            .ToListAsync(cancel)).FindAll(o => which(o));
        foreach (var order in open)
        {
            (order.State, order.EndedAt, order.LeaseUntil, order.Words) = (OrderStates.Withdrawn, w.Now, null, why);
            w.Note(
                "order.withdrawn",
                swap,
                $"{Order.WordsOf(order.Kind)} {ServiceHand.At(order.Tag)} is withdrawn",
                new() { ["order"] = order.Id });
        }
        return open;
    }

    /// <summary>Lets what is under way at a swap rest, or go on. The hand hears of it with its next report, within a second.</summary>
    public static async Task<Result<OrderRow>> PauseAsync(Change w, string swap, bool paused, CancellationToken cancel)
    {
        if (await Leases.OpenAsync(w.Db, swap, cancel) is not { } order) return new NothingUnderWay();
        if (Order.Of(order.Kind) is not { Reach.IsLong: true }) return new TooShortToRest(order.Kind);
        if (paused == order.PausedAt is not null) return order;
        order.PausedAt = paused ? w.Now : null;
        w.Note(
            paused ? "order.paused" : "order.resumed",
            swap,
            $"{w.By} {(paused ? "let rest" : "let go on")}: {Order.WordsOf(order.Kind).ToLowerInvariant()}",
            new() { ["order"] = order.Id });
        return order;
    }

    private static OrderRow Row(SwapRow swap, string kind, string tag, string by, DateTimeOffset now) => new()
    {
        Id = Guid.NewGuid().ToString("N"),
        Refresh = swap.Refresh,
        Swap = swap.Id,
        Kind = kind,
        Tag = tag,
        State = OrderStates.Waiting,
        MadeBy = by,
        MadeAt = now,
        NextBatch = 1
    };

    private static void Enter(Change w, SwapRow swap, OrderRow row, string words)
    {
        w.Db.Orders.Add(row);
        w.HandsToWake.Add(row.Tag);
        w.Note("order.given", swap.Id, words, new() { ["order"] = row.Id, ["kind"] = row.Kind });
    }
}
