namespace YardRelay.Core.Planning;

/// <summary>
/// One search for a better plan: takes a few visits that have to do with each other out, puts them back where they cost least, and keeps
/// what comes of it
/// when it is better, or, while the search is still warm, not much worse. Removal follows Christiaens and Vanden Berghe, "Slack Induction
/// by String Removals" (2020), adapted to
/// technicians' days; acceptance is simulated annealing with a temperature that sinks by a constant factor.
/// </summary>
internal sealed class Search
{
    private const double EndTemperature = 0.4;
    private const int MostLeftOutTried = 24;

    private readonly Timetable _timetable;
    private readonly Random _random;
    private readonly double _warmest;
    private readonly int _leftOut;
    private readonly Option[] _best;
    private readonly List<(int Visit, Option At)> _gone = [];
    private readonly List<int> _again = [];
    private readonly List<int> _ofDay = [];
    private readonly List<int> _scratch = [];
    private readonly bool[] _isAgain;
    private readonly double[] _keys;
    private bool _bestIsHere = true;

    /// <summary>Begins at the plan of <paramref name="timetable"/>, which is the search's own from now on.</summary>
    public Search(Timetable timetable, int seed, double warmest, int leftOut)
    {
        (_timetable, _random, _warmest, _leftOut) = (timetable, new(seed), warmest, leftOut);
        _best = new Option[timetable.Count];
        _isAgain = new bool[timetable.Count];
        _keys = new double[timetable.Count];
        BestCost = timetable.Cost;
        Keep();
    }

    /// <summary>Cost of the best plan that was found.</summary>
    public int BestCost { get; private set; }

    /// <summary>The timetable, brought back to the best plan that was found.</summary>
    public Timetable Best()
    {
        if (!_bestIsHere) Become(_best);
        _bestIsHere = true;
        return _timetable;
    }

    /// <summary>Goes on from another search's best plan.</summary>
    public void Learn(Search other)
    {
        if (other._bestIsHere) other.Keep();
        Become(other._best);
        BestCost = other.BestCost;
        Keep();
        _bestIsHere = true;
    }

    private void Become(Option[] plan)
    {
        _gone.Clear();
        for (var i = 0; i < plan.Length; i++) _timetable.Remove(i, _gone);
        _gone.Clear();
        for (var i = 0; i < plan.Length; i++)
            if (plan[i].Exists) _gone.Add((i, plan[i]));
        PutBack();
    }

    private void Keep()
    {
        for (var i = 0; i < _best.Length; i++) _best[i] = _timetable.At(i);
    }

    /// <summary>Makes steps.</summary>
    /// <param name="steps">So many at most.</param>
    /// <param name="progress">How much of the whole search is over, 0 to 1, asked before each step; 1 or more ends it.</param>
    public void Run(long steps, Func<long, double> progress)
    {
        for (long step = 0; step < steps; step++)
        {
            var over = progress(step);
            if (over >= 1) return;
            Step(_warmest * Math.Pow(EndTemperature / _warmest, over));
        }
    }

    private void Step(double temperature)
    {
        var (before, feltBefore) = (_timetable.Cost, Felt());
        _gone.Clear();
        _again.Clear();
        Ruin();
        foreach (var (visit, _) in _gone) Again(visit);
        Rebuild();
        foreach (var visit in _again) _isAgain[visit] = false;
        var after = _timetable.Cost;
        if (after < BestCost)
        {
            (BestCost, _bestIsHere) = (after, true);
            return;
        }
        if (after == before) return;
        if (Felt() < feltBefore - (temperature * Math.Log(1 - _random.NextDouble())))
        {
            // The best plan is written down only when it is left: most are followed at once by a better one.
            if (_bestIsHere && before == BestCost) KeepBefore();
            _bestIsHere = false;
            return;
        }
        Undo();
    }

    // What a visit left out counts for acceptance: less than it costs, so that one may be given up for a while to make room for another.
    private int Felt() => _timetable.Cost - ((1000 - _leftOut) * _timetable.WeightLeftOut);

    // The plan before this step: as it stands, but for what was taken out and put elsewhere.
    private void KeepBefore()
    {
        Keep();
        foreach (var visit in _again) _best[visit] = Option.None;
        foreach (var (visit, at) in _gone) _best[visit] = at;
    }

    private void Again(int visit)
    {
        if (_isAgain[visit]) return;
        _isAgain[visit] = true;
        _again.Add(visit);
    }

