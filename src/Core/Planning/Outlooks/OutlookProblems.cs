namespace YardRelay.Core.Planning.Outlooks;

internal sealed record OutlookSpreadProblem(double LengthSpread) : Problem(
    "outlook.spread",
    $"The spread of lengths is 0 to 2, not {LengthSpread}.");

internal sealed record OutlookChanceProblem(string What, double Chance) : Problem(
    "outlook.chance",
    $"The chance of {What} is 0 to 1, not {Chance}.");

internal sealed record OutlookOvertimeProblem(int OvertimeMinutes) : Problem(
    "outlook.overtime",
    $"The overtime is 0 to 600 minutes, not {OvertimeMinutes}.");
