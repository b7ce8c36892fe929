namespace YardRelay.Core.Planning;

/// <summary>How long the engine may improve its first plan.</summary>
/// <param name="Steps">At most so many steps of ruin and rebuild; the same steps and seed give the same plan.</param>
/// <param name="GoOn">Asked between steps; false stops at once with the best plan so far.</param>
public sealed record PlanBudget(long Steps, Func<bool> GoOn)
{
    /// <summary>A budget in steps alone: repeatable.</summary>
    public static PlanBudget OfSteps(long steps) => new(steps, static () => true);
}

/// <summary>
/// Solves the appointment problem: insertion by regret, then ruin and rebuild with a threshold that sinks.
/// Never worse than plain earliest-feasible insertion, since that is one of its starts.
/// </summary>
public static class PlanEngine
{
    // Regret compares every open visit with every other; beyond this many at once the gain no longer pays for the time.
    private const int RegretAtOnce = 48;

    /// <summary>The best plan found within the budget. It keeps all rules.</summary>
    public static Plan Solve(AppointmentProblem problem, PlanBudget budget, int seed)
    {
        var early = new Timetable(problem);
        InsertEarliest(early);
        var timetable = new Timetable(problem);
        var random = new Random(seed);
        var order = Enumerable.Range(0, timetable.Count).OrderBy(i => timetable.Visit(i).Target).ThenByDescending(i => timetable.Visit(i).Weight).ThenBy(i => timetable.AbleFor(i).Count).ToList();
        InsertByRegret(timetable, order, budget.GoOn);
        var best = timetable.Cost <= early.Cost ? timetable : early;
        Improve(best, budget, random);
        return best.ToPlan(visit => WhyNot.Explain(problem, best, visit));
    }

    /// <summary>Plain insertion: every visit in the order of the instance at its earliest feasible time. The measure that the engine must never fall behind.</summary>
    public static Plan SolveEarliest(AppointmentProblem problem)
    {
        var timetable = new Timetable(problem);
        InsertEarliest(timetable);
        return timetable.ToPlan(visit => WhyNot.Explain(problem, timetable, visit));
    }

    private static void InsertEarliest(Timetable timetable)
    {
        var open = Enumerable.Range(0, timetable.Count).ToList();
        // What follows another visit can only go in after it, so chains take several rounds.
        for (var placed = true; placed && open.Count > 0;)
        {
            placed = false;
            foreach (var visit in open.ToList())
            {
                if (!timetable.Leads(visit)) continue;
                open.Remove(visit);
                if (timetable.Find(visit, earliest: true).Best is not { Exists: true } option) continue;
                timetable.Place(visit, option);
                placed = true;
            }
        }
    }

    private static void InsertByRegret(Timetable timetable, List<int> open, Func<bool> goOn)
    {
        var waiting = new Queue<int>(open);
        var found = new Dictionary<int, (Option Best, Option Second)>();
        while (waiting.Count > 0 || found.Count > 0)
        {
            for (var tries = waiting.Count; tries > 0 && found.Count < RegretAtOnce; tries--)
            {
                var visit = waiting.Dequeue();
                if (timetable.Leads(visit)) found[visit] = timetable.Find(visit);
                else waiting.Enqueue(visit);
            }
            var (next, regret) = (-1, long.MinValue);
            foreach (var (visit, options) in found)
            {
                if (!options.Best.Exists) continue;
                var loss = options.Second.Exists ? options.Second.Cost - (long)options.Best.Cost : 1_000_000L * timetable.Visit(visit).Weight;
                if (loss > regret || (loss == regret && visit < next)) (next, regret) = (visit, loss);
            }
            if (next < 0)
            {
                if (found.Count == 0) return;
                found.Clear();
                continue;
            }
            var chosen = found[next].Best;
            timetable.Place(next, chosen);
            found.Remove(next);
            var day = Minutes.DayOf(chosen.Start);
            foreach (var (visit, options) in found.ToList())
                if (Touches(options.Best) || Touches(options.Second) || timetable.Visit(visit).Follows is not null) found[visit] = timetable.Find(visit);

            bool Touches(Option option) => !option.Exists || Math.Abs(Minutes.DayOf(option.Start) - day) <= 1;
            if (!goOn() && waiting.Count == 0) return;
        }
    }

