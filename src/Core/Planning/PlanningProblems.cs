namespace YardRelay.Core.Planning;

internal sealed record PlanInstanceProblem(string Message) : Problem(
    "plan.instance",
    Message);

internal sealed record InstanceForm(string Path, long? Line, string Why) : Problem(
    "plan.json",
    $"The instance is not in the expected form at {Path}, line {Line}: {Why} "
        + $"See docs/formats.md.");

internal sealed record InstanceNull() : Problem(
    "plan.json",
    "The instance is 'null'. See docs/formats.md.");

internal sealed record TimeIsNoPair(string Whose) : Problem(
    "plan.json",
    $"{Whose} has a time that is not a pair [start, end] of minutes.");

internal sealed record StagingHalfGiven(string Id) : Problem(
    "plan.json",
    $"Swap '{Id}' must give all of 'depot', 'size', 'lead' and 'hold', or none.");

internal sealed record PlanNull() : Problem(
    "plan.json",
    "The plan is 'null'.");

internal sealed record PlanForm(string Path, string Why) : Problem(
    "plan.json",
    $"The plan is not in the expected form at {Path}: {Why}");
