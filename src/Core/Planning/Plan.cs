namespace YardRelay.Core.Planning;

/// <summary>A visit that has its technician and times (minutes since day 0).</summary>
/// <param name="Finish">When the last hands-on part begins.</param>
public sealed record Placed(string Id, string Technician, int Start, int Finish);

/// <summary>A visit left out, and what stands in its way, in words to act on.</summary>
public sealed record Unplaced(string Id, string Because);

/// <summary>Every visit of an instance, once: placed or left out.</summary>
public sealed record Plan(IReadOnlyList<Placed> Placed, IReadOnlyList<Unplaced> Unplaced);

/// <summary>One rule of the appointment problem that a plan breaks.</summary>
/// <param name="Rule">0: the plan's form; 1 to 8 as numbered in <c>docs/formats.md</c>.</param>
public sealed record Breach(int Rule, string Message);

/// <summary>What a plan costs, part by part; lower is better.</summary>
public sealed record PlanCost(int LeftOut, int Late, int NotPreferred, int Moved, int Journeys, int TechnicianDays)
{
    /// <summary>The sum.</summary>
    public int Total => LeftOut + Late + NotPreferred + Moved + Journeys + TechnicianDays;
}
