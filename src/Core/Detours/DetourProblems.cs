namespace YardRelay.Core.Detours;

internal sealed record DetourNotNowProblem(string Because) : Problem(
    "detour.not-now",
    $"That cannot be: {Because}");
