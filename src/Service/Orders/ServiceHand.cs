using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Facts;
using YardRelay.Service.Live;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>
/// Verifies parcels beside the depot, without the way over a hand's network; takes its orders, leases and batches as every hand does, so
/// that of several processes one does it.
/// </summary>
internal sealed partial class ServiceHand(
    IDbContextFactory<YardDb> records, EventHub hub, Writer writer, OrderReports reports, OrderTaking taking,
    ServiceDoor door, TimeProvider time, ILogger<ServiceHand> log) : BackgroundService
{
    /// <summary>Stands where the tag of a computer stands in a hand's order.</summary>
    public const string Tag = HandsAt.Service;

    private const int AtOnce = 2;
    private static readonly TimeSpan LookEvery = TimeSpan.FromSeconds(20);
    private readonly string _name = $"service {Guid.NewGuid():N}";

    /// <summary>Where an order is done, in words.</summary>
    public static string At(string tag) => tag == Tag ? "by the service" : $"at {tag}";

    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.WhenAll(Enumerable.Range(0, AtOnce).Select(_ => Task.Run(() => WorkAsync(stoppingToken), CancellationToken.None)));

    private async Task WorkAsync(CancellationToken stop)
    {
        using var listening = hub.Listen(null, Tag);
        while (!stop.IsCancellationRequested)
        {
            try
            {
                if (await TakeAsync(stop) is { } taken) await DoAsync(taken.Refresh, taken.Order, stop);
                else await listening.NextAsync(LookEvery, stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception broke)
                when (broke is DbUpdateException or System.Data.Common.DbException or IOException or InvalidOperationException)
            {
                // The lease runs out, and somebody goes on.
                Broke(log, broke);
                await Task.Delay(TimeSpan.FromSeconds(5), time, stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "A verification by the service broke off.")]
    private static partial void Broke(ILogger logger, Exception why);

    private async Task<(string Refresh, OrderTaken Order)?> TakeAsync(CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        string? refresh;
        await using (var db = await records.CreateDbContextAsync(cancel))
            refresh = await db.Orders.Where(Leases.Due(Tag, _name, now))
                .OrderBy(o => o.MadeAt)
                .Select(o => o.Refresh)
                .FirstOrDefaultAsync(cancel);
        if (refresh is null) return null;
        var taken = await writer.WriteAsync<Taking>(
            refresh, w => taking.TakeAsync(w, Tag, _name, "The service", cancel), cancel);
        return taken.TryGet(out var had, out _) && had.Order is { } order ? (refresh, order) : null;
    }

    private async Task DoAsync(string refresh, OrderTaken order, CancellationToken stop)
    {
        var odometer = new Odometer();
        using var lost = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var work = Task.Run(() => VerifyAsync(order, odometer, lost.Token), CancellationToken.None);
        var number = 1;
        while (await Task.WhenAny(work, Task.Delay(TimeSpan.FromSeconds(1), time, stop)) != work)
        {
            stop.ThrowIfCancellationRequested();
            var said = await reports.TakeAsync(
                order.Id, number, new(order.Attempt, time.GetUtcNow(), Progress(odometer), null), _name, refresh, stop);
            if (said.TryGet(out var next, out _)) number = next.Next;
            else await lost.CancelAsync();
        }
        if (work.IsCanceled) return;
        var (outcome, found) = await work;
        await reports.TakeAsync(
            order.Id, number, new(order.Attempt, time.GetUtcNow(), Progress(odometer), outcome, found), _name, refresh, stop);
    }

    private static OrderProgress Progress(Odometer odometer) =>
        new(odometer.Files, odometer.TotalFiles, odometer.Bytes, odometer.TotalBytes, 0);

    private async Task<(OrderOutcome Outcome, DepotFound? Found)> VerifyAsync(
        OrderTaken order, Odometer odometer, CancellationToken cancel)
    {
        try
        {
            if (order.Work is not VerifyWork { Place: var place } || DepotPath.TryParse(place.Parcel) is not { } parcel)
                return (new NotDone("The order names no parcel."), null);
            var opened = door.Open(place);
            if (!opened.TryGet(out var depot, out var problem)) return (new NotDone(problem.Message), null);
            using (depot)
            {
                var held = ParcelHeld.Against(place.Known, await ParcelStates.ReadAsync(depot, parcel, cancel));
                var verification = new Verification(depot, parcel, AtOnce, odometer, new ThreadWork(time));
                var verified = await verification.RunAsync(cancel);
                if (!verified.TryGet(out var report, out var missing)) return (new NotDone(missing.Message), null);
                await verification.NoteAsync(report, cancel);
                OrderOutcome outcome = new Verified((int)Math.Min(int.MaxValue, report.DamageCount)) { Read = report.Read };
                if (held.Standing == ParcelStanding.Other) outcome = outcome.WithOtherLists();
                return (outcome, new(null, Held: held, Left: report.State));
            }
        }
        catch (Exception broke)
            when (broke is DepotUnreachableException or DepotFullException or IOException or UnauthorizedAccessException)
        {
            return (new NotDone(broke.Message), broke is DepotUnreachableException ? new(null, broke.Message) : null);
        }
    }
}
