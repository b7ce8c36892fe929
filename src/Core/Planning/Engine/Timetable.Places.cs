namespace YardRelay.Core.Planning;

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

/// <summary>Where a visit can go.</summary>
internal sealed partial class Timetable
{
    /// <summary>When a visit could start, sooner one of the cheaper starts; null when it has none.</summary>
    public int? AnyStart(int visit, Random random) =>
        _ground.CandidatesOf(visit) is { Length: > 0 } all ? all[(int)(all.Length * Math.Pow(random.NextDouble(), 1.5))].Start : null;

    /// <summary>The cheapest place, found without looking at those that cannot be cheaper.</summary>
    /// <param name="random">Overlooks a good place now and then, so that a search does not end in the same plan each time; null: overlooks
    /// none.</param>
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
        var until = UntilOf(visit);
        var shortest = v.Before + v.Unattended + v.After;
        var (dayKnown, dayHasRoom) = (-1, true);
        foreach (var candidate in _ground.CandidatesOf(visit))
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
                    var touches = Touches(technician, candidate.Start, candidate.Start + v.Before)
                        + (v.After > 0 ? Touches(technician, finish, finish + v.After) : 0);
                    if (cost > best.Cost || (cost == best.Cost && (touches < snug || (touches == snug && random!.Next(++ties) != 0))))
                        continue;
                    if (cost < best.Cost || touches > snug) ties = 1;
                    (best, snug) = (new(technician, candidate.Start, finish, cost), touches);
                }
                else if (cost < best.Cost) (best, ties) = (new(technician, candidate.Start, finish, cost), 1);
                else if (cost == best.Cost && (taste == Taste.Last || (taste == Taste.Any && random!.Next(++ties) == 0)))
                    best = new(technician, candidate.Start, finish, cost);
            }
        }
        return best;
    }

    /// <summary>The earliest place, whatever it costs.</summary>
    public Option FindEarliest(int visit)
    {
        var (from, until) = Between(visit);
        var best = Option.None;
        var v = _visits[visit];
        foreach (var window in v.Windows)
            for (var start = FirstStart(window, from); start + v.Before + v.Unattended + v.After <= Math.Min(window.End, until)
                && start < (best.Exists ? best.Start : int.MaxValue); start += _grid)
            {
                if ((v.Pinned?.Start ?? start) != start || !HasRoom(visit, Minutes.DayOf(start), Relaxed.None)) continue;
                foreach (var technician in _able[visit])
                {
                    if (FinishFor(visit, technician, start, Math.Min(window.End, until), Relaxed.None) is not (>= 0 and var finish))
                        continue;
                    best = new(technician, start, finish, PlaceCost(visit, technician, start, finish));
                    break;
                }
            }
        return best;
    }

    /// <summary>Of each start that a visit could have, the cheapest place; starts in their order. The visit is not placed.</summary>
    /// <param name="from">No earlier than this minute.</param>
    /// <param name="until">And before this one.</param>
    /// <param name="step">Only starts that are a multiple of it.</param>
    /// <param name="allows">Starts that are looked at.</param>
    public IEnumerable<Option> PlacesOf(int visit, int from, int until, int step, Func<int, bool> allows)
    {
        var (earliest, latest) = Between(visit);
        var v = _visits[visit];
        var last = -1;
        foreach (var window in v.Windows.OrderBy(w => w.Start))
            for (var start = (Math.Max(Math.Max(window.Start, from), earliest) + step - 1) / step * step; start < until
                && start + v.Before + v.Unattended + v.After <= Math.Min(window.End, latest); start += step)
            {
                if (start <= last
                    || (v.Pinned?.Start ?? start) != start
                    || !allows(start)
                    || !HasRoom(visit, Minutes.DayOf(start), Relaxed.None))
                    continue;
                var best = Option.None;
                foreach (var technician in _able[visit])
                    if (FinishFor(visit, technician, start, Math.Min(window.End, latest), Relaxed.None) is >= 0 and var finish
                        && PlaceCost(visit, technician, start, finish) is var cost
                        && cost < best.Cost)
                        best = new(technician, start, finish, cost);
                if (!best.Exists) continue;
                last = start;
                yield return best;
            }
    }

    /// <summary>The cheapest place if some rules did not hold. Looks at all places; a question of a person, not of the search.</summary>
    public Option FindIf(int visit, Relaxed relaxed)
    {
        var v = _visits[visit];
        var (from, until) = Between(visit, relaxed);
        var best = Option.None;
        var windows = (relaxed & Relaxed.Window) == 0
            ? v.Windows
            : [.. Enumerable.Range(0, _problem.Days).Select(d => new Minutes(d * Minutes.PerDay, (d + 1) * Minutes.PerDay))];
        var able = (relaxed & (Relaxed.Technician | Relaxed.Skill)) == 0 && (v.Pinned?.Technician is null || (relaxed & Relaxed.Pin) == 0)
            ? _able[visit]
            : [.. Enumerable.Range(0, _problem.Technicians.Count).Where(t =>
                (relaxed & Relaxed.Technician) != 0 || IsAbleIf(visit, t, relaxed))];
        foreach (var window in windows)
            for (var start = FirstStart(window, from); start + v.Before + v.Unattended
                + v.After <= Math.Min(window.End, until); start += _grid)
            {
                if ((relaxed & Relaxed.Pin) == 0 && (v.Pinned?.Start ?? start) != start) continue;
                var day = Minutes.DayOf(start);
                var floor = (2 * v.Weight * Math.Max(0, day - v.Target)) - (1000 * v.Weight);
                if (floor >= best.Cost && (relaxed & Relaxed.Shift) == 0) break;
                if (!HasRoom(visit, day, relaxed)) continue;
                foreach (var technician in able)
                {
                    var finish = FinishFor(visit, technician, start, Math.Min(window.End, until), relaxed);
                    if (finish < 0) continue;
                    // The smallest change is sought: a shift that is longer by little before a place that costs little.
                    var stretch = (relaxed & Relaxed.Shift) == 0
                        ? 0
                        : Math.Max(
                            StretchFor(technician, start, start + v.Before),
                            v.After == 0 ? 0 : StretchFor(technician, finish, finish + v.After));
                    if (stretch > MostStretch) continue;
                    var cost = (stretch * 10_000) + floor + Price(visit, technician, start, finish);
                    if (cost < best.Cost) best = new(technician, start, finish, cost);
                }
            }
        return best;
    }

    private bool IsAbleIf(int visit, int technician, Relaxed relaxed)
    {
        var (v, t) = (_visits[visit], _problem.Technicians[technician]);
        return ((relaxed & Relaxed.Skill) != 0 || (t.Sites.Contains(v.Site) && v.Skills.All(t.Skills.Contains)))
            && ((relaxed & Relaxed.Pin) != 0 || (v.Pinned?.Technician ?? t.Id) == t.Id);
    }

    /// <summary>
    /// By how many minutes a shift of that day must be longer to hold a part; 0: it holds it; more than <see cref="MostStretch"/>: none is
    /// near.
    /// </summary>
    public int StretchFor(int technician, int start, int end)
    {
        var least = int.MaxValue;
        foreach (var shift in _problem.Technicians[technician].Shifts)
            if (Minutes.DayOf(shift.Start) == Minutes.DayOf(start))
                least = Math.Min(least, Math.Max(0, shift.Start - start) + Math.Max(0, end - shift.End));
        return least;
    }

    /// <summary>The longest stretch of a shift that is proposed, in minutes.</summary>
    public const int MostStretch = 120;

    /// <summary>The cost that a place adds to the plan.</summary>
    public int PlaceCost(int visit, int technician, int start, int finish) =>
        (2 * _visits[visit].Weight * Math.Max(0, Minutes.DayOf(start) - _visits[visit].Target)) - (1000 * _visits[visit].Weight)
            + Price(visit, technician, start, finish);

    private int FirstStart(Minutes window, int from) => (Math.Max(window.Start, from) + _grid - 1) / _grid * _grid;

    /// <summary>No earlier and no later than its release and the visits around it allow.</summary>
    private (int From, int Until) Between(int visit, Relaxed relaxed = Relaxed.None)
    {
        var v = _visits[visit];
        var from = (relaxed & Relaxed.Release) != 0 ? 0 : v.Release;
        if (_follows[visit] is >= 0 and var before && (relaxed & Relaxed.Order) == 0)
            from = IsPlaced(before)
                ? Math.Max(from, _at[before].Finish + _visits[before].After + v.Follows!.GapMinutes)
                : int.MaxValue - Minutes.PerDay;
        return (from, UntilOf(visit));
    }

    private int UntilOf(int visit)
    {
        var until = int.MaxValue;
        foreach (var follower in _followers[visit])
            if (IsPlaced(follower)) until = Math.Min(until, _at[follower].Start - _visits[follower].Follows!.GapMinutes);
        return until;
    }

    /// <summary>How many of the two ends of a part touch another part or an end of the shift.</summary>
    private int Touches(int technician, int start, int end)
    {
        var (first, last) = (start / _grid, (end + _grid - 1) / _grid);
        var ends = _shiftEnd[technician];
        return (first == 0 || ends[first - 1] != ends[first] || IsBusy(technician, first - 1) ? 1 : 0)
            + (last == ends[first] || IsBusy(technician, last) ? 1 : 0);
    }

    private bool IsBusy(int technician, int slot) => (_busy[technician][slot >> 6] & (1UL << (slot & 63))) != 0;

    private int SnugFinish(int visit, int technician, int start, int earliest, int windowEnd)
    {
        var v = _visits[visit];
        if (v.After == 0) return earliest;
        var (best, most) = (earliest, Touches(technician, earliest, earliest + v.After));
        for (var finish = earliest + _grid; most < 2
            && finish <= Math.Min(v.EarliestFinish(start) + v.Slack, windowEnd - v.After); finish += _grid)
        {
            if (!Fits(technician, finish, finish + v.After, _site[visit])
                || !HasBench(_site[visit], start, finish + v.After)
                || !GroupsAllow(visit, start, finish + v.After))
                continue;
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

    private (int Low, int High) Span(Staged staged, int day) =>
        (Math.Max(0, day - staged.LeadDays), Math.Min(_problem.Days - 1, day + staged.HoldDays));

    private int FinishFor(int visit, int technician, int start, int windowEnd, Relaxed relaxed)
    {
        var v = _visits[visit];
        var free = (relaxed & Relaxed.Technician) != 0;
        var inShift = (relaxed & Relaxed.Shift) == 0;
        if (!free && !Fits(technician, start, start + v.Before, _site[visit], inShift)) return -1;
        var earliest = v.EarliestFinish(start);
        var latest = v.After == 0 ? earliest : Math.Min(earliest + v.Slack, windowEnd - v.After);
        for (var finish = earliest; finish <= latest; finish += _grid)
        {
            if (!free && v.After > 0 && !Fits(technician, finish, finish + v.After, _site[visit], inShift)) continue;
            return ((relaxed & Relaxed.Benches) != 0 || HasBench(_site[visit], start, finish + v.After))
                && ((relaxed & Relaxed.Groups) != 0 || GroupsAllow(visit, start, finish + v.After))
                ? finish
                : -1;
        }
        return -1;
    }

    private bool GroupsAllow(int visit, int start, int end) =>
        _groups[visit].Length == 0 || (IsOneDay(visit, start) && !TooMany(visit, start, end).Any());

    private bool IsOneDay(int visit, int start) =>
        !_groups[visit].Any(g => _problem.Groups[g].IsOneDay && _groupPlaced[g] > 0 && _groupDay[g] != Minutes.DayOf(start));

    /// <summary>The groups of which too many would be under way.</summary>
    private IEnumerable<PlanGroup> TooMany(int visit, int start, int end)
    {
        foreach (var group in _groups[visit])
        {
            if (_problem.Groups[group].AtOnce is not { } most) continue;
            for (var slot = start / _grid; slot * _grid < end; slot++)
            {
                if (_groupUnderWay[group][slot] < most) continue;
                yield return _problem.Groups[group];
                break;
            }
        }
    }

    private bool HasBench(int site, int start, int end)
    {
        var underWay = _underWay[site];
        for (var slot = start / _grid; slot * _grid < end; slot++)
            if (underWay[slot] >= _benches[site]) return false;
        return true;
    }

    private bool Fits(int technician, int start, int end, int site, bool inShift = true)
    {
        var (first, last) = (start / _grid, (end + _grid - 1) / _grid);
        if (inShift && _shiftEnd[technician][first] < last) return false;
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
}
