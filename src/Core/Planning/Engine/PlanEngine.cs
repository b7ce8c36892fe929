namespace YardRelay.Core.Planning;

/// <summary>
/// Solves the appointment problem: the better of two first plans, then several searches by ruin and rebuild side by side.
/// Never worse than plain earliest-feasible insertion, since that is one of the first plans.
/// </summary>
public static class PlanEngine
{
    // The searches meet so many times, and those that fell behind go on from the best plan.
    private const int Meetings = 4;

    // How warm a search begins, in units of cost, and what a visit left out counts for then: one search keeps to the cost, another gives
    // visits up for a while.
    private static readonly (double Warmest, int LeftOut)[] Tempers = [(8, 1000), (30, 200), (15, 1000), (60, 400)];

    // When a plan is repaired, what fell out must press others aside at first: it counts little until they have found new places.
    private static readonly (double Warmest, int LeftOut)[] RepairTempers = [(20, 200), (30, 100), (30, 200), (40, 300)];

    /// <summary>The best plan found within the budget. It keeps all rules.</summary>
    /// <param name="from">A plan to go on from, of this instance or of one much like it: what still fits stays where it is, the rest is
    /// placed anew. It is one more first plan.</param>
    public static Plan Solve(AppointmentProblem problem, PlanBudget budget, int seed, Plan? from = null)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(budget.Searches, 1);
        var ground = new Ground(problem);
        var first = First(ground);
        var tempers = Tempers;
        if (from is not null && Repaired(ground, from) is var repaired && repaired.Cost <= first.Cost)
            (first, tempers) = (repaired, RepairTempers);
        if (first.Count == 0 || budget.Steps == 0) return first.ToPlan(visit => WhyNot.Explain(problem, first, visit));
        var searches = new Search[budget.Searches];
        Parallel.For(0, searches.Length, i =>
            searches[i] = new(
                i == 0 ? first : first.Copy(), unchecked((seed * 1_000_003) + i), tempers[i % tempers.Length].Warmest,
                tempers[i % tempers.Length].LeftOut));
        // A search ends at its share of the steps or with the time, whichever comes first; between meetings only its part of either.
        var share = Math.Max(1, budget.Steps / searches.Length);
        for (var meeting = 0; meeting < Meetings; meeting++)
        {
            var begun = share / Meetings * meeting;
            var steps = meeting == Meetings - 1 ? share - begun : share / Meetings;
            var until = (meeting + 1.0) / Meetings;
            Parallel.For(0, searches.Length, i => searches[i].Run(steps, step =>
                budget.Spent() is var spent && spent >= until ? 1 : Math.Max(spent, (double)(begun + step) / share)));
            if (budget.Spent() >= 1) break;
            var best = searches.MinBy(s => s.BestCost)!;
            foreach (var behind in searches.Where(s => s.BestCost > best.BestCost)) behind.Learn(best);
        }
        var plan = searches.MinBy(s => s.BestCost)!.Best();
        var kept = from is null ? [] : BackWhereTheyStood(plan, from);
        Settle(plan, kept);
        if (kept.Count > 0) SettleDays(plan, kept);
        // Moving visits together may have made room.
        InsertCheapest(plan);
        return plan.ToPlan(visit => WhyNot.Explain(problem, plan, visit));
    }

    /// <summary>
    /// Plain insertion: every visit in the order of the instance at its earliest feasible time. The measure that the engine must never fall
    /// behind.
    /// </summary>
    public static Plan SolveEarliest(AppointmentProblem problem)
    {
        var timetable = new Timetable(problem);
        InsertEarliest(timetable);
        return timetable.ToPlan(visit => WhyNot.Explain(problem, timetable, visit));
    }

    /// <summary>
    /// Of visits that kept start and technician, brings the last part back to where it was, if it fits there; returns them all.
    /// </summary>
    private static HashSet<int> BackWhereTheyStood(Timetable timetable, Plan from)
    {
        var kept = new HashSet<int>();
        var others = new List<(int Visit, Option Now, Option Then)>();
        foreach (var stood in from.Placed)
        {
            if (timetable.IndexOf(stood.Id) is not { } visit
                || timetable.At(visit) is not { Exists: true } at
                || at.Start != stood.Start
                || timetable.Problem.Technicians[at.Technician].Id != stood.Technician)
                continue;
            kept.Add(visit);
            if (at.Finish != stood.Finish) others.Add((visit, at, at with { Finish = stood.Finish }));
        }
        // All together or none: two that only changed places are in each other's way.
        var cost = timetable.Cost;
        foreach (var other in others) timetable.Lift(other.Visit);
        var back = others.TakeWhile(o =>
        {
            var fits = timetable.BreaksAt(o.Visit, o.Then.Technician, o.Then.Start, o.Then.Finish).Count == 0;
            if (fits) timetable.Place(o.Visit, o.Then);
            return fits;
        }).ToList();
        if (back.Count == others.Count && timetable.Cost <= cost) return kept;
        foreach (var one in back) timetable.Lift(one.Visit);
        foreach (var other in others) timetable.Place(other.Visit, other.Now);
        return kept;
    }

    /// <summary>
    /// Days that a technician got through a repair, with nobody on them who stays where they were: each goes as it is to the earliest day
    /// on which it can stand.
    /// One visit alone would not move there, because a day more that is worked costs more than it saves.
    /// </summary>
    private static void SettleDays(Timetable timetable, HashSet<int> kept)
    {
        var days = Enumerable.Range(0, timetable.Count)
            .Where(timetable.IsPlaced)
            .GroupBy(v => (timetable.At(v).Technician, Day: Minutes.DayOf(timetable.At(v).Start)))
            .OrderBy(g => g.Key.Day)
            .ThenBy(g => g.Key.Technician);
        foreach (var ((_, day), visits) in days.Where(g => !g.Any(kept.Contains))
            .Select(g => (g.Key, g.OrderBy(v => timetable.At(v).Start).ThenBy(v => v).ToList())).ToList())
        {
            var (cost, stood) = (timetable.Cost, visits.ConvertAll(v => (Visit: v, At: timetable.At(v))));
            foreach (var visit in visits) timetable.Lift(visit);
            var fits = false;
            for (var to = 0; to < day && !fits; to++)
            {
                var by = (to - day) * Minutes.PerDay;
                var placed = stood.TakeWhile(s =>
                {
                    var option = s.At with { Start = s.At.Start + by, Finish = s.At.Finish + by };
                    var may = option.Start >= 0 && timetable.BreaksAt(s.Visit, option.Technician, option.Start, option.Finish).Count == 0;
                    if (may) timetable.Place(s.Visit, option);
                    return may;
                }).ToList();
                fits = placed.Count == stood.Count && timetable.Cost <= cost;
                if (!fits)
                    foreach (var one in placed) timetable.Lift(one.Visit);
            }
            if (!fits)
                foreach (var (visit, at) in stood) timetable.Place(visit, at);
        }
    }

    /// <summary>
    /// Moves each visit to the earliest of the places that cost no more: a search leaves them wherever they happened to fit.
    /// </summary>
    /// <param name="kept">Visits that stay where they are.</param>
    private static void Settle(Timetable timetable, HashSet<int> kept)
    {
        var gone = new List<(int Visit, Option At)>();
        for (var (round, moved) = (0, true); moved && round < 4; round++)
        {
            moved = false;
            foreach (var visit in Enumerable.Range(0, timetable.Count)
                .Where(timetable.IsPlaced)
                .OrderBy(i => timetable.At(i).Start)
                .ThenBy(i => i).ToList())
            {
                if (kept.Contains(visit) || timetable.FollowersOf(visit).Any(timetable.IsPlaced)) continue;
                var (cost, at) = (timetable.Cost, timetable.At(visit));
                timetable.Remove(visit, gone);
                var option = timetable.FindBest(visit);
                timetable.Place(visit, option);
                if (timetable.Cost < cost
                    || (timetable.Cost == cost && (option.Start < at.Start || (option.Start == at.Start && option.Finish < at.Finish))))
                    moved = true;
                else if (option != at)
                {
                    timetable.Remove(visit, gone);
                    timetable.Place(visit, at);
                }
            }
        }
    }

    private static Timetable Repaired(Ground ground, Plan from)
    {
        var timetable = new Timetable(ground);
        timetable.PlaceWhatFits(from);
        InsertCheapest(timetable);
        return timetable;
    }

    private static Timetable First(Ground ground)
    {
        var early = new Timetable(ground);
        InsertEarliest(early);
        var careful = new Timetable(ground);
        InsertCheapest(careful);
        return careful.Cost <= early.Cost ? careful : early;
    }

    private static void InsertCheapest(Timetable timetable)
    {
        // What matters most and fits least first.
        var open = timetable.LeftOut.OrderByDescending(i => timetable.Visit(i).Weight)
            .ThenBy(i => timetable.AbleFor(i).Count)
            .ThenBy(i => timetable.Visit(i).Target)
            .ThenBy(i => i).ToList();
        for (var placed = true; placed && open.Count > 0;)
        {
            placed = false;
            var waiting = new List<int>();
            foreach (var visit in open)
            {
                if (!timetable.Leads(visit)) waiting.Add(visit);
                else if (timetable.FindBest(visit) is { Exists: true } option)
                {
                    timetable.Place(visit, option);
                    placed = true;
                }
            }
            open = waiting;
        }
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
                if (timetable.FindEarliest(visit) is not { Exists: true } option) continue;
                timetable.Place(visit, option);
                placed = true;
            }
        }
    }
}
