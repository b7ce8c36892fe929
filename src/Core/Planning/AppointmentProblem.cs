namespace YardRelay.Core.Planning;

/// <summary>A place with so many benches: how many visits may be under way there at once.</summary>
public sealed record PlanSite(string Id, int Benches);

/// <summary>A technician: skills, sites served, and shifts that do not overlap.</summary>
public sealed record PlanTechnician(string Id, IReadOnlyList<string> Skills, IReadOnlyList<string> Sites, IReadOnlyList<Minutes> Shifts);

/// <summary>Room at a depot. Both bounds in the unit of <see cref="Visit.Staged"/>; null: no bound.</summary>
/// <param name="Capacity">How much may lie there at once.</param>
/// <param name="Daily">How much may belong to visits that start on one day.</param>
public sealed record PlanDepot(string Id, int? Capacity, int? Daily);

/// <summary>
/// What a visit keeps in a depot: <paramref name="Size"/> from <paramref name="LeadDays"/> before to <paramref name="HoldDays"/> after its
/// day.
/// </summary>
public sealed record Staged(string Depot, int Size, int LeadDays, int HoldDays);

/// <summary>What the person has been told already.</summary>
public sealed record Published(int Start, string Technician);

/// <summary>The visit that must be over <paramref name="GapMinutes"/> before this one starts.</summary>
public sealed record Follows(string Visit, int GapMinutes);

/// <summary>Where a visit is fixed: in time, in technician, or both. At least one of the two is given.</summary>
/// <param name="Start">Minute at which it starts; null: at any.</param>
/// <param name="Technician">Who does it; null: anybody who can.</param>
public sealed record Pin(int? Start, string? Technician);

/// <summary>Visits that have to do with each other.</summary>
/// <param name="Visits">Two or more.</param>
/// <param name="AtOnce">No more of them are under way at once; null: any number.</param>
/// <param name="IsOneDay">Those that are placed start on one day.</param>
public sealed record PlanGroup(string Id, IReadOnlyList<string> Visits, int? AtOnce, bool IsOneDay);

/// <summary>One appointment to place. Lengths in minutes, multiples of the grid.</summary>
/// <param name="Before">First hands-on part, at least one grid.</param>
/// <param name="Unattended">Part that runs by itself.</param>
/// <param name="After">Last hands-on part; 0: there is none.</param>
/// <param name="Slack">How much later than possible the last part may come.</param>
/// <param name="Windows">When person and room are free.</param>
/// <param name="Preferred">What the person asked for; empty: any time is as good.</param>
/// <param name="Release">No earlier than this minute.</param>
/// <param name="Target">Day by which it should be done.</param>
/// <param name="Pinned">Where it is fixed; null: it is free.</param>
public sealed record Visit(
    string Id, string Site, IReadOnlyList<string> Skills, int Weight,
    int Before, int Unattended, int After, int Slack,
    IReadOnlyList<Minutes> Windows, IReadOnlyList<Minutes> Preferred, int Release, int Target,
    Staged? Staged, Published? Published, Follows? Follows, Pin? Pinned = null)
{
    /// <summary>The earliest finish for a start: the last hands-on part begins then.</summary>
    public int EarliestFinish(int start) => start + Before + Unattended;
}

/// <summary>An instance of the appointment problem. Made by <see cref="Create"/> only, so it is always whole and consistent.</summary>
public sealed class AppointmentProblem
{
    private readonly Dictionary<(string, string), int> _travel;

    private AppointmentProblem(
        string name, int days, int grid, IReadOnlyList<PlanSite> sites, Dictionary<(string, string), int> travel,
        IReadOnlyList<PlanTechnician> technicians,
        IReadOnlyList<PlanDepot> depots,
        IReadOnlyList<Visit> visits,
        IReadOnlyList<PlanGroup> groups)
    {
        (Name, Days, Grid, Sites, _travel, Technicians, Depots, Visits, Groups) =
            (name, days, grid, sites, travel, technicians, depots, visits, groups);
        SiteOf = sites.ToDictionary(s => s.Id);
        TechnicianOf = technicians.ToDictionary(t => t.Id);
        DepotOf = depots.ToDictionary(d => d.Id);
        VisitOf = visits.ToDictionary(v => v.Id);
    }

    /// <summary>What the instance is called.</summary>
    public string Name { get; }

    /// <summary>Days 0 to Days-1.</summary>
    public int Days { get; }

    /// <summary>Minutes of which every start, finish and length of a visit is a multiple.</summary>
    public int Grid { get; }

    /// <summary>All sites.</summary>
    public IReadOnlyList<PlanSite> Sites { get; }

    /// <summary>All technicians.</summary>
    public IReadOnlyList<PlanTechnician> Technicians { get; }

    /// <summary>All depots.</summary>
    public IReadOnlyList<PlanDepot> Depots { get; }

    /// <summary>All visits to place.</summary>
    public IReadOnlyList<Visit> Visits { get; }

    /// <summary>All groups.</summary>
    public IReadOnlyList<PlanGroup> Groups { get; }

