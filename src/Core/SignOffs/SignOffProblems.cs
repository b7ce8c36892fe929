namespace YardRelay.Core.SignOffs;

internal sealed record PaperUnreadable(string Why) : Problem(
    "sign-off.paper",
    $"This is no sign-off of ours: {Why}");

internal sealed record PaperOfAnotherForm(string Format) : Problem(
    "sign-off.paper",
    $"This is no sign-off of ours: a JSON object with 'format': '{Format}' is expected, with refresh, swap, part, by and at.");