    private static void Improve(Timetable timetable, PlanBudget budget, Random random)
    {
        if (timetable.Count == 0) return;
        var bestCost = timetable.Cost;
        var best = Enumerable.Range(0, timetable.Count).Select(timetable.At).ToArray();
        var gone = new List<(int Visit, Option At)>();
        var threshold = Math.Max(2.0, bestCost * 0.002);
        for (long step = 0; step < budget.Steps && budget.GoOn(); step++)
        {
            var costBefore = timetable.Cost;
            gone.Clear();
            var seeds = Ruin(timetable, random, gone);
            var removed = gone.Select(g => g.Visit).Concat(seeds).Distinct().ToList();
            Rebuild(timetable, removed, random);
            if (timetable.Cost < bestCost)
            {
                bestCost = timetable.Cost;
                for (var i = 0; i < best.Length; i++) best[i] = timetable.At(i);
            }
            var allowed = threshold * (1 - ((double)step / Math.Max(1, Math.Min(budget.Steps, 20_000))));
            if (timetable.Cost - costBefore > Math.Max(0, allowed) * random.NextDouble()) Undo(timetable, removed, gone);
        }
        var all = new List<(int, Option)>();
        for (var i = 0; i < best.Length; i++) timetable.Remove(i, all);
        PutBack(timetable, [.. Enumerable.Range(0, best.Length).Where(i => best[i].Exists).Select(i => (i, best[i]))]);
    }

    private static List<int> Ruin(Timetable timetable, Random random, List<(int, Option)> gone)
    {
        var open = Enumerable.Range(0, timetable.Count).Where(i => !timetable.IsPlaced(i)).ToList();
        var tried = open.Count == 0 ? [] : Enumerable.Range(0, Math.Min(open.Count, 4)).Select(_ => open[random.Next(open.Count)]).Distinct().ToList();
        var centre = tried.Count > 0 && random.Next(2) == 0 ? tried[0] : random.Next(timetable.Count);
        var size = 2 + random.Next(Math.Min(14, timetable.Count));
        switch (random.Next(3))
        {
            case 0 when timetable.IsPlaced(centre):
                var at = timetable.At(centre);
                foreach (var visit in timetable.VisitsOf(at.Technician, Minutes.DayOf(at.Start)).ToList()) timetable.Remove(visit, gone);
                break;
            case 1:
                var windows = timetable.Visit(centre).Windows;
                var near = Enumerable.Range(0, timetable.Count).Where(i => timetable.IsPlaced(i) && timetable.SiteOf(i) == timetable.SiteOf(centre)
                    && windows.Any(w => w.Overlaps(new(timetable.At(i).Start, timetable.At(i).Finish + timetable.Visit(i).After)))).ToList();
                for (var i = 0; i < size && near.Count > 0; i++)
                {
                    var pick = random.Next(near.Count);
                    timetable.Remove(near[pick], gone);
                    near.RemoveAt(pick);
                }
                break;
            default:
                for (var i = 0; i < size; i++) timetable.Remove(random.Next(timetable.Count), gone);
                break;
        }
        return tried;
    }

    private static void Rebuild(Timetable timetable, List<int> removed, Random random)
    {
        if (random.Next(3) != 0)
        {
            InsertByRegret(timetable, removed, static () => true);
            return;
        }
        var order = removed.OrderByDescending(i => timetable.Visit(i).Weight * (0.5 + random.NextDouble())).ToList();
        for (var round = 0; round < 2; round++)
            foreach (var visit in order)
                if (!timetable.IsPlaced(visit) && timetable.Leads(visit) && timetable.Find(visit).Best is { Exists: true } option) timetable.Place(visit, option);
    }

    private static void Undo(Timetable timetable, List<int> removed, List<(int Visit, Option At)> gone)
    {
        var scratch = new List<(int, Option)>();
        foreach (var visit in removed) timetable.Remove(visit, scratch);
        PutBack(timetable, gone);
    }

    private static void PutBack(Timetable timetable, List<(int Visit, Option At)> places)
    {
        foreach (var (visit, at) in places.OrderBy(p => p.At.Start)) timetable.Place(visit, at);
    }
}