    /// <summary>Sites by id.</summary>
    public IReadOnlyDictionary<string, PlanSite> SiteOf { get; }

    /// <summary>Technicians by id.</summary>
    public IReadOnlyDictionary<string, PlanTechnician> TechnicianOf { get; }

    /// <summary>Depots by id.</summary>
    public IReadOnlyDictionary<string, PlanDepot> DepotOf { get; }

    /// <summary>Visits by id.</summary>
    public IReadOnlyDictionary<string, Visit> VisitOf { get; }

    /// <summary>The same instance with other visits; of its groups, what of them is still there.</summary>
    public Result<AppointmentProblem> With(IReadOnlyList<Visit> visits)
    {
        var there = visits.Select(v => v.Id).ToHashSet();
        return Create(
            Name, Days, Grid, Sites, [.. _travel.Select(t => (t.Key.Item1, t.Key.Item2, t.Value))], Technicians, Depots, visits,
            [.. Groups.Select(g => g with { Visits = [.. g.Visits.Where(there.Contains)] }).Where(g => g.Visits.Count > 1)]);
    }

    /// <summary>Minutes between two sites; 0 for a pair that is not listed and within a site.</summary>
    public int TravelMinutes(string from, string to) =>
        from == to ? 0 : _travel.TryGetValue((from, to), out var there) ? there : _travel.GetValueOrDefault((to, from));

    /// <summary>Checks all of it and reports everything that is wrong at once.</summary>
    public static Result<AppointmentProblem> Create(
        string name, int days, int grid, IReadOnlyList<PlanSite> sites, IReadOnlyList<(string From, string To, int Minutes)> travel,
        IReadOnlyList<PlanTechnician> technicians,
        IReadOnlyList<PlanDepot> depots,
        IReadOnlyList<Visit> visits,
        IReadOnlyList<PlanGroup>? groups = null)
    {
        groups ??= [];
        var wrong = new List<Problem>();
        void Say(string message) => wrong.Add(new PlanInstanceProblem(message));
        void Unique(string what, IEnumerable<string> ids)
        {
            foreach (var twice in ids.GroupBy(i => i).Where(g => g.Count() > 1))
                Say($"{what} '{twice.Key}' stands {twice.Count()} times. Give each its own id.");
        }

        if (days is < 1 or > 3660) Say($"'days' is {days}. It must be from 1 to 3660.");
        if (grid is < 1 or > 720) Say($"'grid' is {grid}. It must be from 1 to 720 minutes.");
        Unique("Site", sites.Select(s => s.Id));
        Unique("Technician", technicians.Select(t => t.Id));
        Unique("Depot", depots.Select(d => d.Id));
        Unique("Swap", visits.Select(v => v.Id));
        Unique("Group", groups.Select(g => g.Id));
        var siteIds = sites.Select(s => s.Id).ToHashSet();
        var technicianIds = technicians.Select(t => t.Id).ToHashSet();
        var depotIds = depots.Select(d => d.Id).ToHashSet();
        var visitIds = visits.Select(v => v.Id).ToHashSet();
        string Known(IEnumerable<string> ids) =>
            "It has " + string.Join(", ", ids.Order().Take(12)) + (ids.Count() > 12 ? ", …" : "") + ".";

        foreach (var site in sites.Where(s => s.Benches < 0)) Say($"Site '{site.Id}' has {site.Benches} benches. Use 0 or more.");
        var pairs = new Dictionary<(string, string), int>();
        foreach (var (from, to, minutes) in travel)
        {
            foreach (var end in new[] { from, to })
                if (!siteIds.Contains(end)) Say($"Travel names site '{end}', which the instance lacks. {Known(siteIds)}");
            if (minutes < 0) Say($"Travel {from} to {to} takes {minutes} minutes. Use 0 or more.");
            if (pairs.ContainsKey((from, to)) || pairs.ContainsKey((to, from)))
                Say($"Travel between {from} and {to} stands twice. Keep one.");
            else pairs[(from, to)] = minutes;
        }

        foreach (var technician in technicians)
        {
            foreach (var site in technician.Sites.Where(s => !siteIds.Contains(s)))
                Say($"Technician '{technician.Id}' serves site '{site}', which the instance lacks. {Known(siteIds)}");
            var shifts = technician.Shifts.OrderBy(s => s.Start).ToList();
            foreach (var shift in shifts.Where(s => s.Start < 0 || s.End <= s.Start))
                Say($"Technician '{technician.Id}' has a shift from {shift.Start} to {shift.End}. A shift ends after it starts, at minute "
                    + $"0 or later.");
            for (var i = 1; i < shifts.Count; i++)
                if (shifts[i].Start < shifts[i - 1].End)
                    Say($"Technician '{technician.Id}': the shifts that start at {shifts[i - 1].Start} and {shifts[i].Start} overlap.");
        }

        foreach (var visit in visits)
        {
            void Bad(string what) => Say($"Swap '{visit.Id}': {what}");
            if (!siteIds.Contains(visit.Site)) Bad($"site '{visit.Site}' is not in the instance. {Known(siteIds)}");
            if (visit.Weight is < 1 or > 9) Bad($"weight is {visit.Weight}; use 1 to 9.");
            if (visit.Before < Math.Max(1, grid)) Bad($"'before' is {visit.Before} minutes; it must be at least one grid of {grid}.");
            foreach (var (part, value) in new[]
            {
                ("before", visit.Before), ("unattended", visit.Unattended), ("after", visit.After), ("slack", visit.Slack)
            })
                if (value < 0 || (grid > 0 && value % grid != 0))
                    Bad($"'{part}' is {value} minutes; it must be a multiple of the grid of {grid}, 0 or more.");
            foreach (var window in visit.Windows.Concat(visit.Preferred))
                if (window.Start < 0 || window.End <= window.Start || window.End > days * Minutes.PerDay)
                    Bad($"the window from {window.Start} to {window.End} must end after it starts and lie within the {days} days.");
            if (visit.Staged is { } staged)
            {
                if (!depotIds.Contains(staged.Depot)) Bad($"depot '{staged.Depot}' is not in the instance. {Known(depotIds)}");
                if (staged.Size < 0 || staged.LeadDays < 0 || staged.HoldDays < 0) Bad("'size', 'lead' and 'hold' must be 0 or more.");
            }
            if (visit.Published is { } told && !technicianIds.Contains(told.Technician))
                Bad($"published with technician '{told.Technician}', who is not in the instance. {Known(technicianIds)}");
            if (visit.Pinned is { } pin)
            {
                if (pin is { Start: null, Technician: null })
                    Bad("its pin fixes neither time nor technician. Give one of them, or take the pin out.");
                if (pin.Start is { } at && (at < 0 || (grid > 0 && at % grid != 0)))
                    Bad($"it is pinned to minute {at}; it must be a multiple of the grid of {grid}, 0 or more.");
                if (pin.Start is { } early && early < visit.Release)
                    Bad($"it is pinned to {Minutes.Text(early)}, before its release {Minutes.Text(visit.Release)}. Pin it later, or "
                        + $"release it earlier.");
                else if (pin.Start is { } start
                    && !visit.Windows.Any(w => w.Holds(new(start, start + visit.Before + visit.Unattended + visit.After))))
                    Bad($"it is pinned to {Minutes.Text(start)}, where it lies whole in none of its windows. Pin it elsewhere, or widen a "
                        + $"window.");
                if (pin.Technician is { } who && !technicianIds.Contains(who))
                    Bad($"it is pinned to technician '{who}', who is not in the instance. {Known(technicianIds)}");
                else if (pin.Technician is { } whom
                    && technicians.First(t => t.Id == whom) is var fixedTo
                    && (!fixedTo.Sites.Contains(visit.Site) || visit.Skills.Except(fixedTo.Skills).Any()))
                    Bad($"it is pinned to technician '{whom}', who "
                        + $"{(fixedTo.Sites.Contains(visit.Site)
                            ? $"lacks {string.Join(" and ", visit.Skills.Except(fixedTo.Skills))}"
                            : $"does not serve {visit.Site}")}.");
            }
            if (visit.Follows is { } follows && (!visitIds.Contains(follows.Visit) || follows.GapMinutes < 0))
                Bad($"follows '{follows.Visit}' with a gap of {follows.GapMinutes}; it must name another swap of the instance and a gap "
                    + $"of 0 or more.");
        }

