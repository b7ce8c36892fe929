namespace YardRelay.Core.Planning.Outlooks;

/// <summary>What it costs and what it buys to plan so much more time for every visit than its estimate.</summary>
/// <param name="Minutes">How many more for each visit, at its end.</param>
/// <param name="LeftOut">Visits that then have no place.</param>
/// <param name="Moved">Appointments that would be another than they are.</param>
/// <param name="LastDay">Day of the last visit; -1: there is none.</param>
/// <param name="InTime">Chance that all that is placed is done by the last day of the instance.</param>
/// <param name="Overtime">Chance that somebody works past a shift, on the average day with visits.</param>
/// <param name="Repeated">Visits that must be repeated, on average.</param>
public sealed record SlackRung(int Minutes, int LeftOut, int Moved, int LastDay, double InTime, double Overtime, double Repeated);

/// <summary>
/// How much slack buys how much: the plan is made anew with room for longer visits, and played with the lengths as they are estimated.
/// </summary>
public static class SlackLadder
{
    /// <summary>
    /// Steps of the ladder; the first is the plan as it is, and each has one grid more for every visit than the one before.
    /// </summary>
    public const int Steps = 5;

    /// <summary>Climbs the ladder.</summary>
    /// <param name="plan">The plan as it is; what can stay, stays.</param>
    /// <param name="budget">What each step's plan may be improved with.</param>
    public static IReadOnlyList<SlackRung> Climb(
        AppointmentProblem problem, Plan plan, Doubts doubts, int runs, int seed, Func<PlanBudget> budget) =>
        [.. Enumerable.Range(0, Steps).Select(step =>
        {
            var more = step * problem.Grid;
            var wide = more == 0 ? plan : PlanEngine.Solve(Wider(problem, plan, more), budget(), seed, plan);
            // Who a step leaves out is its price, and is not to make its chances better: only whoever each has placed is played.
            var report = Outlook.Play(problem, wide, doubts, runs, seed);
            return new SlackRung(
                more,
                wide.Unplaced.Count,
                PlanChange.Between(plan, wide).Count(c =>
                    c is { Before: not null, After: not null }
                        && (c.Before.Start, c.Before.Technician) != (c.After.Start, c.After.Technician)),
                wide.Placed.Count == 0 ? -1 : wide.Placed.Max(p => Minutes.DayOf(p.Start)),
                report.InTime, report.Days.Count == 0 ? 0 : report.Days.Average(d => d.Overtime), report.Days.Sum(d => d.Repeated));
        })];

    /// <summary>
    /// The same instance with every free visit's last hands-on part so much longer. What stands in the plan counts as promised; what is
    /// pinned in time stays as it is.
    /// </summary>
    private static AppointmentProblem Wider(AppointmentProblem problem, Plan plan, int minutes)
    {
        var at = plan.Placed.ToDictionary(p => p.Id);
        return problem.With([.. problem.Visits.Select(v => v.Pinned?.Start is not null ? v : v with
        {
            Before = v.After > 0 ? v.Before : v.Before + minutes,
            After = v.After > 0 ? v.After + minutes : 0,
            Published = v.Published ?? (at.TryGetValue(v.Id, out var placed) ? new(placed.Start, placed.Technician) : null),
        })]).Value;
    }
}
