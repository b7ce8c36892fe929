using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Ledgers;

/// <summary>The work behind <see cref="LedgerEndpoints"/>.</summary>
internal static class LedgerHandlers
{
    private const int MostPerPage = 1000;

    internal static async Task<Results<Ok<Page<LedgerEntrySeen>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel, string? cursor = null, int limit = 500) =>
        await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel)
            ? await PageAsync(refresh, db, cursor, limit, cancel)
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static Task<Results<Ok<Page<LedgerEntrySeen>>, ProblemHttpResult>> ListOfServiceAsync(
        YardDb db, CancellationToken cancel, string? cursor = null, int limit = 500) =>
        PageAsync(ServiceRow.OfAll, db, cursor, limit, cancel);

    internal static async Task<Results<Ok<LedgerChecked>, ProblemHttpResult>> CheckAsync(
        RefreshKey refresh, LedgerReader reader, CancellationToken cancel) =>
        await reader.CheckAsync(refresh, cancel) is { } done
            ? TypedResults.Ok(done)
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Ok<LedgerChecked>> CheckOfServiceAsync(LedgerReader reader, CancellationToken cancel) =>
        TypedResults.Ok(await reader.CheckServiceAsync(cancel));

    private static async Task<Results<Ok<Page<LedgerEntrySeen>>, ProblemHttpResult>> PageAsync(
        string chain, YardDb db, string? cursor, int limit, CancellationToken cancel)
    {
        if (limit is < 1 or > MostPerPage)
            return new ListLimitProblem(limit, MostPerPage).ToHttp();
        if (!long.TryParse(cursor ?? "0", NumberStyles.None, CultureInfo.InvariantCulture, out var after))
            return new ListCursorProblem().ToHttp();
        var total = await db.Ledger.LongCountAsync(l => l.Refresh == chain, cancel);
        var rows = await db.Ledger.AsNoTracking()
            .Where(l => l.Refresh == chain && l.Number > after)
            .OrderBy(l => l.Number)
            .Take(limit)
            .Select(l => new LedgerEntrySeen(l.Number, l.Json, l.Sha256, l.Words, l.By, l.Account, l.Salt))
            .ToListAsync(cancel);
        return TypedResults.Ok(new Page<LedgerEntrySeen>(
            rows, rows.Count == limit ? rows[^1].Number.ToString(CultureInfo.InvariantCulture) : null, total));
    }
}
