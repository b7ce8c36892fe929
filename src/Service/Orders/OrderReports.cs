using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Depots;
using YardRelay.Service.Live;
using YardRelay.Service.Parcels;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>Takes what is reported of orders under way: numbered batches that renew the lease, and the result in the last one.</summary>
internal sealed class OrderReports(
    EventHub hub, IDbContextFactory<YardDb> records, Writer writer, OrderEnding ending, ParcelKeys keys, TimeProvider time)
{
    /// <summary>Takes a batch; a repeated number changes nothing.</summary>
    public async Task<Result<ReportTaken>> TakeAsync(
        string order, int number, OrderReport report, string hand, string refresh, CancellationToken cancel)
    {
        if (report.Outcome is not { } outcome)
        {
            // What is a fact of the swap is written before the batch is called taken, so that it is told again until it is.
            if (report.Begun is { } begun && await BegunAsync(order, number, report.Attempt, begun, hand, refresh, cancel) is { } not)
                return Result<ReportTaken>.Failed([not]);
            return await ProgressAsync(order, number, report, hand, refresh, cancel);
        }
        return await writer.WriteAsync<ReportTaken>(refresh, async w =>
        {
            var row = await w.Db.Orders.FirstOrDefaultAsync(o => o.Id == order && o.Refresh == refresh, cancel);
            if (Leases.Against(row, order, hand, report.Attempt, number) is { } problem) return Result<ReportTaken>.Failed([problem]);
            if (number < row!.NextBatch) return new ReportTaken(row.NextBatch, row.LeaseUntil ?? w.Now);
            Leases.End(row, number, w.Now);
            Show(row, report.Progress);
            if (report.Begun is { } opened) await EnterAsync(w, row, opened, cancel);
            return await ending.TakeAsync(w, row, outcome, report.Depot, cancel) is { } wrong
                ? Result<ReportTaken>.Failed([wrong])
                : new ReportTaken(row.NextBatch, w.Now);
        }, cancel);
    }

    /// <summary>Progress is kept for whoever looks next and sent to whoever looks now; it is no ledger entry.</summary>
    private async Task<Result<ReportTaken>> ProgressAsync(
        string order, int number, OrderReport report, string hand, string refresh, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Orders.FirstOrDefaultAsync(o => o.Id == order && o.Refresh == refresh, cancel);
        if (Leases.Against(row, order, hand, report.Attempt, number) is { } problem) return Result<ReportTaken>.Failed([problem]);
        if (number < row!.NextBatch) return new ReportTaken(row.NextBatch, row.LeaseUntil ?? time.GetUtcNow());
        Leases.Renew(row, number, time.GetUtcNow());
        Show(row, report.Progress);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        if (report.Progress?.FirstIsThere == true && row.Kind == OrderNames.Restore) await FirstIsThereAsync(refresh, row.Swap, cancel);
        await hub.ProgressAsync(
            refresh,
            await db.Swaps.Where(s => s.Id == row.Swap).Select(s => s.Site).FirstAsync(cancel),
            JsonSerializer.Serialize(new
            {
                order,
                swap = row.Swap,
                kind = row.Kind,
                files = row.Files,
                totalFiles = row.TotalFiles,
                bytes = row.Bytes,
                totalBytes = row.TotalBytes,
                bytesPerSecond = row.BytesPerSecond
            }));
        return new ReportTaken(row.NextBatch, row.LeaseUntil!.Value, await RateShare.OfAsync(db, row, time.GetUtcNow(), cancel));
    }

    private async Task<Problem?> BegunAsync(
        string order, int number, int attempt, ParcelBegun begun, string hand, string refresh, CancellationToken cancel)
    {
        var entered = await writer.WriteAsync<bool>(refresh, async w =>
        {
            var row = await w.Db.Orders.FirstOrDefaultAsync(o => o.Id == order && o.Refresh == refresh, cancel);
            if (Leases.Against(row, order, hand, attempt, number) is { } problem) return problem;
            if (number >= row!.NextBatch) await EnterAsync(w, row, begun, cancel);
            return true;
        }, cancel);
        return entered.TryGet(out _, out var refused) ? null : refused;
    }

    private async Task EnterAsync(Change w, OrderRow row, ParcelBegun begun, CancellationToken cancel)
    {
        if (Order.Of(row.Kind) is not Order.Trip) return;
        var swap = await w.Db.Swaps.FirstAsync(s => s.Id == row.Swap, cancel);
        await ParcelBeginning.TakeAsync(w, swap, begun, keys, swap.Trips == 0, cancel);
    }

    /// <summary>The person can begin to work while the rest still comes: that is a fact, said once.</summary>
    private async Task FirstIsThereAsync(string refresh, string swap, CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        if (!await db.Swaps.AnyAsync(s => s.Id == swap && s.UrgentReadyAt == null, cancel)) return;
        await writer.WriteAsync<bool>(refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            await FirstThere.EnterAsync(w, row, cancel);
            return true;
        }, cancel);
    }

    private static void Show(OrderRow row, OrderProgress? progress)
    {
        if (progress is not null)
            (row.Files, row.TotalFiles, row.Bytes, row.TotalBytes, row.BytesPerSecond, row.Waits) =
                (progress.Files, progress.TotalFiles, progress.Bytes, progress.TotalBytes, progress.BytesPerSecond, progress.Waits);
    }
}
