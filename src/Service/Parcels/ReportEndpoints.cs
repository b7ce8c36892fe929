using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Parcels;

/// <summary>The report of a parcel: what came, what did not and why, what to install again; as data, table and paper.</summary>
internal static class ReportEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/swaps/{swap}/report", GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReport")
            .WithSummary("What became of a swap's files and programs.");
        routes.MapGet("/swaps/{swap}/report.csv", CsvAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReportCsv")
            .WithSummary("The report as a table (RFC 4180).")
            .Produces(200, contentType: "text/csv");
        routes.MapGet("/swaps/{swap}/report.pdf", PdfAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReportPdf")
            .WithSummary("The report on paper, with a code that leads to the swap's page.")
            .Produces(200, contentType: "application/pdf");
    }

    private static ProblemHttpResult None(string swap) => new Problem[] { ServiceProblem.NotFound("swap", swap) }.ToHttp();

    private static async Task<Results<Ok<ParcelReport>, ProblemHttpResult>> GetAsync(
        string swap, ReportReader reader, CancellationToken cancel) =>
        await reader.ReadAsync(swap, cancel) is { } report ? TypedResults.Ok(report) : None(swap);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CsvAsync(
        string swap, ReportReader reader, CancellationToken cancel) =>
        await reader.ReadAsync(swap, cancel) is { } report
            ? TypedResults.File(ReportTable.Write(report), "text/csv; charset=utf-8", $"{swap}-report.csv")
            : None(swap);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        string swap, HttpRequest request, ReportReader reader, CancellationToken cancel)
    {
        if (await reader.ReadAsync(swap, cancel) is not { } report) return None(swap);
        var page = $"{request.Scheme}://{request.Host}{request.PathBase}/swaps/{Uri.EscapeDataString(swap)}";
        return ReportPaper.TryWrite(report, page).TryGet(out var pdf, out var problem)
            ? TypedResults.File(pdf, "application/pdf", $"{swap}-report.pdf")
            : new[] { problem }.ToHttp();
    }
}
