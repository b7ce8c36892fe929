using Google.OrTools.Sat;
using YardRelay.Core.Planning;

namespace YardRelay.Exact;

/// <summary>
/// The appointment problem as a constraint model, written from the rules and costs alone: it shares nothing with the engine but the reading
/// of the file.
/// </summary>
/// <remarks>
/// A visit has a start on the grid, a finish within its slack, a technician, a day and a window. What a technician does on a day is a
/// circuit
/// through the hands-on parts, so that journeys are counted on its arcs, and the arc out of the depot node says that the day is worked.
/// </remarks>
internal sealed class ExactModel
{
    private readonly AppointmentProblem _problem;
    private readonly CpModel _model = new();
    private readonly List<Modelled> _visits = [];
    private readonly List<LinearExpr> _cost = [];

    /// <summary>A hands-on part as the circuits see it.</summary>
    private sealed record HandsOn(string Site, LinearExpr Start, int Minutes, Dictionary<(int Technician, int Day), BoolVar> On);

    private sealed record Modelled(
        Visit Visit, BoolVar Placed, IntVar StartStep, LinearExpr Start, IntVar FinishStep, LinearExpr Finish, Dictionary<int, BoolVar> By,
        Dictionary<int, BoolVar> Day, List<HandsOn> Parts);

    public ExactModel(AppointmentProblem problem)
    {
        _problem = problem;
        foreach (var visit in problem.Visits) _visits.Add(Lay(visit));
        Follow();
        Benches();
        Depots();
        for (var technician = 0; technician < problem.Technicians.Count; technician++)
            for (var day = 0; day < problem.Days; day++)
                Round(technician, day);
        _model.Minimize(LinearExpr.Sum(_cost));
    }

    /// <summary>
    /// Where the search may begin: it changes neither the rules nor the bound, only how soon a good plan is there to compare with.
    /// </summary>
    public void BeginAt(Plan plan)
    {
        var at = plan.Placed.ToDictionary(p => p.Id);
        foreach (var visit in _visits)
        {
            var placed = at.GetValueOrDefault(visit.Visit.Id);
            _model.AddHint(visit.Placed, placed is not null);
            if (placed is null) continue;
            _model.AddHint(visit.StartStep, placed.Start / _problem.Grid);
            _model.AddHint(visit.FinishStep, placed.Finish / _problem.Grid);
            foreach (var (t, does) in visit.By) _model.AddHint(does, _problem.Technicians[t].Id == placed.Technician);
        }
    }

    /// <summary>The best plan within <paramref name="seconds"/>, its cost (null: none found) and a bound below which no plan is.</summary>
    public (Plan? Plan, double Bound, bool Proven) Solve(double seconds, int workers)
    {
        var solver = new CpSolver
        {
            StringParameters = FormattableString.Invariant($"max_time_in_seconds:{seconds},num_workers:{workers},linearization_level:2")
        };
        var status = solver.Solve(_model);
        if (status is not (CpSolverStatus.Optimal or CpSolverStatus.Feasible)) return (null, solver.BestObjectiveBound, false);
        var placed = _visits.Where(v => solver.BooleanValue(v.Placed)).Select(v => new Placed(
            v.Visit.Id,
            _problem.Technicians[v.By.First(b => solver.BooleanValue(b.Value)).Key].Id,
            (int)solver.Value(v.Start),
            (int)solver.Value(v.Finish)));
        var left = _visits.Where(v => !solver.BooleanValue(v.Placed)).Select(v =>
            new Unplaced(v.Visit.Id, "The exact solver left it out; it does not look for a reason."));
        return (new([.. placed], [.. left]), solver.BestObjectiveBound, status == CpSolverStatus.Optimal);
    }

