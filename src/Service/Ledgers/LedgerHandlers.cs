using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Days;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Ledgers;

/// <summary>The work behind <see cref="LedgerEndpoints"/>.</summary>
internal static class LedgerHandlers
{
    private const int MostPerPage = 1000;

    internal static async Task<Results<Ok<Page<LedgerEntrySeen>>, ProblemHttpResult>> ListAsync(
        RefreshKey refresh, [AsParameters] LedgerFilter asked, YardDb db, CancellationToken cancel, string? cursor = null, int limit = 500)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        foreach (var day in new[] { asked.Since, asked.Until }.OfType<DateOnly>())
            if (DayTooFar.Is(day, row)) return new DayTooFar(day, row.Starts).ToHttp();
        var clock = new RefreshClock(row);
        return await PageAsync(asked.Of(db, refresh, clock.StartOf), db, asked.Newest == true, cursor, limit, cancel);
    }

    internal static Task<Results<Ok<Page<LedgerEntrySeen>>, ProblemHttpResult>> ListOfServiceAsync(
        [AsParameters] LedgerFilter asked, YardDb db, CancellationToken cancel, string? cursor = null, int limit = 500) =>
        PageAsync(asked.Of(db, ServiceRow.OfAll, StartOfUtc), db, asked.Newest == true, cursor, limit, cancel);

    private static DateTimeOffset StartOfUtc(DateOnly day) => new(day.ToDateTime(TimeOnly.MinValue), TimeSpan.Zero);

    internal static async Task<Results<Ok<LedgerChecked>, ProblemHttpResult>> CheckAsync(
        RefreshKey refresh, LedgerReader reader, CancellationToken cancel) =>
        await reader.CheckAsync(refresh, cancel) is { } done
            ? TypedResults.Ok(done)
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Ok<LedgerChecked>> CheckOfServiceAsync(LedgerReader reader, CancellationToken cancel) =>
        TypedResults.Ok(await reader.CheckServiceAsync(cancel));

    private static async Task<Results<Ok<Page<LedgerEntrySeen>>, ProblemHttpResult>> PageAsync(
        IQueryable<LedgerRow> entries, YardDb db, bool newest, string? cursor, int limit, CancellationToken cancel)
    {
        if (limit is < 1 or > MostPerPage)
            return new ListLimitProblem(limit, MostPerPage).ToHttp();
        if (!long.TryParse(cursor ?? "0", NumberStyles.None, CultureInfo.InvariantCulture, out var after))
            return new ListCursorProblem().ToHttp();
        var total = await entries.LongCountAsync(cancel);
        var ordered = newest
            ? entries.Where(l => after == 0 || l.Number < after).OrderByDescending(l => l.Number)
            : entries.Where(l => l.Number > after).OrderBy(l => l.Number);
        var rows = await ordered
            .Take(limit)
            .Select(l => new LedgerEntrySeen(
                l.Number, l.Json, l.Sha256, l.Words, l.By, l.Account, l.Salt, l.At, l.Swap,
                db.Swaps.Where(s => s.Id == l.Swap).Select(s => s.Name).FirstOrDefault()))
            .ToListAsync(cancel);
        return TypedResults.Ok(new Page<LedgerEntrySeen>(
            rows, rows.Count == limit ? rows[^1].Number.ToString(CultureInfo.InvariantCulture) : null, total));
    }
}
