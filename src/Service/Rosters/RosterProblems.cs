using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Rosters;

internal sealed record RosterFormProblem(string Form) : Problem(
    "roster.form",
    $"'{Form}' is no form of a roster. Use csv or xlsx.");

internal sealed record RosterSizeProblem() : Problem(
    "roster.size",
    "A roster has at most 16 MB.");

internal sealed record RosterWorkbookProblem() : Problem(
    "roster.workbook",
    "This workbook cannot be read. Save it as XLSX or CSV again; a workbook with a password has to be saved without one.");

internal sealed record RosterWorkbookLarge(string What) : Problem(
    "roster.workbook-large",
    $"This workbook has {What}. A roster has a row for each swap: save just that sheet by itself.");

internal sealed record RosterNameProblem() : Problem(
    "roster.name",
    "The name under which a roster's progress is asked for has 1 to 64 characters.");

internal sealed record TooManyColumns() : Problem(
    "roster.columns",
    "A match names at most 200 columns.");

internal sealed record ColumnUnknown(string Unknown, string All) : Problem(
    "roster.columns",
    $"A roster has no column '{Unknown}'. It has {All}; leave it empty to pass a column "
        + $"over.");

internal sealed record RosterBuiltOnProblem(int Number, string Why) : ServiceProblem(
    "roster.built-on",
    $"Taking {Number} cannot be undone: {Why}.", 409);
