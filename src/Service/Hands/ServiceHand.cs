using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trips;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Live;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Hands;

/// <summary>
/// Verifies parcels beside the depot, without the way over a hand's network; takes its orders, leases and batches as every hand does, so
/// that of several processes one does it.
/// </summary>
internal sealed partial class ServiceHand(
    IDbContextFactory<YardDb> records, EventHub hub, Writer writer, OrderReports reports, DepotSecrets secrets, Parcels.ParcelKeys keys,
    BuiltInDepot own, TimeProvider time, ILogger<ServiceHand> log) : BackgroundService
{
    /// <summary>Stands where the tag of a computer stands in a hand's order.</summary>
    public const string Tag = "the service";

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
            refresh = await db.Orders.Where(o =>
                o.Tag == Tag && (o.State == OrderStates.Waiting || (o.State == OrderStates.UnderWay && o.LeaseUntil < now)))
                .OrderBy(o => o.MadeAt)
                .Select(o => o.Refresh)
                .FirstOrDefaultAsync(cancel);
        if (refresh is null) return null;
        var taken = await writer.WriteAsync<OrderTaken>(refresh, async w =>
        {
            var order = await w.Db.Orders.Where(o =>
                o.Refresh == refresh
                    && o.Tag == Tag
                    && (o.State == OrderStates.Waiting || (o.State == OrderStates.UnderWay && o.LeaseUntil < w.Now)))
                .OrderBy(o => o.MadeAt)
                .FirstOrDefaultAsync(cancel);
            return order is null
                ? new Problem("order.none", "There is no order.")
                : await OrderEndpoints.TakenAsync(w, order, _name, "The service", keys, secrets, cancel);
        }, cancel);
        return taken.IsOk ? (refresh, taken.Value) : null;
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
        await reports.TakeAsync(
            order.Id, number, new(order.Attempt, time.GetUtcNow(), Progress(odometer), await work), _name, refresh, stop);
    }

    private static OrderProgress Progress(Odometer odometer) =>
        new(odometer.Files, odometer.TotalFiles, odometer.Bytes, odometer.TotalBytes, 0);

    private async Task<OrderResult> VerifyAsync(OrderTaken order, Odometer odometer, CancellationToken cancel)
    {
        static OrderResult Failed(string why) => new(false, [], [], 0, 0, why);
        try
        {
            if (order.Depot is null || order.Parcel is null || DepotPath.TryParse(order.Parcel) is not { } parcel)
                return Failed("The order names no parcel.");
            var opened = order.Depot == BuiltInDepot.Path
                ? new FolderDepot(own.Folder)
                : DepotAddress.Open(order.Depot, order.Access is { } a ? new(a.User, a.Password, a.PrivateKey, a.HostKey) : null);
            if (!opened.TryGet(out var depot, out var problem)) return Failed(problem.Message);
            using (depot)
            {
                var verification = new Verification(depot, parcel, AtOnce, odometer, time);
                var verified = await verification.RunAsync(cancel);
                if (!verified.TryGet(out var report, out var missing)) return Failed(missing.Message);
                await verification.NoteAsync(report, cancel);
                return new(report.IsWhole, [], [], (int)Math.Min(int.MaxValue, report.DamageCount), 0, null);
            }
        }
        catch (Exception broke)
            when (broke is DepotUnreachableException or DepotFullException or IOException or UnauthorizedAccessException)
        {
            return Failed(broke.Message) with { DepotTrouble = broke is DepotUnreachableException ? broke.Message : null };
        }
    }
}
