namespace YardRelay.Core.Planning;

/// <summary>
/// A plan being built: places and removes one visit at a time, keeps every rule, and prices a place from its neighbours alone.
/// Works on indexes and grid slots; one slot is <c>Grid</c> minutes.
/// </summary>
internal sealed partial class Timetable
{
    private readonly record struct Part(int Start, int End, int Site, int Visit);

    private readonly Ground _ground;
    private readonly AppointmentProblem _problem;
    private readonly Visit[] _visits;
    private readonly int[] _site;
    private readonly int[] _depot;
    private readonly int[] _follows;
    private readonly List<int>[] _followers;
    private readonly int[][] _able;
    private readonly int[,] _travel;
    private readonly int[][] _shiftEnd;
    private readonly bool[] _travels;
    private readonly int[] _benches;
    private readonly int[][] _underWay;
    private readonly int[][] _groups;
    private readonly int[][] _groupUnderWay;
    private readonly int[] _groupPlaced;
    private readonly int[] _groupDay;
    private readonly int[][] _lies;
    private readonly int[][] _brought;
    private readonly ulong[][] _busy;
    private readonly List<Part>[][] _parts;
    private readonly Option[] _at;
    private readonly int _grid;

    public Timetable(AppointmentProblem problem)
        : this(new Ground(problem))
    {
    }

    /// <summary>An empty plan on ground that other timetables stand on too.</summary>
    public Timetable(Ground ground)
    {
        (_ground, _problem, _grid, _visits) = (ground, ground.Problem, ground.Problem.Grid, ground.Visits);
        (_site, _depot, _follows, _followers, _able) = (ground.Site, ground.Depot, ground.Follows, ground.Followers, ground.Able);
        (_travel, _shiftEnd, _travels) = (ground.Travel, ground.ShiftEnd, ground.Travels);
        _benches = [.. _problem.Sites.Select(s => s.Benches)];
        _underWay = [.. _problem.Sites.Select(_ => new int[ground.Slots])];
        _groups = ground.GroupsOf;
        _groupUnderWay = [.. _problem.Groups.Select(g => new int[g.AtOnce is null ? 0 : ground.Slots])];
        (_groupPlaced, _groupDay) = (new int[_problem.Groups.Count], new int[_problem.Groups.Count]);
        _lies = [.. _problem.Depots.Select(_ => new int[_problem.Days])];
        _brought = [.. _problem.Depots.Select(_ => new int[_problem.Days])];
        _busy = [.. _problem.Technicians.Select(_ => new ulong[(ground.Slots / 64) + 3])];
        _parts = [.. _problem.Technicians.Select(_ => Enumerable.Range(0, _problem.Days).Select(_ => new List<Part>()).ToArray())];
        _at = [.. _visits.Select(_ => Option.None)];
        Cost = _visits.Sum(v => 1000 * v.Weight);
        _placeOfOpen = new int[_visits.Length];
        for (var i = 0; i < _visits.Length; i++) Open(i);
    }

    private readonly List<int> _open = [];
    private readonly int[] _placeOfOpen;

    /// <summary>The visits that are left out, in no order.</summary>
    public IReadOnlyList<int> LeftOut => _open;

    private void Open(int visit)
    {
        WeightLeftOut += _visits[visit].Weight;
        _placeOfOpen[visit] = _open.Count;
        _open.Add(visit);
    }

    private void Close(int visit)
    {
        WeightLeftOut -= _visits[visit].Weight;
        var (at, last) = (_placeOfOpen[visit], _open[^1]);
        (_open[at], _placeOfOpen[last]) = (last, at);
        _open.RemoveAt(_open.Count - 1);
    }

    /// <summary>The cost of the plan as it stands.</summary>
    public int Cost { get; private set; }

    /// <summary>The weight of all that is left out.</summary>
    public int WeightLeftOut { get; private set; }

    public int Count => _visits.Length;

    public Option At(int visit) => _at[visit];

    /// <summary>The index of a visit; null: the instance has none of that id.</summary>
    public int? IndexOf(string id) => _ground.VisitIndex.TryGetValue(id, out var index) ? index : null;

    public bool IsPlaced(int visit) => _at[visit].Exists;

