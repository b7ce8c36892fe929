namespace YardRelay.Core.Carrying.CarryLists;

internal sealed record CarryListRuleProblem(string Path, string What) : Problem(
    "carry-list.rule",
    $"Carry list, '{Path}': {What}");

internal sealed record CarryListManyProblem(int MostRules) : Problem(
    "carry-list.many",
    $"A carry list has at most {MostRules:#,0} lines.");

internal sealed record CarryListVersionProblem() : Problem(
    "carry-list.version",
    "A carry list begins with 'version: 1'.");

internal sealed record CarryListFormProblem(long Line, string Why) : Problem(
    "carry-list.form",
    $"The carry list cannot be read: line {Line}: {Why}");
