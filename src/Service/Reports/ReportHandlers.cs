using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Reports;

/// <summary>The work behind <see cref="ReportEndpoints"/>.</summary>
internal static class ReportHandlers
{
    private static ProblemHttpResult None(string swap) => ServiceProblem.NotFound("swap", swap).ToHttp();

    internal static async Task<Results<Ok<ParcelReport>, ProblemHttpResult>> GetAsync(
        SwapId swap, ReportReader reader, CancellationToken cancel) =>
        await reader.ReadAsync(swap, cancel) is { } report ? TypedResults.Ok(report) : None(swap);

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CsvAsync(
        SwapId swap, ReportReader reader, CancellationToken cancel) =>
        await reader.ReadAsync(swap, cancel) is { } report
            ? TypedResults.File(ReportTable.Write(report), "text/csv; charset=utf-8", $"{swap}-report.csv")
            : None(swap);

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        SwapId swap, HttpRequest request, ReportReader reader, YardDb db, CancellationToken cancel)
    {
        if (await reader.ReadAsync(swap, cancel) is not { } report) return None(swap);
        var page = $"{request.Scheme}://{request.Host}{request.PathBase}/swaps/{Uri.EscapeDataString(swap)}";
        var clock = new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == swap.Refresh.Text, cancel));
        return ReportPaper.TryWrite(report, clock, page).TryGet(out var pdf, out var problem)
            ? TypedResults.File(pdf, "application/pdf", $"{swap}-report.pdf")
            : problem.ToHttp();
    }
}