    public Visit Visit(int visit) => _visits[visit];

    public int SiteOf(int visit) => _site[visit];

    public IReadOnlyList<int> FollowersOf(int visit) => _followers[visit];

    public IReadOnlyList<int> AbleFor(int visit) => _able[visit];

    /// <summary>All visits of the groups that go on one day with a visit, itself among them; empty: it is in none.</summary>
    public IEnumerable<int> OneDayWith(int visit)
    {
        foreach (var group in _groups[visit])
            if (_problem.Groups[group].IsOneDay) foreach (var member in _ground.Members[group]) yield return member;
    }

    public bool Leads(int visit) => _follows[visit] < 0 || IsPlaced(_follows[visit]);

    private void Occupy(int technician, int start, int end, bool busy)
    {
        for (var slot = start / _grid; slot * _grid < end; slot++)
        {
            if (busy) _busy[technician][slot >> 6] |= 1UL << (slot & 63);
            else _busy[technician][slot >> 6] &= ~(1UL << (slot & 63));
        }
    }

    private int Price(int visit, int technician, int start, int finish)
    {
        var v = _visits[visit];
        var cost = 0;
        if (v.Preferred.Count > 0)
        {
            var whole = new Minutes(start, finish + v.After);
            var liked = false;
            foreach (var window in v.Preferred) liked |= window.Holds(whole);
            if (!liked) cost += 3;
        }
        if (v.Published is { } told && (told.Start != start || told.Technician != _problem.Technicians[technician].Id)) cost += 5;
        var site = _site[visit];
        cost += PriceOfPart(technician, start, site, -1);
        if (v.After > 0) cost += PriceOfPart(technician, finish, site, start);
        return cost;
    }

    /// <summary>
    /// What a part adds in technician days and journeys; <paramref name="first"/> is the start of the same visit's first part, counted as
    /// present, or -1.
    /// </summary>
    private int PriceOfPart(int technician, int start, int site, int first)
    {
        var day = Minutes.DayOf(start);
        var parts = _parts[technician][day];
        var withFirst = first >= 0 && Minutes.DayOf(first) == day;
        if (parts.Count == 0) return withFirst ? 0 : 4;
        int before = -1, after = -1, beforeStart = -1;
        foreach (var part in parts)
        {
            if (part.Start < start) (before, beforeStart) = (part.Site, part.Start);
            else
            {
                after = part.Site;
                break;
            }
        }
        if (withFirst && first > beforeStart) before = site;
        return 2 * ((before >= 0 && before != site ? 1 : 0) + (after >= 0 && after != site ? 1 : 0)
            - (before >= 0 && after >= 0 && before != after ? 1 : 0));
    }

    /// <summary>Places a visit where <see cref="FindBest"/> said it can go.</summary>
    public void Place(int visit, Option option)
    {
        var v = _visits[visit];
        var day = Minutes.DayOf(option.Start);
        Cost += (2 * v.Weight * Math.Max(0, day - v.Target)) - (1000 * v.Weight)
            + Price(visit, option.Technician, option.Start, option.Finish);
        _at[visit] = option;
        Close(visit);
        Shift(visit, option, +1);
    }

    /// <summary>Takes a visit out, and with it those that follow it; returns all that went, in the order to put them back.</summary>
    public void Remove(int visit, List<(int Visit, Option At)> gone)
    {
        if (!IsPlaced(visit)) return;
        var at = _at[visit];
        gone.Add((visit, at));
        foreach (var follower in _followers[visit]) Remove(follower, gone);
        Lift(visit);
    }

    /// <summary>Takes one visit out and leaves those that follow it: for a moment only, until it is placed again.</summary>
    public void Lift(int visit)
    {
        var at = _at[visit];
        Shift(visit, at, -1);
        _at[visit] = Option.None;
        Open(visit);
        var v = _visits[visit];
        Cost -= (2 * v.Weight * Math.Max(0, Minutes.DayOf(at.Start) - v.Target)) - (1000 * v.Weight)
            + Price(visit, at.Technician, at.Start, at.Finish);
    }

