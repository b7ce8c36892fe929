namespace YardRelay.Core.Planning;

/// <summary>How long the engine may improve its first plan.</summary>
/// <param name="Steps">At most so many steps of ruin and rebuild in all.</param>
/// <param name="Spent">Asked between steps, from several threads: how much of the time is spent, 0 to 1; 1 stops at once with the best plan
/// so far.</param>
/// <param name="Searches">Searches that go on side by side and learn from each other now and then, 1 to 64. The same number, steps and seed
/// give the same plan on any number of cores.</param>
public sealed record PlanBudget(long Steps, Func<double> Spent, int Searches)
{
    /// <summary>A budget in steps: repeatable, unless it is stopped.</summary>
    /// <param name="stopped">Asked between steps; true stops at once with the best plan so far.</param>
    public static PlanBudget OfSteps(long steps, Func<bool>? stopped = null) => new(steps, () => stopped?.Invoke() == true ? 1 : 0, 4);

    /// <summary>A budget of time: as good as it gets.</summary>
    /// <param name="cores">Searches side by side.</param>
    public static PlanBudget OfTime(Func<double> spent, int cores) => new(long.MaxValue, spent, Math.Clamp(cores, 1, 64));
}
