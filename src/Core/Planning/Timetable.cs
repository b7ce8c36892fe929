namespace YardRelay.Core.Planning;

/// <summary>Rules that a search for a place may set aside, to find out which one stands in the way.</summary>
[Flags]
internal enum Relaxed
{
    None = 0,
    Benches = 1,
    Technician = 2,
    Capacity = 4,
    Daily = 8,
    Release = 16,
    Order = 32,
}

/// <summary>Which of several places of one cost is taken.</summary>
internal enum Taste
{
    /// <summary>The earliest.</summary>
    First,

    /// <summary>Any, drawn evenly.</summary>
    Any,

    /// <summary>The latest.</summary>
    Last,

    /// <summary>The one that leaves the technician the fewest odd gaps: whose parts touch others or the ends of a shift.</summary>
    Snug,
}

/// <summary>Where a visit could go, and what the plan's cost changes by.</summary>
internal readonly record struct Option(int Technician, int Start, int Finish, int Cost)
{
    public static readonly Option None = new(-1, 0, 0, int.MaxValue);

    public bool Exists => Technician >= 0;
}

/// <summary>
/// A plan being built: places and removes one visit at a time, keeps every rule, and prices a place from its neighbours alone.
/// Works on indexes and grid slots; one slot is <c>Grid</c> minutes.
/// </summary>
internal sealed class Timetable
{
    private readonly record struct Part(int Start, int End, int Site, int Visit);

    /// <summary>A start of a visit inside one of its windows, with the least that it can cost.</summary>
    private readonly record struct Candidate(int Start, int WindowEnd, int Least, int Late);

    private readonly AppointmentProblem _problem;
    private readonly Visit[] _visits;
    private readonly int[] _site;
    private readonly int[] _depot;
    private readonly int[] _follows;
    private readonly List<int>[] _followers;
    private readonly int[][] _able;
    private readonly int[,] _travel;
    private readonly int[] _benches;
    private readonly int[][] _underWay;
    private readonly int[][] _lies;
    private readonly int[][] _brought;
    private readonly int[][] _shiftEnd;
    private readonly ulong[][] _busy;
    private readonly bool[] _travels;
    private readonly Candidate[][] _candidates;
    private readonly List<Part>[][] _parts;
    private readonly Option[] _at;
    private readonly int _grid;

    public Timetable(AppointmentProblem problem)
    {
        _problem = problem;
        _grid = problem.Grid;
        _visits = [.. problem.Visits];
        var siteIndex = problem.Sites.Select((s, i) => (s.Id, i)).ToDictionary(p => p.Id, p => p.i);
        var depotIndex = problem.Depots.Select((d, i) => (d.Id, i)).ToDictionary(p => p.Id, p => p.i);
        var visitIndex = _visits.Select((v, i) => (v.Id, i)).ToDictionary(p => p.Id, p => p.i);
        _site = [.. _visits.Select(v => siteIndex[v.Site])];
        _depot = [.. _visits.Select(v => v.Staged is { } s ? depotIndex[s.Depot] : -1)];
        _follows = [.. _visits.Select(v => v.Follows is { } f ? visitIndex[f.Visit] : -1)];
        _followers = [.. _visits.Select(_ => new List<int>())];
        for (var i = 0; i < _visits.Length; i++)
            if (_follows[i] >= 0) _followers[_follows[i]].Add(i);
        _able = [.. _visits.Select(v => problem.Technicians.Select((t, i) => (t, i)).Where(p => p.t.Sites.Contains(v.Site) && v.Skills.All(p.t.Skills.Contains)).Select(p => p.i).ToArray())];
        _travel = new int[problem.Sites.Count, problem.Sites.Count];
        for (var a = 0; a < problem.Sites.Count; a++)
            for (var b = 0; b < problem.Sites.Count; b++) _travel[a, b] = problem.TravelMinutes(problem.Sites[a].Id, problem.Sites[b].Id);
        _benches = [.. problem.Sites.Select(s => s.Benches)];
        var slots = (problem.Days * Minutes.PerDay / _grid) + 1;
        _underWay = [.. problem.Sites.Select(_ => new int[slots])];
        _lies = [.. problem.Depots.Select(_ => new int[problem.Days])];
        _brought = [.. problem.Depots.Select(_ => new int[problem.Days])];
        _shiftEnd = [.. problem.Technicians.Select(t => ShiftEndOfSlot(t, slots))];
        _busy = [.. problem.Technicians.Select(_ => new ulong[(slots / 64) + 3])];
        _travels = [.. problem.Technicians.Select(t => t.Sites.Any(a => t.Sites.Any(b => problem.TravelMinutes(a, b) > 0)))];
        _parts = [.. problem.Technicians.Select(_ => Enumerable.Range(0, problem.Days).Select(_ => new List<Part>()).ToArray())];
        _at = [.. _visits.Select(_ => Option.None)];
        Cost = _visits.Sum(v => 1000 * v.Weight);
        _candidates = [.. _visits.Select(CandidatesOf)];
        _placeOfOpen = new int[_visits.Length];
        for (var i = 0; i < _visits.Length; i++) Open(i);
    }