    private void Shift(int visit, Option at, int by)
    {
        var v = _visits[visit];
        var day = Minutes.DayOf(at.Start);
        var underWay = _underWay[_site[visit]];
        for (var slot = at.Start / _grid; slot * _grid < at.Finish + v.After; slot++) underWay[slot] += by;
        foreach (var group in _groups[visit])
        {
            _groupPlaced[group] += by;
            _groupDay[group] = day;
            if (_groupUnderWay[group] is { Length: > 0 } members)
                for (var slot = at.Start / _grid; slot * _grid < at.Finish + v.After; slot++) members[slot] += by;
        }
        if (_depot[visit] >= 0)
        {
            _brought[_depot[visit]][day] += by * v.Staged!.Size;
            var (low, high) = Span(v.Staged, day);
            for (var d = low; d <= high; d++) _lies[_depot[visit]][d] += by * v.Staged.Size;
        }
        Note(new(at.Start, at.Start + v.Before, _site[visit], visit));
        if (v.After > 0) Note(new(at.Finish, at.Finish + v.After, _site[visit], visit));

        void Note(Part part)
        {
            Occupy(at.Technician, part.Start, part.End, by > 0);
            var parts = _parts[at.Technician][Minutes.DayOf(part.Start)];
            if (by < 0) parts.Remove(part);
            else
            {
                var i = parts.Count;
                while (i > 0 && parts[i - 1].Start > part.Start) i--;
                parts.Insert(i, part);
            }
        }
    }

    /// <summary>
    /// Places what of a plan still fits here, in the order of its starts, so that what follows comes after what it follows; returns what
    /// does not.
    /// </summary>
    public IReadOnlyList<Placed> PlaceWhatFits(Plan plan)
    {
        var not = new List<Placed>();
        foreach (var placed in plan.Placed.OrderBy(p => p.Start).ThenBy(p => p.Id, StringComparer.Ordinal))
        {
            if (_ground.VisitIndex.TryGetValue(placed.Id, out var visit)
                && !IsPlaced(visit)
                && _ground.TechnicianIndex.TryGetValue(placed.Technician, out var technician)
                && BreaksAt(visit, technician, placed.Start, placed.Finish).Count == 0)
                Place(visit, new(technician, placed.Start, placed.Finish, PlaceCost(visit, technician, placed.Start, placed.Finish)));
            else not.Add(placed);
        }
        return not;
    }

    /// <summary>Another timetable with the same plan.</summary>
    public Timetable Copy()
    {
        var copy = new Timetable(_ground);
        foreach (var visit in Enumerable.Range(0, Count).Where(IsPlaced).OrderBy(i => _at[i].Start)) copy.Place(visit, _at[visit]);
        return copy;
    }

    /// <summary>The visits of a technician on a day, in the order of their first part there.</summary>
    public void VisitsOf(int technician, int day, List<int> into)
    {
        into.Clear();
        foreach (var part in _parts[technician][day])
            if (!into.Contains(part.Visit)) into.Add(part.Visit);
    }

    /// <summary>Of a few visits drawn, one that does not stand where its person was told; -1: none was drawn.</summary>
    public int AnyBrokenPromise(Random random)
    {
        var promised = _ground.Promised;
        for (var tries = promised.Length == 0 ? 0 : 16; tries > 0; tries--)
        {
            var visit = promised[random.Next(promised.Length)];
            if (_at[visit].Start != _visits[visit].Published!.Start || _at[visit].Technician != _ground.PromisedTo[visit]) return visit;
        }
        return -1;
    }

    /// <summary>Who a visit was promised to.</summary>
    public int PromisedTo(int visit) => _ground.PromisedTo[visit];

    /// <summary>The problem that this is a plan for.</summary>
    public AppointmentProblem Problem => _problem;

    /// <summary>The plan as it stands; <paramref name="because"/> explains what is left out.</summary>
    public Plan ToPlan(Func<int, string> because) => new(
        [.. Enumerable.Range(0, Count)
            .Where(IsPlaced)
            .Select(i => new Placed(_visits[i].Id, _problem.Technicians[_at[i].Technician].Id, _at[i].Start, _at[i].Finish))],
        [.. Enumerable.Range(0, Count).Where(i => !IsPlaced(i)).Select(i => new Unplaced(_visits[i].Id, because(i)))]);
}
