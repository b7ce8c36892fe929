namespace YardRelay.Core.Planning;

/// <summary>A start of a visit inside one of its windows, with the least that it can cost.</summary>
internal readonly record struct Candidate(int Start, int WindowEnd, int Least, int Late);

/// <summary>
/// The instance in indexes, and all that follows from it alone: who is able, which starts a visit has. Made once, shared by every timetable
/// of the instance, never changed.
/// </summary>
internal sealed class Ground
{
    public Ground(AppointmentProblem problem)
    {
        Problem = problem;
        Visits = [.. problem.Visits];
        TechnicianIndex = problem.Technicians.Select((t, i) => (t.Id, i)).ToDictionary(p => p.Id, p => p.i);
        VisitIndex = Visits.Select((v, i) => (v.Id, i)).ToDictionary(p => p.Id, p => p.i);
        var siteIndex = problem.Sites.Select((s, i) => (s.Id, i)).ToDictionary(p => p.Id, p => p.i);
        var depotIndex = problem.Depots.Select((d, i) => (d.Id, i)).ToDictionary(p => p.Id, p => p.i);
        Site = [.. Visits.Select(v => siteIndex[v.Site])];
        Depot = [.. Visits.Select(v => v.Staged is { } s ? depotIndex[s.Depot] : -1)];
        Follows = [.. Visits.Select(v => v.Follows is { } f ? VisitIndex[f.Visit] : -1)];
        Followers = [.. Visits.Select(_ => new List<int>())];
        for (var i = 0; i < Visits.Length; i++)
            if (Follows[i] >= 0) Followers[Follows[i]].Add(i);
        var groups = Visits.Select(_ => new List<int>()).ToList();
        foreach (var (g, group) in problem.Groups.Index())
            foreach (var member in group.Visits) groups[VisitIndex[member]].Add(g);
        GroupsOf = [.. groups.Select(g => g.ToArray())];
        Members = [.. problem.Groups.Select(g => g.Visits.Select(v => VisitIndex[v]).ToArray())];
        Able = [.. Visits.Select(AbleFor)];
        Travel = new int[problem.Sites.Count, problem.Sites.Count];
        for (var a = 0; a < problem.Sites.Count; a++)
            for (var b = 0; b < problem.Sites.Count; b++) Travel[a, b] = problem.TravelMinutes(problem.Sites[a].Id, problem.Sites[b].Id);
        Slots = (problem.Days * Minutes.PerDay / problem.Grid) + 1;
        ShiftEnd = [.. problem.Technicians.Select(ShiftEndOfSlot)];
        Travels = [.. problem.Technicians.Select(t => t.Sites.Any(a => t.Sites.Any(b => problem.TravelMinutes(a, b) > 0)))];
        _candidates = new Candidate[Visits.Length][];
        LongestPart = Visits.Select(v => Math.Max(v.Before, v.After)).DefaultIfEmpty(0).Max();
        Promised = [.. Visits.Select((v, i) => (v, i)).Where(p => p.v.Published is not null).Select(p => p.i)];
        PromisedTo = [.. Visits.Select(v => v.Published is { } told ? TechnicianIndex[told.Technician] : -1)];
    }

    public AppointmentProblem Problem { get; }

    public Visit[] Visits { get; }

    public IReadOnlyDictionary<string, int> VisitIndex { get; }

    public IReadOnlyDictionary<string, int> TechnicianIndex { get; }

    /// <summary>Minutes of the longest hands-on part.</summary>
    public int LongestPart { get; }

    /// <summary>Slots of one grid in all days.</summary>
    public int Slots { get; }

    public int[] Site { get; }

    /// <summary>Depot of each visit; -1: none.</summary>
    public int[] Depot { get; }

    /// <summary>The visit that each follows; -1: none.</summary>
    public int[] Follows { get; }

    public List<int>[] Followers { get; }

    /// <summary>Groups that each visit is in.</summary>
    public int[][] GroupsOf { get; }

    /// <summary>Visits of each group.</summary>
    public int[][] Members { get; }

    /// <summary>Technicians with the skills, at the site, and pinned to it or to nobody.</summary>
    public int[][] Able { get; }

    public int[,] Travel { get; }

    /// <summary>For each technician and each slot that lies in a shift: the slot at which that shift ends; elsewhere 0.</summary>
    public int[][] ShiftEnd { get; }

    /// <summary>Whether a technician serves two sites with a way between them.</summary>
    public bool[] Travels { get; }

    private readonly Candidate[]?[] _candidates;

    /// <summary>
    /// Starts of a visit, those that can cost least first. Found when they are first asked for: whoever lays out a plan to move one visit
    /// needs no others.
    /// Two threads that ask at once find the same.
    /// </summary>
    public Candidate[] CandidatesOf(int visit) => _candidates[visit] ??= StartsOf(Visits[visit]);

    /// <summary>Visits whose person was told something.</summary>
    public int[] Promised { get; }

    /// <summary>Who each visit was promised to; -1: nobody.</summary>
    public int[] PromisedTo { get; }

    private int[] AbleFor(Visit visit)
    {
        var able = new List<int>();
        for (var i = 0; i < Problem.Technicians.Count; i++)
        {
            var technician = Problem.Technicians[i];
            if (technician.Sites.Contains(visit.Site)
                && visit.Skills.All(technician.Skills.Contains)
                && (visit.Pinned?.Technician ?? technician.Id) == technician.Id)
                able.Add(i);
        }
        return [.. able];
    }

    private Candidate[] StartsOf(Visit v)
    {
        var (found, grid) = (new List<Candidate>(), Problem.Grid);
        foreach (var window in v.Windows)
            for (var start = (Math.Max(window.Start, v.Release) + grid
                - 1) / grid * grid; start + v.Before + v.Unattended + v.After <= window.End; start += grid)
            {
                if (v.Pinned?.Start is { } pinned && pinned != start) continue;
                var late = (2 * v.Weight * Math.Max(0, Minutes.DayOf(start) - v.Target)) - (1000 * v.Weight);
                var shortest = new Minutes(start, v.EarliestFinish(start) + v.After);
                var least = late + (v.Preferred.Count > 0 && !v.Preferred.Any(p => p.Holds(shortest)) ? 3 : 0)
                    + (v.Published is { } told && told.Start != start ? 5 : 0);
                found.Add(new(start, window.End, least, late));
            }
        return [.. found.OrderBy(c => c.Least).ThenBy(c => c.Start)];
    }

    private int[] ShiftEndOfSlot(PlanTechnician technician)
    {
        var ends = new int[Slots + 1];
        foreach (var shift in technician.Shifts)
        {
            var end = Math.Min(Slots, shift.End / Problem.Grid);
            for (var slot = (shift.Start + Problem.Grid - 1) / Problem.Grid; slot < end; slot++) ends[slot] = end;
        }
        return ends;
    }
}
