using YardRelay.Service.Accounts;

namespace YardRelay.Service.Reports;

/// <summary>The report of a parcel: what came, what did not and why, what to install again; as data, table and paper.</summary>
internal static class ReportEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/swaps/{swap}/report", ReportHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReport")
            .WithSummary("What became of a swap's files and programs.");
        routes.MapGet("/swaps/{swap}/report.csv", ReportHandlers.CsvAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReportCsv")
            .WithSummary("The report as a table (RFC 4180).")
            .Produces(200, contentType: "text/csv");
        routes.MapGet("/swaps/{swap}/report.pdf", ReportHandlers.PdfAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetReportPdf")
            .WithSummary("The report on paper, with a code that leads to the swap's page.")
            .Produces(200, contentType: "application/pdf");
    }
}
