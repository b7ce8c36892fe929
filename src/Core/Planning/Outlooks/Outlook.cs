namespace YardRelay.Core.Planning.Outlooks;

/// <summary>What is not certain on the day.</summary>
/// <param name="LengthSpread">Standard deviation of the logarithm of a length against its estimate, 0 to 2: 0.25 means that two of three
/// parts take between 0.78 and 1.28 times the estimate. The median is the estimate.</param>
/// <param name="NoShow">Chance that the person or the room is not there, 0 to 1.</param>
/// <param name="FailedTrip">Chance that the files are not all over and the visit must be repeated, 0 to 1.</param>
/// <param name="OvertimeMinutes">How long a technician stays to finish what was begun.</param>
public sealed record Doubts(double LengthSpread = 0.25, double NoShow = 0.04, double FailedTrip = 0.03, int OvertimeMinutes = 30)
{
    /// <summary>What is out of range.</summary>
    public IReadOnlyList<Problem> Check()
    {
        var wrong = new List<Problem>();
        if (LengthSpread is not (>= 0 and <= 2)) wrong.Add(new OutlookSpreadProblem(LengthSpread));
        foreach (var (what, chance) in new[] { ("a no-show", NoShow), ("a failed trip", FailedTrip) })
            if (chance is not (>= 0 and <= 1)) wrong.Add(new OutlookChanceProblem(what, chance));
        if (OvertimeMinutes is < 0 or > 600)
            wrong.Add(new OutlookOvertimeProblem(OvertimeMinutes));
        return wrong;
    }
}

/// <summary>How a day may go.</summary>
/// <param name="Overtime">Chance that somebody works past the end of a shift.</param>
/// <param name="Repeated">Visits of the day that must be repeated, on average.</param>
public sealed record DayRisk(int Day, int Visits, double Overtime, double Repeated);

/// <summary>How a site may fare.</summary>
/// <param name="Repeated">Visits there that must be repeated, on average.</param>
public sealed record SiteRisk(string Site, int Visits, double Repeated);

/// <summary>Chances, from a simulation.</summary>
/// <param name="InTime">Chance that all that is placed is done by the last day of the instance.</param>
/// <param name="DoneBy">Chance that all is done by the end of each day, from day 0 to some days after the last one: so it also shows what
/// days of slack are worth.</param>
public sealed record OutlookReport(
    int Runs, int Seed, Doubts Doubts, double InTime, IReadOnlyList<double> DoneBy, IReadOnlyList<DayRisk> Days,
    IReadOnlyList<SiteRisk> Sites);

/// <summary>
/// Plays a plan many times with lengths, absences and trips as they may come, and counts how it ends. What fails is done again by whoever
/// can and has the minutes to spare on a later day;
/// after the last day the technicians of an average day go on. Lengths are log-normal.
/// </summary>
public static class Outlook
{
    /// <summary>Days after the last one that the report shows.</summary>
    public const int DaysBeyond = 10;

    // What a plan leaves free on a day is not all of use: it lies in pieces.
    private const double OfUse = 0.8;

