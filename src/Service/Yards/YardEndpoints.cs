using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Paper;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;

namespace YardRelay.Service.Yards;

/// <summary>The whole yard at a glance, and its report for the people above: two pages, or a table.</summary>
internal static class YardEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/yard", GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetYard")
            .WithSummary("Where every swap is by site and station, what is stuck and why, done against plan, ages, loads.");
        routes.MapGet("/refreshes/{refresh}/progress.csv", CsvAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetProgressCsv")
            .WithSummary("Progress as a table (RFC 4180).")
            .Produces(200, contentType: "text/csv");
        routes.MapGet("/refreshes/{refresh}/progress.pdf", PdfAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetProgressPdf")
            .WithSummary("Progress on two pages.")
            .Produces(200, contentType: "application/pdf");
    }

    private static async Task<(RefreshRow Row, YardSeen Seen)?> ReadAsync(
        string refresh, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel) =>
        await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is { } row
            ? (row, await reader.ReadAsync(row, time.GetUtcNow(), cancel))
            : null;

    private static ProblemHttpResult None(string refresh) => new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();

    private static async Task<Results<Ok<YardSeen>, ProblemHttpResult>> GetAsync(
        string refresh, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel) =>
        await ReadAsync(refresh, db, reader, time, cancel) is var (_, seen) ? TypedResults.Ok(seen) : None(refresh);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CsvAsync(
        string refresh, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel) =>
        await ReadAsync(refresh, db, reader, time, cancel) is var (_, seen)
            ? TypedResults.File(CsvTable.Write(Rows(seen)), "text/csv; charset=utf-8", $"{refresh}-progress.csv")
            : None(refresh);

    private static IEnumerable<string[]> Rows(YardSeen seen)
    {
        static string Text(int number) => number.ToString(CultureInfo.InvariantCulture);
        yield return ["part", "name", "swaps", "planned", "done", "late"];
        foreach (var day in seen.Progress)
            yield return ["day", $"{day.Day:yyyy-MM-dd}", "", Text(day.Planned), day.Done is { } done ? Text(done) : "", ""];
        foreach (var site in seen.BySite) yield return ["site", site.Name, Text(site.Swaps), "", Text(site.Done), Text(site.Late)];
        foreach (var wave in seen.ByWave) yield return ["wave", wave.Name, Text(wave.Swaps), "", Text(wave.Done), Text(wave.Late)];
        foreach (var load in seen.Technicians) yield return ["technician", load.Name, Text(load.Ahead), "", "", ""];
        foreach (var stuck in seen.Stuck) yield return ["stuck", $"{stuck.Name}: {stuck.Words}", "1", "", "", ""];
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        string refresh, HttpRequest request, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel)
    {
        if (await ReadAsync(refresh, db, reader, time, cancel) is not var (row, seen)) return None(refresh);
        if (!Fonts.AreThere()) return new Problem[] { Fonts.Missing }.ToHttp();
        return TypedResults.File(
            YardPaper.Write(row, seen, new RefreshClock(row), $"{request.Scheme}://{request.Host}{request.PathBase}/yard"),
            "application/pdf",
            $"{refresh}-progress.pdf");
    }
}
