namespace YardRelay.Core.Planning;

/// <summary>A plan in a few figures.</summary>
/// <param name="LastDay">Day of the last visit; -1: nothing is placed.</param>
public sealed record PlanDigest(int Placed, int LeftOut, PlanCost Cost, int LastDay)
{
    /// <summary>The figures of a plan.</summary>
    public static PlanDigest Of(AppointmentProblem problem, Plan plan) =>
        new(
            plan.Placed.Count,
            plan.Unplaced.Count,
            PlanChecker.Cost(problem, plan),
            plan.Placed.Count == 0 ? -1 : plan.Placed.Max(p => Minutes.DayOf(p.Start)));
}

/// <summary>What one plan does with a visit that another does otherwise.</summary>
/// <param name="Before">Null: left out, or not there.</param>
/// <param name="After">Null: left out, or not there.</param>
public sealed record PlanChange(string Visit, Placed? Before, Placed? After)
{
    /// <summary>Visits that stand elsewhere, came in or went out, in the order of their ids.</summary>
    public static IReadOnlyList<PlanChange> Between(Plan before, Plan after)
    {
        var (was, isNow) = (before.Placed.ToDictionary(p => p.Id), after.Placed.ToDictionary(p => p.Id));
        return [.. was.Keys.Union(isNow.Keys)
            .Select(id => new PlanChange(id, was.GetValueOrDefault(id), isNow.GetValueOrDefault(id)))
            .Where(c => c.Before != c.After)
            .OrderBy(c => c.Visit, StringComparer.Ordinal)];
    }
}