    /// <summary>Plays the plan.</summary>
    /// <param name="plan">A plan that keeps the rules; what it leaves out is not counted.</param>
    /// <param name="runs">Times, 1 to 100,000.</param>
    /// <param name="seed">The same seed gives the same report.</param>
    public static OutlookReport Play(AppointmentProblem problem, Plan plan, Doubts doubts, int runs, int seed)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(runs, 1);
        var stage = new Stage(problem, plan, doubts, new(seed));
        for (var run = 0; run < runs; run++) stage.Play();
        return new(
            runs, seed, doubts, stage.DoneBy[problem.Days - 1] / (double)runs, [.. stage.DoneBy.Select(n => n / (double)runs)],
            [.. Enumerable.Range(0, problem.Days)
                .Where(d => stage.VisitsOn[d] > 0)
                .Select(d => new DayRisk(d, stage.VisitsOn[d], stage.Overtime[d] / (double)runs, stage.RepeatedOn[d] / (double)runs))],
            [.. problem.Sites.Where(s => stage.RepeatedAt.ContainsKey(s.Id))
                .Select(s => new SiteRisk(
                    s.Id, plan.Placed.Count(p => problem.VisitOf[p.Id].Site == s.Id), stage.RepeatedAt[s.Id] / (double)runs))]);
    }

    private sealed class Stage
    {
        private readonly record struct Turn(int Visit, bool IsFirst, int Planned, int Minutes);

        private readonly AppointmentProblem _problem;
        private readonly Doubts _doubts;
        private readonly Random _random;
        private readonly List<(int Technician, int Day, int ShiftEnd, List<Turn> Turns)> _days = [];
        private readonly Visit[] _visits;
        private readonly Placed[] _placed;
        private readonly int[][] _able;
        private readonly double[][] _spare;
        private readonly double[][] _left;
        private readonly double _perDay;
        private readonly int[] _firstEnd;
        private readonly bool[] _fails;

        public Stage(AppointmentProblem problem, Plan plan, Doubts doubts, Random random)
        {
            (_problem, _doubts, _random) = (problem, doubts, random);
            _placed = [.. plan.Placed.OrderBy(p => p.Start).ThenBy(p => p.Id, StringComparer.Ordinal)];
            _visits = [.. _placed.Select(p => problem.VisitOf[p.Id])];
            (_firstEnd, _fails) = (new int[_visits.Length], new bool[_visits.Length]);
            VisitsOn = new int[problem.Days];
            Overtime = new int[problem.Days];
            RepeatedOn = new int[problem.Days];
            DoneBy = new int[problem.Days + DaysBeyond];
            foreach (var site in _visits.Select(v => v.Site)) RepeatedAt[site] = 0;
            foreach (var placed in _placed) VisitsOn[Minutes.DayOf(placed.Start)]++;
            _able = [.. _visits.Select(v => problem.Technicians.Select((t, i) => (t, i))
                .Where(p => p.t.Sites.Contains(v.Site) && v.Skills.All(p.t.Skills.Contains))
                .Select(p => p.i).ToArray())];
            _spare = [.. problem.Technicians.Select(t => Enumerable.Range(0, problem.Days)
                .Select(d => (double)t.Shifts.Where(s => Minutes.DayOf(s.Start) == d).Sum(s => s.End - s.Start)).ToArray())];
            _perDay = Math.Max(
                60, _spare.Sum(t => t.Sum()) / Math.Max(1, Enumerable.Range(0, problem.Days).Count(d => _spare.Any(t => t[d] > 0))));
            _left = [.. _spare.Select(t => new double[t.Length])];
            for (var t = 0; t < problem.Technicians.Count; t++)
            {
                var turns = Enumerable.Range(0, _placed.Length)
                    .Where(i => _placed[i].Technician == problem.Technicians[t].Id)
                    .SelectMany(i => _visits[i].After > 0
                    ? new Turn[] { new(i, true, _placed[i].Start, _visits[i].Before), new(i, false, _placed[i].Finish, _visits[i].After) }
                        : [new(i, true, _placed[i].Start, _visits[i].Before)]);
                foreach (var day in turns.GroupBy(turn => Minutes.DayOf(turn.Planned)).OrderBy(g => g.Key))
                {
                    _spare[t][day.Key] -= day.Sum(turn => turn.Minutes);
                    _days.Add((
                        t,
                        day.Key,
                        problem.Technicians[t].Shifts.Where(s => Minutes.DayOf(s.Start) == day.Key).Max(s => s.End),
                        [.. day.OrderBy(turn => turn.Planned)]));
                }
                for (var d = 0; d < problem.Days; d++) _spare[t][d] = Math.Max(0, _spare[t][d] * OfUse);
            }
            _days.Sort((a, b) => (a.Day, a.Technician).CompareTo((b.Day, b.Technician)));
        }

        public int[] VisitsOn { get; }

        public int[] Overtime { get; }

        public int[] RepeatedOn { get; }

        public int[] DoneBy { get; }

        public Dictionary<string, int> RepeatedAt { get; } = new(StringComparer.Ordinal);

        private int Drawn(int minutes)
        {
            // Box and Muller: one normal from two uniforms.
            var normal = Math.Sqrt(-2 * Math.Log(1 - _random.NextDouble())) * Math.Cos(2 * Math.PI * _random.NextDouble());
            return (int)Math.Round(minutes * Math.Exp(_doubts.LengthSpread * normal));
        }

        public void Play()
        {
            for (var t = 0; t < _spare.Length; t++) Array.Copy(_spare[t], _left[t], _spare[t].Length);
            var overtime = new bool[_problem.Days];
            var last = _placed.Length == 0 ? 0 : _placed.Max(p => Minutes.DayOf(p.Start));
            var (late, again) = (0.0, new List<(int Visit, int Day)>());
            for (var i = 0; i < _visits.Length; i++) _fails[i] = false;
            foreach (var (technician, day, shiftEnd, turns) in _days)
            {
                var (free, site) = (0, (string?)null);
                foreach (var turn in turns)
                {
                    var visit = _visits[turn.Visit];
                    if (turn.IsFirst && _random.NextDouble() < _doubts.NoShow) _fails[turn.Visit] = true;
                    if (_fails[turn.Visit])
                    {
                        if (turn.IsFirst) again.Add((turn.Visit, day));
                        continue;
                    }
                    var start = Math.Max(turn.Planned, free + (site is null ? 0 : _problem.TravelMinutes(site, visit.Site)));
                    if (!turn.IsFirst) start = Math.Max(start, _firstEnd[turn.Visit] + Drawn(visit.Unattended));
                    var end = start + Drawn(turn.Minutes);
                    if (end > shiftEnd) overtime[day] = true;
                    if (end > shiftEnd + _doubts.OvertimeMinutes)
                    {
                        _fails[turn.Visit] = true;
                        again.Add((turn.Visit, day));
                        continue;
                    }
                    (free, site) = (end, visit.Site);
                    if (turn.IsFirst) _firstEnd[turn.Visit] = end;
                    if ((!turn.IsFirst || visit.After == 0) && _random.NextDouble() < _doubts.FailedTrip)
                    {
                        _fails[turn.Visit] = true;
                        again.Add((turn.Visit, day));
                    }
                }
            }
            foreach (var (visit, day) in again.OrderBy(a => a.Day))
            {
                RepeatedOn[day]++;
                RepeatedAt[_visits[visit].Site]++;
                var needed = _visits[visit].Before + _visits[visit].After;
                if (Later(visit, day, needed) is { } on) last = Math.Max(last, on);
                else late += needed;
            }
            if (late > 0) last = _problem.Days - 1 + (int)Math.Ceiling(late / (_perDay * OfUse));
            for (var d = 0; d < _problem.Days; d++)
                if (overtime[d]) Overtime[d]++;
            for (var d = last; d < DoneBy.Length; d++) DoneBy[d]++;
        }

        private int? Later(int visit, int after, int needed)
        {
            for (var day = after + 1; day < _problem.Days; day++)
                foreach (var technician in _able[visit])
                    if (_left[technician][day] >= needed)
                    {
                        _left[technician][day] -= needed;
                        return day;
                    }
            return null;
        }
    }
}
