using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.Hands;
using YardRelay.Service.Live;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>The work behind <see cref="OrderEndpoints"/>.</summary>
internal static class OrderHandlers
{
    private static readonly TimeSpan LongestPoll = TimeSpan.FromSeconds(25);

    internal static async Task<Results<Ok<OrderSeen>, ProblemHttpResult>> GiveOneAsync(
        SwapId swap, OrderWanted wanted, ClaimsPrincipal user, Writer writer, CancellationToken cancel)
    {
        if (Order.Of(wanted.Kind) is not { } order) return new UnknownOrder(wanted.Kind).ToHttp();
        if (order.Reach.NamesFolder && user.RoleOf() != Roles.Coordinator) return new OrderOfCoordinators(order).ToHttp();
        return (await writer.WriteAsync<OrderSeen>(swap.Refresh, async w =>
            await SeenAsync(
                w.Db, await OrderGiving.GiveAsync(w, await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel), wanted, cancel), cancel),
            cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<OrdersMade>, ProblemHttpResult>> GiveManyAsync(
        RefreshKey refresh, OrdersWanted wanted, Writer writer, CancellationToken cancel) =>
        (await writer.WriteAsync<OrdersMade>(refresh, async w => await OrderGiving.GiveManyAsync(
            w, await w.Db.Swaps.Where(s => s.Refresh == refresh).OrderBy(s => s.Id).ToListAsync(cancel), wanted, cancel), cancel)).ToHttp();

    internal static async Task<Results<Ok<OrderSeen>, ProblemHttpResult>> PauseOneAsync(
        SwapId swap, PauseWanted wanted, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<OrderSeen>(
            swap.Refresh, async w => await SeenAsync(w.Db, await OrderGiving.PauseAsync(w, swap, wanted.Paused, cancel), cancel), cancel))
            .ToHttp();
    }

    internal static async Task<Results<Ok<OrderSeen>, ProblemHttpResult>> WithdrawOneAsync(
        SwapId swap, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<OrderSeen>(swap.Refresh, async w =>
        {
            var open = await OrderGiving.WithdrawAsync(w, swap, _ => true, $"Withdrawn by {w.By}", cancel);
            if (open.Count > 0) return Seen(open[0], HandsAt.None);
            // Asked twice, it answers the same.
            return await w.Db.Orders.AsNoTracking().Where(o => o.Swap == swap).OrderByDescending(o => o.MadeAt).FirstOrDefaultAsync(cancel)
                is { State: OrderStates.Withdrawn } last
                ? Seen(last, HandsAt.None)
                : new NothingToWithdraw();
        }, cancel)).ToHttp();
    }

    private static async Task<Result<OrderSeen>> SeenAsync(YardDb db, Result<OrderRow> given, CancellationToken cancel) =>
        given.TryGet(out var order, out _)
            ? Seen(order, await HandsAt.ReadAsync(db, order.State == OrderStates.Waiting ? [order] : [], cancel))
            : Result<OrderSeen>.Failed(given.Problems);

    private static OrderSeen Seen(OrderRow order, HandsAt hands) => new(
        order.Id, order.Kind, order.Tag, order.State, order.MadeAt, order.MadeBy, order.EndedAt, order.Words,
        order.State != OrderStates.Waiting || hands.HasFor(order));

    internal static async Task<Results<Ok<OrderTaken>, NoContent, ProblemHttpResult>> NextAsync(
        ClaimsPrincipal user, EventHub hub, IDbContextFactory<YardDb> records, Writer writer, OrderTaking taking, TimeProvider time,
        IHostApplicationLifetime life, CancellationToken cancel, int waitSeconds = 25)
    {
        var (hand, tag, refresh) = (user.NameOf(), user.FindFirstValue("tag")!, user.FindFirstValue("refresh")!);
        var until = time.GetUtcNow() + TimeSpan.FromSeconds(Math.Clamp(waitSeconds, 0, LongestPoll.TotalSeconds));
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping);
        using var listening = hub.Listen(refresh, tag);
        while (true)
        {
            var now = time.GetUtcNow();
            bool due;
            await using (var db = await records.CreateDbContextAsync(cancel))
            {
                if (await HandEnding.AgainstAsync(db, hand, cancel) is { } ended) return ended.ToHttp();
                due = await db.Orders.Where(o => o.Refresh == refresh).AnyAsync(Leases.Due(tag, hand, now), cancel);
            }
            if (due)
            {
                var taken = await writer.WriteAsync<Taking>(
                    refresh,
                    // A hand may be replaced while it waits: who it was when it asked is not who it is now.
                    async w => await HandEnding.AgainstAsync(w.Db, hand, cancel) is { } since
                        ? since
                        : await taking.TakeAsync(w, tag, hand, $"The hand at {tag}", cancel),
                    cancel);
                if (taken.TryGet(out var had, out _) && had.Order is { } mine) return TypedResults.Ok(mine);
                if (!taken.IsOk && taken.Problem is HandEndedProblem over) return over.ToHttp();
            }
            var left = until - time.GetUtcNow();
            if (left <= TimeSpan.Zero || life.ApplicationStopping.IsCancellationRequested) return TypedResults.NoContent();
            try
            {
                // Leases run out without a wake, so look again now and then.
                await listening.NextAsync(left < TimeSpan.FromSeconds(5) ? left : TimeSpan.FromSeconds(5), ends.Token);
            }
            catch (OperationCanceledException)
            {
                return TypedResults.NoContent();
            }
        }
    }

    internal static async Task<Results<Ok<ReportTaken>, ProblemHttpResult>> ReportAsync(
        string order, int number, OrderReport report, ClaimsPrincipal user, OrderReports reports, CancellationToken cancel) =>
        (await reports.TakeAsync(order, number, report, user.NameOf(), user.FindFirstValue("refresh")!, cancel)).ToHttp();
}