    private Candidate[] CandidatesOf(Visit v)
    {
        var found = new List<Candidate>();
        foreach (var window in v.Windows)
            for (var start = (Math.Max(window.Start, v.Release) + _grid - 1) / _grid * _grid; start + v.Before + v.Unattended + v.After <= window.End; start += _grid)
            {
                var late = (2 * v.Weight * Math.Max(0, Minutes.DayOf(start) - v.Target)) - (1000 * v.Weight);
                var shortest = new Minutes(start, v.EarliestFinish(start) + v.After);
                var least = late + (v.Preferred.Count > 0 && !v.Preferred.Any(p => p.Holds(shortest)) ? 3 : 0) + (v.Published is { } told && told.Start != start ? 5 : 0);
                found.Add(new(start, window.End, least, late));
            }
        return [.. found.OrderBy(c => c.Least).ThenBy(c => c.Start)];
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

    public bool IsPlaced(int visit) => _at[visit].Exists;

    public Visit Visit(int visit) => _visits[visit];

    public int SiteOf(int visit) => _site[visit];

    public IReadOnlyList<int> FollowersOf(int visit) => _followers[visit];

    public IReadOnlyList<int> AbleFor(int visit) => _able[visit];

    public bool Leads(int visit) => _follows[visit] < 0 || IsPlaced(_follows[visit]);

    /// <summary>For each slot that lies in a shift: the slot at which that shift ends; elsewhere 0.</summary>
    private int[] ShiftEndOfSlot(PlanTechnician technician, int slots)
    {
        var ends = new int[slots + 1];
        foreach (var shift in technician.Shifts)
        {
            var end = Math.Min(slots, shift.End / _grid);
            for (var slot = (shift.Start + _grid - 1) / _grid; slot < end; slot++) ends[slot] = end;
        }
        return ends;
    }

    /// <summary>When a visit could start, sooner one of the cheaper starts; null when it has none.</summary>
    public int? AnyStart(int visit, Random random) => _candidates[visit] is { Length: > 0 } all ? all[(int)(all.Length * Math.Pow(random.NextDouble(), 1.5))].Start : null;

    /// <summary>The cheapest place, found without looking at those that cannot be cheaper.</summary>
    /// <param name="random">Overlooks a good place now and then, so that a search does not end in the same plan each time; null: overlooks none.</param>
    /// <param name="taste">Which of several places of one cost.</param>
    public Option FindBest(int visit, Random? random = null, Taste taste = Taste.First)
    {
        var (ties, snug) = (0, -1);
        var v = _visits[visit];
        var best = Option.None;
        var from = 0;
        if (_follows[visit] is >= 0 and var before)
        {
            if (!IsPlaced(before)) return best;
            from = _at[before].Finish + _visits[before].After + v.Follows!.GapMinutes;
        }
        var until = int.MaxValue;
        foreach (var follower in _followers[visit])
            if (IsPlaced(follower)) until = Math.Min(until, _at[follower].Start - _visits[follower].Follows!.GapMinutes);
        var shortest = v.Before + v.Unattended + v.After;
        var (dayKnown, dayHasRoom) = (-1, true);
        foreach (var candidate in _candidates[visit])
        {
            if (taste == Taste.First ? candidate.Least >= best.Cost : candidate.Least > best.Cost) break;
            if (candidate.Start < from || candidate.Start + shortest > until) continue;
            if (_depot[visit] >= 0)
            {
                var day = Minutes.DayOf(candidate.Start);
                if (day != dayKnown) (dayKnown, dayHasRoom) = (day, HasRoom(visit, day, Relaxed.None));
                if (!dayHasRoom) continue;
            }
            if (_underWay[_site[visit]][candidate.Start / _grid] >= _benches[_site[visit]]) continue;
            foreach (var technician in _able[visit])
            {
                var finish = FinishFor(visit, technician, candidate.Start, Math.Min(candidate.WindowEnd, until), Relaxed.None);
                if (finish < 0 || (random is not null && random.Next(128) == 0)) continue;
                var cost = candidate.Late + Price(visit, technician, candidate.Start, finish);
                if (taste == Taste.Snug)
                {
                    if (cost > best.Cost) continue;
                    finish = SnugFinish(visit, technician, candidate.Start, finish, Math.Min(candidate.WindowEnd, until));
                    cost = candidate.Late + Price(visit, technician, candidate.Start, finish);
                    var touches = Touches(technician, candidate.Start, candidate.Start + v.Before) + (v.After > 0 ? Touches(technician, finish, finish + v.After) : 0);
                    if (cost > best.Cost || (cost == best.Cost && (touches < snug || (touches == snug && random!.Next(++ties) != 0)))) continue;
                    if (cost < best.Cost || touches > snug) ties = 1;
                    (best, snug) = (new(technician, candidate.Start, finish, cost), touches);
                }
                else if (cost < best.Cost) (best, ties) = (new(technician, candidate.Start, finish, cost), 1);
                else if (cost == best.Cost && (taste == Taste.Last || (taste == Taste.Any && random!.Next(++ties) == 0))) best = new(technician, candidate.Start, finish, cost);
            }
        }
        return best;
    }

    /// <summary>The cheapest place and, for regret, the cheapest with another technician or on another day.</summary>
    public (Option Best, Option Second) Find(int visit, bool earliest = false, Relaxed relaxed = Relaxed.None)
    {
        var v = _visits[visit];
        var best = Option.None;
        var second = Option.None;
        var from = (relaxed & Relaxed.Release) != 0 ? 0 : v.Release;
        if (_follows[visit] is >= 0 and var before && (relaxed & Relaxed.Order) == 0)
        {
            if (!IsPlaced(before)) return (best, second);
            from = Math.Max(from, _at[before].Finish + _visits[before].After + v.Follows!.GapMinutes);
        }
        var until = int.MaxValue;
        foreach (var follower in _followers[visit])
            if (IsPlaced(follower)) until = Math.Min(until, _at[follower].Start - _visits[follower].Follows!.GapMinutes);

        var able = (relaxed & Relaxed.Technician) != 0 && _able[visit].Length == 0 ? [0] : _able[visit];
        foreach (var window in v.Windows)
        {
            var first = (Math.Max(window.Start, from) + _grid - 1) / _grid * _grid;
            for (var start = first; start + v.Before + v.Unattended + v.After <= Math.Min(window.End, until); start += _grid)
            {
                var day = Minutes.DayOf(start);
                var floor = (2 * v.Weight * Math.Max(0, day - v.Target)) - (1000 * v.Weight);
                if (earliest ? best.Exists && best.Start <= start : floor >= second.Cost) break;
                if (!HasRoom(visit, day, relaxed)) continue;
                foreach (var technician in able)
                {
                    if (earliest && best.Exists && best.Start <= start) continue;
                    var finish = FinishFor(visit, technician, start, Math.Min(window.End, until), relaxed);
                    if (finish < 0) continue;
                    var option = new Option(technician, start, finish, earliest ? start : floor + Price(visit, technician, start, finish));
                    if (option.Cost < best.Cost)
                    {
                        if (best.Exists && (best.Technician != technician || Minutes.DayOf(best.Start) != day)) second = best;
                        best = option;
                    }
                    else if (option.Cost < second.Cost && (best.Technician != technician || Minutes.DayOf(best.Start) != day)) second = option;
                }
            }
        }
        return (best, second);
    }

    /// <summary>How many of the two ends of a part touch another part or an end of the shift.</summary>
    private int Touches(int technician, int start, int end)
    {
        var (first, last) = (start / _grid, (end + _grid - 1) / _grid);
        var ends = _shiftEnd[technician];
        return (first == 0 || ends[first - 1] != ends[first] || IsBusy(technician, first - 1) ? 1 : 0) + (last == ends[first] || IsBusy(technician, last) ? 1 : 0);
    }

    private bool IsBusy(int technician, int slot) => (_busy[technician][slot >> 6] & (1UL << (slot & 63))) != 0;

    private int SnugFinish(int visit, int technician, int start, int earliest, int windowEnd)
    {
        var v = _visits[visit];
        if (v.After == 0) return earliest;
        var (best, most) = (earliest, Touches(technician, earliest, earliest + v.After));
        for (var finish = earliest + _grid; most < 2 && finish <= Math.Min(v.EarliestFinish(start) + v.Slack, windowEnd - v.After); finish += _grid)
        {
            if (!Fits(technician, finish, finish + v.After, _site[visit]) || !HasBench(_site[visit], start, finish + v.After)) continue;
            var touches = Touches(technician, finish, finish + v.After);
            if (touches > most) (best, most) = (finish, touches);
        }
        return best;
    }

    private bool HasRoom(int visit, int day, Relaxed relaxed)
    {
        if (_depot[visit] < 0) return true;
        var staged = _visits[visit].Staged!;
        var depot = _problem.Depots[_depot[visit]];
        if ((relaxed & Relaxed.Daily) == 0 && _brought[_depot[visit]][day] + staged.Size > (depot.Daily ?? int.MaxValue)) return false;
        if ((relaxed & Relaxed.Capacity) != 0 || depot.Capacity is not { } capacity) return true;
        var (low, high) = Span(staged, day);
        for (var d = low; d <= high; d++)
            if (_lies[_depot[visit]][d] + staged.Size > capacity) return false;
        return true;
    }

    private (int Low, int High) Span(Staged staged, int day) => (Math.Max(0, day - staged.LeadDays), Math.Min(_problem.Days - 1, day + staged.HoldDays));

    private int FinishFor(int visit, int technician, int start, int windowEnd, Relaxed relaxed)
    {
        var v = _visits[visit];
        var free = (relaxed & Relaxed.Technician) != 0;
        if (!free && !Fits(technician, start, start + v.Before, _site[visit])) return -1;
        var earliest = v.EarliestFinish(start);
        var latest = v.After == 0 ? earliest : Math.Min(earliest + v.Slack, windowEnd - v.After);
        for (var finish = earliest; finish <= latest; finish += _grid)
        {
            if (!free && v.After > 0 && !Fits(technician, finish, finish + v.After, _site[visit])) continue;
            return (relaxed & Relaxed.Benches) != 0 || HasBench(_site[visit], start, finish + v.After) ? finish : -1;
        }
        return -1;
    }

    private bool HasBench(int site, int start, int end)
    {
        var underWay = _underWay[site];
        for (var slot = start / _grid; slot * _grid < end; slot++)
            if (underWay[slot] >= _benches[site]) return false;
        return true;
    }

    private bool Fits(int technician, int start, int end, int site)
    {
        var (first, last) = (start / _grid, (end + _grid - 1) / _grid);
        if (_shiftEnd[technician][first] < last) return false;
        var busy = _busy[technician];
        for (var slot = first; slot < last;)
        {
            var many = Math.Min(last - slot, 64 - (slot & 63));
            var mask = (many == 64 ? ulong.MaxValue : (1UL << many) - 1) << (slot & 63);
            if ((busy[slot >> 6] & mask) != 0) return false;
            slot += many;
        }
        if (!_travels[technician]) return true;
        // Also to parts that are not next to it: else taking out what lies between could leave two too close.
        foreach (var part in _parts[technician][Minutes.DayOf(start)])
        {
            var apart = _travel[part.Site, site];
            if (apart > 0 && part.Start < end + apart && start < part.End + apart) return false;
        }
        return true;
    }

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

    /// <summary>What a part adds in technician days and journeys; <paramref name="first"/> is the start of the same visit's first part, counted as present, or -1.</summary>
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
        return 2 * ((before >= 0 && before != site ? 1 : 0) + (after >= 0 && after != site ? 1 : 0) - (before >= 0 && after >= 0 && before != after ? 1 : 0));
    }

