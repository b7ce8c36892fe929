namespace YardRelay.Core.Carrying.Landings;

internal sealed record LandingPlanProblem(string What) : Problem(
    "landing.plan",
    What);
