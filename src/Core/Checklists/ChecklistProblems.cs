namespace YardRelay.Core.Checklists;

internal sealed record StepAutomaticProblem(string Title) : Problem(
    "step.automatic",
    $"'{Title}' is checked by the system and cannot be set by a person. It is done as soon as the fact is there.");

internal sealed record NotApplicableWithoutReason(string Title) : Problem(
    "step.reason",
    $"'{Title}' can only be not applicable with a reason that says something. Say why; whoever signs sees it.");

internal sealed record StepReasonTooLong() : Problem(
    "step.reason",
    "The reason is longer than 500 characters. Shorten it.");

internal sealed record StepNotStartedProblem(string Title) : Problem(
    "step.not-started",
    $"'{Title}' was not started. Start it first, so that its time is measured.");

internal sealed record StepWrongComputerProblem(string Read, string Which, string Expected) : Problem(
    "step.wrong-computer",
    $"Wrong computer: {Read} was read, and the {Which} "
        + $"computer of this swap is {Expected}. Look at the label again; do not go on with this one.");

internal sealed record StepKindProblem(string Title, string Asks) : Problem(
    "step.kind",
    $"'{Title}' cannot be claimed like that: {Asks}");

internal sealed record StepNumberProblem(string Title, string Value) : Problem(
    "step.number",
    $"'{Title}': '{Value}' is no number. Write digits, with a point before decimals.");

internal sealed record StepBoundsProblem(string Words, string Bounds) : Problem(
    "step.bounds",
    Words
        + $" is outside {Bounds}. Look again; what is really so far off does not apply, with the reason, or "
        + $"is a follow-up.");

internal sealed record StepChoiceProblem(string Title, string Value, string Options) : Problem(
    "step.choice",
    $"'{Title}': '{Value}' is none of {Options}.");

internal sealed record StepTextProblem(string Title, int MostText) : Problem(
    "step.text",
    $"'{Title}' takes 1 to {MostText} characters.");

/// <summary>A fault of a checklist's text, at its line.</summary>
/// <param name="Line">Counted from 1.</param>
/// <param name="Said">What is wrong, without the line.</param>
public abstract record ChecklistFault(string Code, long Line, string Said) : Problem(Code, $"Checklist line {Line}: {Said}");

internal sealed record ChecklistTooLong(int MostCharacters, int YamlCount) : Problem(
    "checklist.size",
    $"A checklist has at most {MostCharacters:#,0} characters; this one has {YamlCount:#,0}.");

internal sealed record ChecklistNoYaml(long Line, string Why) : ChecklistFault("checklist.yaml", Line, $"this is not YAML: {Why}");

internal sealed record ChecklistNoDocument() : Problem(
    "checklist.yaml",
    "A checklist is one YAML document with 'name' and 'steps'. See docs/formats.md.");

internal sealed record ChecklistTooMuch(string Bound, long Line, string What) : ChecklistFault($"checklist.{Bound}", Line, What);

internal sealed record ChecklistFormProblem(long Line, string What) : ChecklistFault("checklist.form", Line, What);