    private void Ruin()
    {
        var left = _timetable.LeftOut;
        var fromLeft = left.Count > 0 && _random.Next(2) == 0;
        var broken = fromLeft || _random.Next(2) == 0 ? -1 : _timetable.AnyBrokenPromise(_random);
        var centre = fromLeft ? left[_random.Next(left.Count)] : broken >= 0 ? broken : _random.Next(_timetable.Count);
        if (left.Count <= MostLeftOutTried) foreach (var visit in left) Again(visit);
        else for (var i = 0; i < MostLeftOutTried; i++) Again(left[_random.Next(left.Count)]);
        Again(centre);
        if (_timetable.OneDayWith(centre).Any() && _random.Next(2) == 0)
        {
            // Those who go on one day can only go to another all at once.
            foreach (var member in _timetable.OneDayWith(centre))
            {
                _timetable.Remove(member, _gone);
                Again(member);
            }
        }
        var at = _timetable.At(centre);
        if (broken >= 0 && _random.Next(2) == 0)
        {
            // Back to where it was promised: whoever is there now makes room.
            if (at.Exists) _timetable.Remove(centre, _gone);
            TakeString(_timetable.PromisedTo(centre), _timetable.Visit(centre).Published!.Start, 1 + _random.Next(3));
            return;
        }
        // Where it stands, or where it would rather stand: there others are in its way.
        var time = at.Exists && _random.Next(3) == 0 ? at.Start : _timetable.AnyStart(centre, _random) ?? -1;
        if (time < 0) return;
        if (at.Exists) _timetable.Remove(centre, _gone);
        switch (_random.Next(20))
        {
            case 0 or 1:
                // A whole day of a technician, so that it may be given up.
                if (AnyOf(_timetable.AbleFor(centre)) is >= 0 and var days) TakeString(days, time, int.MaxValue);
                break;
            case 2 or 3 or 4:
                for (var many = 1 + _random.Next(5); many > 0; many--) _timetable.Remove(_random.Next(_timetable.Count), _gone);
                break;
            case 5 or 6:
                Elsewhere(centre, time);
                break;
            case 7 or 8:
                // The same hours of two technicians, so that sites and people can be dealt out anew.
                for (var two = 0; two < 2; two++)
                    if (AnyOf(_timetable.AbleFor(centre)) is >= 0 and var who) TakeString(who, time, 3 + _random.Next(8));
                break;
            default:
                var able = _timetable.AbleFor(centre);
                if (able.Count == 0) return;
                var strings = _random.Next(3);
                for (; strings >= 0; strings--) TakeString(able[_random.Next(able.Count)], time, 1 + _random.Next(3));
                break;
        }
    }

    private int AnyOf(IReadOnlyList<int> some) => some.Count == 0 ? -1 : some[_random.Next(some.Count)];

    // What keeps a visit out may be a bench or a depot's room, not a technician: take some of all who work that day at its site.
    private void Elsewhere(int centre, int time)
    {
        var day = Minutes.DayOf(time);
        var site = _timetable.SiteOf(centre);
        for (var (tries, most) = (0, 3 + _random.Next(6)); tries < 12 && _gone.Count < most; tries++)
        {
            _timetable.VisitsOf(_random.Next(_timetable.Problem.Technicians.Count), day, _ofDay);
            foreach (var visit in _ofDay)
                if (_timetable.SiteOf(visit) == site && _random.Next(2) == 0) _scratch.Add(visit);
            foreach (var visit in _scratch) _timetable.Remove(visit, _gone);
            _scratch.Clear();
        }
    }

    /// <summary>Takes visits of one technician's day that lie side by side, around a time.</summary>
    private void TakeString(int technician, int time, int many)
    {
        _timetable.VisitsOf(technician, Minutes.DayOf(time), _ofDay);
        if (_ofDay.Count == 0) return;
        many = Math.Min(many, _ofDay.Count);
        var near = 0;
        while (near < _ofDay.Count - 1 && _timetable.At(_ofDay[near]).Start < time) near++;
        var first = Math.Clamp(near - _random.Next(many), 0, _ofDay.Count - many);
        _scratch.Clear();
        for (var i = first; i < first + many; i++) _scratch.Add(_ofDay[i]);
        foreach (var visit in _scratch) _timetable.Remove(visit, _gone);
        _scratch.Clear();
    }

    private void Rebuild()
    {
        var how = _random.Next(10);
        foreach (var visit in _again)
        {
            var v = _timetable.Visit(visit);
            _keys[visit] = how switch
            {
                < 4 => _random.NextDouble(),
                < 7 => -v.Weight - _random.NextDouble(),
                7 => -(v.Before + v.After + v.Unattended) - _random.NextDouble(),
                8 => _timetable.AbleFor(visit).Count * v.Windows.Count + _random.NextDouble(),
                _ => v.Target + _random.NextDouble(),
            };
        }
        _again.Sort((a, b) => _keys[a] != _keys[b] ? _keys[a].CompareTo(_keys[b]) : a.CompareTo(b));
        var taste = _random.Next(8) switch { 0 => Taste.First, 1 => Taste.Last, 2 or 3 => Taste.Any, _ => Taste.Snug };
        var waits = false;
        for (var round = 0; round < 3; round++, waits = false)
        {
            foreach (var visit in _again)
            {
                if (_timetable.IsPlaced(visit)) continue;
                if (!_timetable.Leads(visit)) waits = true;
                else if (round == 0 || _timetable.Visit(visit).Follows is not null)
                {
                    var option = _timetable.FindBest(visit, _random, taste);
                    if (option.Exists) _timetable.Place(visit, option);
                }
            }
            if (!waits) return;
        }
    }

    private void Undo()
    {
        _scratch.Clear();
        var places = new List<(int, Option)>();
        foreach (var visit in _again) _timetable.Remove(visit, places);
        PutBack();
    }

    private void PutBack()
    {
        _gone.Sort((a, b) => a.At.Start != b.At.Start ? a.At.Start.CompareTo(b.At.Start) : a.Visit.CompareTo(b.Visit));
        foreach (var (visit, at) in _gone) _timetable.Place(visit, at);
    }
}