    /// <summary>Places a visit where <see cref="Find"/> said it can go.</summary>
    public void Place(int visit, Option option)
    {
        var v = _visits[visit];
        var day = Minutes.DayOf(option.Start);
        Cost += (2 * v.Weight * Math.Max(0, day - v.Target)) - (1000 * v.Weight) + Price(visit, option.Technician, option.Start, option.Finish);
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
        Shift(visit, at, -1);
        _at[visit] = Option.None;
        Open(visit);
        var v = _visits[visit];
        Cost -= (2 * v.Weight * Math.Max(0, Minutes.DayOf(at.Start) - v.Target)) - (1000 * v.Weight) + Price(visit, at.Technician, at.Start, at.Finish);
    }

    private void Shift(int visit, Option at, int by)
    {
        var v = _visits[visit];
        var day = Minutes.DayOf(at.Start);
        var underWay = _underWay[_site[visit]];
        for (var slot = at.Start / _grid; slot * _grid < at.Finish + v.After; slot++) underWay[slot] += by;
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

    /// <summary>Another timetable with the same plan.</summary>
    public Timetable Copy()
    {
        var copy = new Timetable(_problem);
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

    /// <summary>The problem that this is a plan for.</summary>
    public AppointmentProblem Problem => _problem;

    /// <summary>The plan as it stands; <paramref name="because"/> explains what is left out.</summary>
    public Plan ToPlan(Func<int, string> because) => new(
        [.. Enumerable.Range(0, Count).Where(IsPlaced).Select(i => new Placed(_visits[i].Id, _problem.Technicians[_at[i].Technician].Id, _at[i].Start, _at[i].Finish))],
        [.. Enumerable.Range(0, Count).Where(i => !IsPlaced(i)).Select(i => new Unplaced(_visits[i].Id, because(i)))]);
}
