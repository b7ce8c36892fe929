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
    private readonly int[][] _shiftOf;
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
        _shiftOf = [.. problem.Technicians.Select(t => ShiftOfSlot(t, slots))];
        _parts = [.. problem.Technicians.Select(_ => Enumerable.Range(0, problem.Days).Select(_ => new List<Part>()).ToArray())];
        _at = [.. _visits.Select(_ => Option.None)];
        Cost = _visits.Sum(v => 1000 * v.Weight);
    }

    /// <summary>The cost of the plan as it stands.</summary>
    public int Cost { get; private set; }

    public int Count => _visits.Length;

    public Option At(int visit) => _at[visit];

    public bool IsPlaced(int visit) => _at[visit].Exists;

    public Visit Visit(int visit) => _visits[visit];

    public int SiteOf(int visit) => _site[visit];

    public IReadOnlyList<int> FollowersOf(int visit) => _followers[visit];

    public IReadOnlyList<int> AbleFor(int visit) => _able[visit];

    public bool Leads(int visit) => _follows[visit] < 0 || IsPlaced(_follows[visit]);

    private int[] ShiftOfSlot(PlanTechnician technician, int slots)
    {
        var shiftOf = new int[slots];
        Array.Fill(shiftOf, -1);
        for (var i = 0; i < technician.Shifts.Count; i++)
        {
            var shift = technician.Shifts[i];
            for (var slot = (shift.Start + _grid - 1) / _grid; slot < slots && (slot + 1) * _grid <= shift.End; slot++) shiftOf[slot] = i;
        }
        return shiftOf;
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
                if (!earliest && floor >= second.Cost) break;
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
        var shiftOf = _shiftOf[technician];
        var shift = shiftOf[start / _grid];
        if (shift < 0) return false;
        for (var slot = (start / _grid) + 1; slot * _grid < end; slot++)
            if (shiftOf[slot] != shift) return false;
        // A part belongs to the day it starts on, but may run past midnight into the next day's first part.
        var day = Minutes.DayOf(start);
        for (var d = Math.Max(0, day - 1); d <= Math.Min(_problem.Days - 1, day + 1); d++)
            foreach (var part in _parts[technician][d])
            {
                var apart = d == day ? _travel[part.Site, site] : 0;
                if (part.Start < end + apart && start < part.End + apart) return false;
            }
        return true;
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

    /// <summary>The visits of a technician on a day.</summary>
    public IEnumerable<int> VisitsOf(int technician, int day) => _parts[technician][day].Select(p => p.Visit).Distinct();

    /// <summary>The plan as it stands; <paramref name="because"/> explains what is left out.</summary>
    public Plan ToPlan(Func<int, string> because) => new(
        [.. Enumerable.Range(0, Count).Where(IsPlaced).Select(i => new Placed(_visits[i].Id, _problem.Technicians[_at[i].Technician].Id, _at[i].Start, _at[i].Finish))],
        [.. Enumerable.Range(0, Count).Where(i => !IsPlaced(i)).Select(i => new Unplaced(_visits[i].Id, because(i)))]);
}