    private Modelled Lay(Visit visit)
    {
        var grid = _problem.Grid;
        var end = _problem.Days * Minutes.PerDay;
        var step = _model.NewIntVar(0, end / grid, $"start {visit.Id}");
        var last = _model.NewIntVar(0, end / grid, $"finish {visit.Id}");
        LinearExpr start = step * grid, finish = last * grid;
        _model.AddLinearConstraint(
            finish - start, visit.Before + visit.Unattended, visit.Before + visit.Unattended + (visit.After == 0 ? 0 : visit.Slack));
        var placed = _model.NewBoolVar($"placed {visit.Id}");
        _cost.Add((1 - placed) * (1000 * visit.Weight));

        // Rule 1. A window is chosen, and the whole visit lies in it.
        var windows = visit.Windows.Select((_, i) => _model.NewBoolVar($"window {visit.Id} {i}")).ToList();
        _model.Add(LinearExpr.Sum(windows) == placed);
        foreach (var (window, chosen) in visit.Windows.Zip(windows))
        {
            _model.Add(start >= Math.Max(window.Start, visit.Release)).OnlyEnforceIf(chosen);
            _model.Add(finish + visit.After <= window.End).OnlyEnforceIf(chosen);
        }

        // Rule 2. A technician who can, and each part in one of the technician's shifts, on a day of the plan.
        var by = new Dictionary<int, BoolVar>();
        var parts = new List<HandsOn> { new(visit.Site, start, visit.Before, []) };
        if (visit.After > 0) parts.Add(new(visit.Site, finish, visit.After, []));
        for (var t = 0; t < _problem.Technicians.Count; t++)
        {
            var technician = _problem.Technicians[t];
            if (!technician.Sites.Contains(visit.Site) || visit.Skills.Except(technician.Skills).Any()) continue;
            var does = by[t] = _model.NewBoolVar($"{technician.Id} does {visit.Id}");
            foreach (var part in parts)
            {
                var inShift = new List<(int Day, BoolVar In)>();
                foreach (var shift in technician.Shifts)
                    for (var day = Minutes.DayOf(shift.Start); day <= Minutes.DayOf(shift.End - 1) && day < _problem.Days; day++)
                    {
                        var from = Math.Max(shift.Start, day * Minutes.PerDay);
                        var until = Math.Min(shift.End - part.Minutes, (day + 1) * Minutes.PerDay - 1);
                        if (from > until) continue;
                        var within = _model.NewBoolVar("");
                        _model.Add(part.Start >= from).OnlyEnforceIf(within);
                        _model.Add(part.Start <= until).OnlyEnforceIf(within);
                        inShift.Add((day, within));
                    }
                _model.Add(LinearExpr.Sum(inShift.Select(s => s.In)) == does);
                foreach (var onDay in inShift.GroupBy(s => s.Day))
                {
                    var on = part.On[(t, onDay.Key)] = _model.NewBoolVar("");
                    _model.Add(LinearExpr.Sum(onDay.Select(s => s.In)) == on);
                }
            }
        }
        _model.Add(LinearExpr.Sum(by.Values) == placed);

        var days = new Dictionary<int, BoolVar>();
        foreach (var group in parts[0].On.GroupBy(o => o.Key.Day))
        {
            var on = days[group.Key] = _model.NewBoolVar("");
            _model.Add(LinearExpr.Sum(group.Select(o => o.Value)) == on);
            if (group.Key > visit.Target) _cost.Add(on * (2 * visit.Weight * (group.Key - visit.Target)));
        }
        Wishes(visit, placed, start, finish, by);
        return new(visit, placed, step, start, last, finish, by, days, parts);
    }

    private void Wishes(Visit visit, BoolVar placed, LinearExpr start, LinearExpr finish, Dictionary<int, BoolVar> by)
    {
        if (visit.Preferred.Count > 0)
        {
            var met = visit.Preferred.Select(_ => _model.NewBoolVar("")).ToList();
            foreach (var (wish, kept) in visit.Preferred.Zip(met))
            {
                _model.Add(start >= wish.Start).OnlyEnforceIf(kept);
                _model.Add(finish + visit.After <= wish.End).OnlyEnforceIf(kept);
            }
            var missed = _model.NewBoolVar("");
            _model.Add(LinearExpr.Sum(met) + missed >= placed);
            _cost.Add(missed * 3);
        }
        if (visit.Published is { } told)
        {
            var technician = _problem.Technicians.ToList().FindIndex(t => t.Id == told.Technician);
            var moved = _model.NewBoolVar("");
            if (told.Start % _problem.Grid == 0 && by.TryGetValue(technician, out var same))
            {
                var kept = _model.NewBoolVar("");
                _model.Add(start == told.Start).OnlyEnforceIf(kept);
                _model.AddImplication(kept, same);
                _model.Add(kept + moved >= placed);
            }
            else _model.Add(moved >= placed);
            _cost.Add(moved * 5);
        }
        if (visit.Pinned is { } pin)
        {
            if (pin.Start is { } at) _model.Add(start == at).OnlyEnforceIf(placed);
            foreach (var (t, does) in by)
                if (pin.Technician is { } who && _problem.Technicians[t].Id != who) _model.Add(does == 0);
        }
    }

