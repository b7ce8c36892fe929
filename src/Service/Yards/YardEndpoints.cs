using YardRelay.Service.Accounts;

namespace YardRelay.Service.Yards;

/// <summary>The whole yard at a glance, and its report for the people above: two pages, or a table.</summary>
internal static class YardEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/yard", YardHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetYard")
            .WithSummary("Where every swap is by site and station, what is stuck and why, done against plan, ages, loads.");
        routes.MapGet("/refreshes/{refresh}/progress.csv", YardHandlers.CsvAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetProgressCsv")
            .WithSummary("Progress as a table (RFC 4180).")
            .Produces(200, contentType: "text/csv");
        routes.MapGet("/refreshes/{refresh}/progress.pdf", YardHandlers.PdfAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetProgressPdf")
            .WithSummary("Progress on two pages.")
            .Produces(200, contentType: "application/pdf");
    }
}
