namespace YardRelay.Core.Carrying.Inventories;

internal sealed record PlacesPatternProblem(string Text) : Problem(
    "places.pattern",
    $"'{Text}' is no pattern for a place. Write a path below the home such as Library/Mail, with * inside its parts, or "
        + $"**/NAME for any depth.");

internal sealed record PlacesVersionProblem() : Problem(
    "places.version",
    "Rules for places begin with 'version: 1'.");

internal sealed record PlacesFormProblem(long Line, string Why) : Problem(
    "places.form",
    $"The rules cannot be read: line {Line}: {Why}");

internal sealed record PlacesManyProblem(int MostRules) : Problem(
    "places.many",
    $"There are more than {MostRules} rules. Take some away.");

internal sealed record PlacesRuleProblem(int Number, string Place, string Why) : Problem(
    "places.rule",
    $"Rule {Number}{Place}: {Why}");