    // Rule 7.
    private void Follow()
    {
        var of = _visits.ToDictionary(v => v.Visit.Id);
        foreach (var later in _visits)
            if (later.Visit.Follows is { } follows && of[follows.Visit] is var first)
            {
                _model.AddImplication(later.Placed, first.Placed);
                _model.Add(later.Start >= first.Finish + first.Visit.After + follows.GapMinutes).OnlyEnforceIf(later.Placed);
            }
    }

    // Rule 4.
    private void Benches()
    {
        foreach (var site in _problem.Sites)
        {
            var used = _model.AddCumulative(site.Benches);
            foreach (var v in _visits.Where(v => v.Visit.Site == site.Id))
            {
                var shortest = v.Visit.Before + v.Visit.Unattended + v.Visit.After;
                var size = _model.NewIntVar(shortest, shortest + v.Visit.Slack, "");
                used.AddDemand(_model.NewOptionalIntervalVar(v.Start, size, v.Finish + v.Visit.After, v.Placed, ""), 1);
            }
        }
    }

    // Rules 5 and 6.
    private void Depots()
    {
        foreach (var depot in _problem.Depots)
            for (var day = 0; day < _problem.Days; day++)
            {
                var there = _visits.Where(v => v.Visit.Staged?.Depot == depot.Id).ToList();
                if (depot.Daily is { } daily)
                    _model.Add(LinearExpr.Sum(there.SelectMany(v =>
                        v.Day.Where(d => d.Key == day).Select(d => d.Value * v.Visit.Staged!.Size))) <= daily);
                if (depot.Capacity is { } capacity)
                    _model.Add(LinearExpr.Sum(there.SelectMany(v => v.Day.Where(d =>
                        d.Key - v.Visit.Staged!.LeadDays <= day && day <= d.Key + v.Visit.Staged.HoldDays)
                        .Select(d => d.Value * v.Visit.Staged!.Size))) <= capacity);
            }
    }

    // Rule 3, and what journeys and worked days cost.
    private void Round(int technician, int day)
    {
        var parts = _visits.SelectMany(v => v.Parts).Where(p => p.On.ContainsKey((technician, day))).ToList();
        if (parts.Count == 0) return;
        var round = _model.AddCircuit();
        var idle = _model.NewBoolVar("");
        round.AddArc(0, 0, idle);
        _cost.Add((1 - idle) * 4);
        var overlap = new List<IntervalVar>();
        for (var i = 0; i < parts.Count; i++)
        {
            var on = parts[i].On[(technician, day)];
            round.AddArc(i + 1, i + 1, on.Not());
            _model.AddImplication(on, idle.Not());
            round.AddArc(0, i + 1, _model.NewBoolVar(""));
            round.AddArc(i + 1, 0, _model.NewBoolVar(""));
            overlap.Add(_model.NewOptionalFixedSizeIntervalVar(parts[i].Start, parts[i].Minutes, on, ""));
            for (var j = 0; j < parts.Count; j++)
            {
                if (i == j) continue;
                var next = _model.NewBoolVar("");
                round.AddArc(i + 1, j + 1, next);
                _model.Add(parts[j].Start >= parts[i].Start + parts[i].Minutes + _problem.TravelMinutes(parts[i].Site, parts[j].Site))
                    .OnlyEnforceIf(next);
                if (parts[i].Site != parts[j].Site) _cost.Add(next * 2);
            }
        }
        _model.AddNoOverlap(overlap);

        // Follows from the rules, and lifts the bound: a day's hands-on minutes fit into its shifts, or the day is not worked.
        var hours = _problem.Technicians[technician].Shifts.Where(s => Minutes.DayOf(s.Start) <= day && day <= Minutes.DayOf(s.End - 1))
            .Sum(s => (s.End - Math.Max(s.Start, day * Minutes.PerDay)) / _problem.Grid * _problem.Grid);
        _model.Add(LinearExpr.Sum(parts.Select(p => p.On[(technician, day)] * p.Minutes)) <= (1 - idle) * hours);
    }
}
