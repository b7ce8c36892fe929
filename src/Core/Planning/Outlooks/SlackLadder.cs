namespace YardRelay.Core.Planning.Outlooks;

/// <summary>What it costs and what it buys to plan every part of a visit so much longer than its estimate.</summary>
/// <param name="Percent">How much longer.</param>
/// <param name="LeftOut">Visits that then have no place.</param>
/// <param name="Moved">Appointments that would be another than they are.</param>
/// <param name="LastDay">Day of the last visit; -1: there is none.</param>
/// <param name="InTime">Chance that all that is placed is done by the last day of the instance.</param>
/// <param name="Overtime">Chance that somebody works past a shift, on the average day with visits.</param>
/// <param name="Repeated">Visits that must be repeated, on average.</param>
public sealed record SlackRung(int Percent, int LeftOut, int Moved, int LastDay, double InTime, double Overtime, double Repeated);

/// <summary>How much slack buys how much: the plan is made anew with room for longer visits, and played with the lengths as they are estimated.</summary>
public static class SlackLadder
{
    /// <summary>The steps of the ladder, in percent; the first is the plan as it is.</summary>
    public static IReadOnlyList<int> Steps { get; } = [0, 10, 20, 30, 50];

    /// <summary>Climbs the ladder.</summary>
    /// <param name="plan">The plan as it is; what can stay, stays.</param>
    /// <param name="budget">What each step's plan may be improved with.</param>
    public static IReadOnlyList<SlackRung> Climb(AppointmentProblem problem, Plan plan, Doubts doubts, int runs, int seed, Func<PlanBudget> budget) =>
        [.. Steps.Select(percent =>
        {
            var wide = percent == 0 ? plan : PlanEngine.Solve(Wider(problem, plan, percent), budget(), seed, plan);
            // Who a step leaves out is its price, and is not to make its chances better: only whoever each has placed is played.
            var report = Outlook.Play(problem, wide, doubts, runs, seed);
            return new SlackRung(
                percent, wide.Unplaced.Count, PlanChange.Between(plan, wide).Count(c => c is { Before: not null, After: not null } && (c.Before.Start, c.Before.Technician) != (c.After.Start, c.After.Technician)),
                wide.Placed.Count == 0 ? -1 : wide.Placed.Max(p => Minutes.DayOf(p.Start)),
                report.InTime, report.Days.Count == 0 ? 0 : report.Days.Average(d => d.Overtime), report.Days.Sum(d => d.Repeated));
        })];

    /// <summary>The same instance with every free visit's parts longer, upwards to the grid. What stands in the plan counts as promised; what is pinned in time stays as it is.</summary>
    private static AppointmentProblem Wider(AppointmentProblem problem, Plan plan, int percent)
    {
        int Longer(int minutes) => (int)(((long)minutes * (100 + percent) + (100L * problem.Grid) - 1) / (100L * problem.Grid)) * problem.Grid;
        var at = plan.Placed.ToDictionary(p => p.Id);
        return problem.With([.. problem.Visits.Select(v => v.Pinned?.Start is not null ? v : v with
        {
            Before = Longer(v.Before),
            Unattended = Longer(v.Unattended),
            After = Longer(v.After),
            Published = v.Published ?? (at.TryGetValue(v.Id, out var placed) ? new(placed.Start, placed.Technician) : null),
        })]).Value;
    }
}
