namespace YardRelay.Core.Planning;

/// <summary>What comes of putting a visit somewhere.</summary>
/// <param name="At">Where it would stand; the last part begins as early as it can.</param>
/// <param name="Breaks">Rules that would be broken; empty: it can stand there.</param>
/// <param name="CostBefore">Cost of the plan as it is.</param>
/// <param name="CostAfter">Cost of the plan with the visit there; the same as before when a rule is broken.</param>
public sealed record MoveAnswer(Placed At, IReadOnlyList<Breach> Breaks, int CostBefore, int CostAfter)
{
    /// <summary>Whether the visit can stand there.</summary>
    public bool IsAllowed => Breaks.Count == 0;
}

/// <summary>
/// A plan on the table, to be changed one visit at a time. A change is judged from its neighbours alone, in microseconds, not by solving
/// again.
/// Always keeps all rules, and would keep them with any visit taken out: travel is kept between any two parts of a day, not only between
/// neighbours, which differs where a detour takes less time than the straight way. Not for several threads at once.
/// </summary>
public sealed class PlanBoard
{
    private readonly AppointmentProblem _problem;
    private readonly Ground _ground;
    private readonly Timetable _timetable;

    // Why each was left out when that was found out; what helps now is asked with WhyNot.
    private readonly Dictionary<int, string> _because = [];

    private PlanBoard(AppointmentProblem problem)
    {
        _problem = problem;
        _ground = new(problem);
        _timetable = new(_ground);
    }

    /// <summary>Lays a plan on the table.</summary>
    /// <param name="plan">Any plan; what of it does not fit the instance (any more) is left out and returned in
    /// <paramref name="lost"/>.</param>
    public static PlanBoard Lay(AppointmentProblem problem, Plan plan, out IReadOnlyList<Placed> lost)
    {
        var board = new PlanBoard(problem);
        lost = board._timetable.PlaceWhatFits(plan);
        foreach (var left in plan.Unplaced)
            if (board._timetable.IndexOf(left.Id) is { } visit) board._because[visit] = left.Because;
        return board;
    }

    /// <summary>The instance.</summary>
    public AppointmentProblem Problem => _problem;

    /// <summary>Cost of the plan on the table.</summary>
    public int Cost => _timetable.Cost;

    /// <summary>Where a visit stands; null: it is left out.</summary>
    /// <exception cref="KeyNotFoundException">The instance has no such visit.</exception>
    public Placed? At(string visit) =>
        _timetable.At(_ground.VisitIndex[visit]) is { Exists: true } at
            ? new(visit, _problem.Technicians[at.Technician].Id, at.Start, at.Finish)
            : null;

    /// <summary>What would come of a move. Nothing changes.</summary>
    /// <param name="technician">Who would do it, one of the instance.</param>
    /// <param name="start">Minute since day 0.</param>
    /// <exception cref="KeyNotFoundException">The instance has no such visit or technician.</exception>
    public MoveAnswer Try(string visit, string technician, int start) => Answer(visit, technician, start, keep: false);

    /// <summary>Moves a visit, or places one that was left out, unless a rule would be broken.</summary>
    /// <inheritdoc cref="Try"/>
    public MoveAnswer Move(string visit, string technician, int start) => Answer(visit, technician, start, keep: true);

    /// <summary>Takes a visit off the table, and with it those that follow it.</summary>
    /// <returns>All that went, where they stood.</returns>
    public IReadOnlyList<Placed> TakeOut(string visit)
    {
        var gone = new List<(int Visit, Option At)>();
        _timetable.Remove(_ground.VisitIndex[visit], gone);
        foreach (var (index, _) in gone) _because.Remove(index);
        return [.. gone.Select(g =>
            new Placed(_problem.Visits[g.Visit].Id, _problem.Technicians[g.At.Technician].Id, g.At.Start, g.At.Finish))];
    }

