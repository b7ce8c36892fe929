namespace YardRelay.Core.Carrying;

internal sealed record RateFormProblem(string Text) : Problem(
    "rate.form",
    $"'{Text}' is no limit. Write '08:00-18:00 40' for at most 40 Mbit/s in these hours, '08:00-18:00 none' for nothing, or "
        + $"'200' for any time.");