        foreach (var group in groups)
        {
            foreach (var stranger in group.Visits.Where(v => !visitIds.Contains(v)))
                Say($"Group '{group.Id}' has swap '{stranger}', which the instance lacks. Take it out.");
            if (group.Visits.Distinct().Count() is var many && (many < 2 || many < group.Visits.Count))
                Say($"Group '{group.Id}' has {(many < 2 ? "fewer than two swaps" : "a swap twice")}. Give it two or more, each once.");
            if (group is { AtOnce: null, IsOneDay: false })
                Say($"Group '{group.Id}' says neither how many may be under way at once nor that they go on one day. Give one of the two.");
            if (group.AtOnce < 1) Say($"Group '{group.Id}' allows {group.AtOnce} at once. Use 1 or more.");
        }

        var next = visits.Where(v => v.Follows is not null).GroupBy(v => v.Id).ToDictionary(g => g.Key, g => g.First().Follows!.Visit);
        foreach (var visit in visits)
        {
            var seen = new HashSet<string> { visit.Id };
            for (var at = visit.Id; next.TryGetValue(at, out var before); at = before)
                if (!seen.Add(before))
                {
                    Say($"Swap '{visit.Id}' follows itself in a circle through '{before}'. Take one 'follows' out.");
                    break;
                }
        }

        return wrong.Count > 0
            ? Result<AppointmentProblem>.Failed(wrong)
            : new AppointmentProblem(name, days, grid, sites, pairs, technicians, depots, visits, groups);
    }
}