    /// <summary>Puts a visit that is not on the table exactly there, its last part too; whether it could stand there.</summary>
    public bool Put(Placed at)
    {
        var (visit, who) = (_ground.VisitIndex[at.Id], _ground.TechnicianIndex[at.Technician]);
        if (_timetable.IsPlaced(visit) || _timetable.BreaksAt(visit, who, at.Start, at.Finish).Count > 0) return false;
        _timetable.Place(visit, new(who, at.Start, at.Finish, 0));
        return true;
    }

    /// <summary>The cheapest place for a visit, apart from where it stands now; null: there is none.</summary>
    public Placed? BestPlace(string visit)
    {
        var index = _ground.VisitIndex[visit];
        var at = _timetable.At(index);
        if (at.Exists) _timetable.Lift(index);
        var best = _timetable.FindBest(index);
        if (at.Exists) _timetable.Place(index, at);
        return best.Exists ? new(visit, _problem.Technicians[best.Technician].Id, best.Start, best.Finish) : null;
    }

    /// <summary>
    /// When a visit could start while all others stay, each time with whom it costs least; in the order of time. Where it stands now is
    /// looked at like any other.
    /// </summary>
    /// <param name="from">No earlier than this minute.</param>
    /// <param name="until">And before this one.</param>
    /// <param name="step">Only starts that are a multiple of it; itself a multiple of the grid.</param>
    /// <param name="allows">Starts that are looked at.</param>
    /// <param name="most">So many at most.</param>
    public IReadOnlyList<Placed> Starts(string visit, int from, int until, int step, Func<int, bool> allows, int most)
    {
        var index = _ground.VisitIndex[visit];
        var at = _timetable.At(index);
        if (at.Exists) _timetable.Lift(index);
        var found = _timetable.PlacesOf(index, from, until, step, allows)
            .Take(most)
            .Select(o => new Placed(visit, _problem.Technicians[o.Technician].Id, o.Start, o.Finish)).ToList();
        if (at.Exists) _timetable.Place(index, at);
        return found;
    }

    /// <summary>For a visit that is left out: the changes that would let it in, smallest first. Empty for one that is placed.</summary>
    public IReadOnlyList<WayIn> WhyNot(string visit, int most = 5)
    {
        var index = _ground.VisitIndex[visit];
        return _timetable.IsPlaced(index) ? [] : Planning.WhyNot.WaysIn(_problem, _timetable, index, most);
    }

    /// <summary>The plan on the table.</summary>
    public Plan ToPlan() =>
        _timetable.ToPlan(visit =>
            _because.TryGetValue(visit, out var known) ? known : _because[visit] = Planning.WhyNot.Explain(_problem, _timetable, visit));

    private MoveAnswer Answer(string id, string technician, int start, bool keep)
    {
        var (visit, who) = (_ground.VisitIndex[id], _ground.TechnicianIndex[technician]);
        var (v, stood, before) = (_timetable.Visit(visit), _timetable.At(visit), _timetable.Cost);
        if (stood.Exists) _timetable.Lift(visit);
        IReadOnlyList<Breach>? fewest = null;
        var finish = v.EarliestFinish(start);
        // The last part may wait a little: the earliest finish that breaks nothing, else the one that breaks least.
        for (var later = finish; later <= v.EarliestFinish(start) + (v.After == 0 ? 0 : v.Slack); later += _problem.Grid)
        {
            var breaks = _timetable.BreaksAt(visit, who, start, later);
            if (fewest is null || breaks.Count < fewest.Count) (fewest, finish) = (breaks, later);
            if (breaks.Count == 0) break;
        }
        var after = before;
        var allowed = fewest!.Count == 0;
        if (allowed)
        {
            _timetable.Place(visit, new(who, start, finish, 0));
            after = _timetable.Cost;
            if (!keep) _timetable.Lift(visit);
        }
        if (!(allowed && keep) && stood.Exists) _timetable.Place(visit, stood);
        return new(new(id, technician, start, finish), fewest, before, after);
    }
}
