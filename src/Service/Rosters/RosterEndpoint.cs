using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using MiniExcelLibs;
using YardRelay.Core;
using YardRelay.Core.Roster;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Rosters;

/// <summary>Rosters: look at one, match its columns, take it, undo that; a template and a sample to start from.</summary>
internal static class RosterEndpoint
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/refreshes/{refresh}/roster", RosterHandler.TakeAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("TakeRoster")
            .WithSummary(
                "Takes a roster (CSV or XLSX). dryRun=true only shows what would change; skipFaulty=true leaves bad rows; dropGone=true "
                    + "takes out who is not in it and has not begun; name=NAME lets its progress be asked for.")
            .AddOpenApiOperationTransformer((operation, _, _) =>
        {
            // Only described, not demanded: a wrong content type must meet the sign-in first.
            operation.RequestBody = RosterFile.Body();
            return Task.CompletedTask;
        });
        routes.MapGet("/refreshes/{refresh}/roster/progress/{name}", (string refresh, string name, RosterDesk desk) =>
            TypedResults.Ok(desk.Of(refresh, name)))
            .RequireAuthorization(Roles.Leads)
            .WithName("GetRosterProgress")
            .WithSummary("How far the roster is that is being taken under this name (name=NAME of the taking).");
        routes.MapPut("/refreshes/{refresh}/roster/columns", RosterHandler.MatchAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("MatchColumns")
            .WithSummary("Keeps what columns of a file are read as, for this roster and the next.");
        routes.MapGet("/refreshes/{refresh}/roster/takings", RosterHandler.TakingsAsync)
            .RequireAuthorization(Roles.Oversees)
            .WithName("ListTakings")
            .WithSummary("Rosters that were taken, newest first, and whether each can be undone.");
        routes.MapPost("/refreshes/{refresh}/roster/takings/{number:int}/undo", RosterHandler.UndoAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("UndoTaking")
            .WithSummary("Undoes a taking while nothing has been built on it.");
        routes.MapGet("/roster-template", (string? form, bool? sample) => Template(form, sample == true))
            .RequireAuthorization(Roles.Anyone)
            .WithName("GetRosterTemplate")
            .WithSummary("A blank roster, or a sample (sample=true), as CSV or XLSX (form=xlsx).");
    }

    private static Results<FileContentHttpResult, ProblemHttpResult> Template(string? form, bool sample)
    {
        if (form is not (null or "csv" or "xlsx"))
            return new RosterFormProblem(form).ToHttp();
        var (name, rows) = (sample ? "roster-sample" : "roster", sample ? RosterHandler.Sample : []);
        if (form != "xlsx")
            return TypedResults.File(
                Encoding.UTF8.GetBytes("\uFEFF"
                    + string.Concat(rows.Prepend([.. RosterColumns.All]).Select(r => string.Join(',', r) + "\r\n"))),
                RosterFile.Csv,
                name + ".csv");
        using var workbook = new MemoryStream();
        var table = new System.Data.DataTable();
        foreach (var column in RosterColumns.All) table.Columns.Add(column);
        foreach (var row in rows) table.Rows.Add([.. row]);
        workbook.SaveAs(table, sheetName: "Roster");
        return TypedResults.File(workbook.ToArray(), RosterFile.Workbook, name + ".xlsx");
    }
}
