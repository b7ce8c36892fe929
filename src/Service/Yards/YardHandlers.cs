using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Paper;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Yards;

/// <summary>The work behind <see cref="YardEndpoints"/>.</summary>
internal static class YardHandlers
{
    private static async Task<(RefreshRow Row, YardSeen Seen)?> ReadAsync(
        string refresh, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel) =>
        await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is { } row
            ? (row, await reader.ReadAsync(row, time.GetUtcNow(), cancel))
            : null;

    private static ProblemHttpResult None(string refresh) => ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Results<Ok<YardSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel) =>
        await ReadAsync(refresh, db, reader, time, cancel) is var (_, seen) ? TypedResults.Ok(seen) : None(refresh);

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CsvAsync(
        RefreshKey refresh, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel) =>
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

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        RefreshKey refresh, HttpRequest request, YardDb db, YardReader reader, TimeProvider time, CancellationToken cancel)
    {
        if (await ReadAsync(refresh, db, reader, time, cancel) is not var (row, seen)) return None(refresh);
        if (!Fonts.AreThere()) return Fonts.Missing.ToHttp();
        return TypedResults.File(
            YardPaper.Write(row, seen, new RefreshClock(row), $"{request.Scheme}://{request.Host}{request.PathBase}/yard"),
            "application/pdf",
            $"{refresh}-progress.pdf");
    }
}
