namespace YardRelay.Core.Planning;

/// <summary>Judges a plan from the definitions alone; shares no code with the engine, so that neither hides the other's fault.</summary>
public static class PlanChecker
{
    private sealed record Part(Minutes At, string Site, string Visit);

    /// <summary>Every breach of form and of the rules; empty for a valid plan.</summary>
    public static IReadOnlyList<Breach> Check(AppointmentProblem problem, Plan plan)
    {
        var breaches = new List<Breach>();
        void Say(int rule, string message) => breaches.Add(new(rule, message));

        foreach (var group in plan.Placed.Select(p => p.Id).Concat(plan.Unplaced.Select(u => u.Id)).GroupBy(id => id))
        {
            if (!problem.VisitOf.ContainsKey(group.Key)) Say(0, $"Swap '{group.Key}' is not in the instance.");
            if (group.Count() > 1) Say(0, $"Swap '{group.Key}' stands {group.Count()} times.");
        }
        foreach (var missing in problem.VisitOf.Keys.Except(plan.Placed.Select(p => p.Id).Concat(plan.Unplaced.Select(u => u.Id))))
            Say(0, $"Swap '{missing}' is missing.");
        foreach (var silent in plan.Unplaced.Where(u => string.IsNullOrWhiteSpace(u.Because)))
            Say(0, $"Swap '{silent.Id}' is left out without a reason.");
        foreach (var stranger in plan.Placed.Where(p => !problem.TechnicianOf.ContainsKey(p.Technician)))
            Say(0, $"Swap '{stranger.Id}': technician '{stranger.Technician}' is not in the instance.");
        if (breaches.Count > 0) return breaches;

        var placedOf = plan.Placed.ToDictionary(p => p.Id);
        foreach (var placed in plan.Placed)
        {
            var visit = problem.VisitOf[placed.Id];
            var technician = problem.TechnicianOf[placed.Technician];
            var whole = Whole(visit, placed);
            if (placed.Start % problem.Grid != 0 || placed.Finish % problem.Grid != 0)
                Say(0, $"Swap '{placed.Id}': start and finish must be multiples of {problem.Grid}.");
            var earliest = visit.EarliestFinish(placed.Start);
            if (placed.Finish < earliest || placed.Finish > earliest + (visit.After == 0 ? 0 : visit.Slack))
                Say(0, $"Swap '{placed.Id}': finish {placed.Finish} is outside {earliest} to {earliest + visit.Slack}.");
            if (placed.Start < visit.Release)
                Say(1, $"Swap '{placed.Id}' starts at {Minutes.Text(placed.Start)}, before its release {Minutes.Text(visit.Release)}.");
            if (!visit.Windows.Any(w => w.Holds(whole)))
                Say(1, $"Swap '{placed.Id}' from {Minutes.Text(whole.Start)} to {Minutes.Text(whole.End)} lies in none of its windows.");
            foreach (var skill in visit.Skills.Except(technician.Skills))
                Say(2, $"Swap '{placed.Id}' needs '{skill}', which {technician.Id} lacks.");
            if (!technician.Sites.Contains(visit.Site))
                Say(2, $"Swap '{placed.Id}' is at {visit.Site}, which {technician.Id} does not serve.");
            foreach (var part in Parts(visit, placed))
                if (!technician.Shifts.Any(s => s.Holds(part.At)))
                    Say(2, $"Swap '{placed.Id}': the part at {Minutes.Text(part.At.Start)} lies in no shift of {technician.Id}.");
            if (visit.Pinned?.Start is { } at && at != placed.Start)
                Say(8, $"Swap '{placed.Id}' is pinned to {Minutes.Text(at)} and starts at {Minutes.Text(placed.Start)}.");
            if (visit.Pinned?.Technician is { } who && who != placed.Technician)
                Say(8, $"Swap '{placed.Id}' is pinned to {who} and is with {placed.Technician}.");
            if (visit.Follows is { } follows)
            {
                if (!placedOf.TryGetValue(follows.Visit, out var before))
                    Say(7, $"Swap '{placed.Id}' is placed but '{follows.Visit}', which it follows, is not.");
                else if (placed.Start < Whole(problem.VisitOf[follows.Visit], before).End + follows.GapMinutes)
                    Say(7, $"Swap '{placed.Id}' starts less than {follows.GapMinutes} minutes after the end of '{follows.Visit}'.");
            }
        }

        foreach (var (technician, parts) in PartsOf(problem, plan))
            for (var i = 1; i < parts.Count; i++)
            {
                var (last, part) = (parts[i - 1], parts[i]);
                if (part.At.Start < last.At.End)
                    Say(3, $"{technician}: '{last.Visit}' and '{part.Visit}' overlap at {Minutes.Text(part.At.Start)}.");
                else if (SameDay(last, part) && part.At.Start - last.At.End < problem.TravelMinutes(last.Site, part.Site))
                    Say(3, $"{technician}: from '{last.Visit}' to '{part.Visit}' is less than the travel from {last.Site} to {part.Site}.");
            }

        foreach (var site in plan.Placed.GroupBy(p => problem.VisitOf[p.Id].Site))
        {
            var under = 0;
            var changes = site.Select(p => Whole(problem.VisitOf[p.Id], p))
                .SelectMany(w => new[] { (At: w.Start, By: 1), (At: w.End, By: -1) });
            foreach (var (at, by) in changes.OrderBy(c => c.At).ThenBy(c => c.By))
                if ((under += by) > problem.SiteOf[site.Key].Benches && by > 0)
                    Say(4, $"{site.Key}: {under} visits under way at {Minutes.Text(at)}, with {problem.SiteOf[site.Key].Benches} benches.");
        }

        foreach (var group in problem.Groups)
        {
            var members = plan.Placed.Where(p => group.Visits.Contains(p.Id)).ToList();
            foreach (var one in members)
                if (members.Count(o =>
                    Whole(problem.VisitOf[o.Id], o) is var other && other.Start <= one.Start && one.Start < other.End) is var at
                    && at > group.AtOnce)
                    Say(9, $"Group '{group.Id}': {at} of it are under way at {Minutes.Text(one.Start)}, with {group.AtOnce} allowed.");
            if (group.IsOneDay && members.Select(m => Minutes.DayOf(m.Start)).Distinct().Count() > 1)
                Say(10, $"Group '{group.Id}' is not on one day.");
        }

        foreach (var depot in problem.Depots)
        {
            var held = plan.Placed.Select(p => (problem.VisitOf[p.Id].Staged, Day: Minutes.DayOf(p.Start)))
                .Where(h => h.Staged?.Depot == depot.Id).ToList();
            for (var day = 0; day < problem.Days; day++)
            {
                var lies = held.Where(h => h.Day - h.Staged!.LeadDays <= day && day <= h.Day + h.Staged.HoldDays).Sum(h => h.Staged!.Size);
                if (lies > depot.Capacity) Say(5, $"{depot.Id}: {lies} lie there on day {day}, with room for {depot.Capacity}.");
                var brought = held.Where(h => h.Day == day).Sum(h => h.Staged!.Size);
                if (brought > depot.Daily) Say(6, $"{depot.Id}: {brought} belong to day {day}, and the link brings {depot.Daily}.");
            }
        }
        return breaches;
    }

    /// <summary>The cost of a plan that breaks no rule.</summary>
    public static PlanCost Cost(AppointmentProblem problem, Plan plan)
    {
        int late = 0, notPreferred = 0, moved = 0, journeys = 0, days = 0;
        foreach (var placed in plan.Placed)
        {
            var visit = problem.VisitOf[placed.Id];
            late += 2 * visit.Weight * Math.Max(0, Minutes.DayOf(placed.Start) - visit.Target);
            if (visit.Preferred.Count > 0 && !visit.Preferred.Any(w => w.Holds(Whole(visit, placed)))) notPreferred += 3;
            if (visit.Published is { } told && (told.Start != placed.Start || told.Technician != placed.Technician)) moved += 5;
        }
        foreach (var (_, parts) in PartsOf(problem, plan))
        {
            days += 4 * parts.Select(p => Minutes.DayOf(p.At.Start)).Distinct().Count();
            journeys += 2 * parts.Zip(parts.Skip(1)).Count(pair => SameDay(pair.First, pair.Second) && pair.First.Site != pair.Second.Site);
        }
        return new(plan.Unplaced.Sum(u => 1000 * problem.VisitOf[u.Id].Weight), late, notPreferred, moved, journeys, days);
    }

    private static Minutes Whole(Visit visit, Placed placed) => new(placed.Start, placed.Finish + visit.After);

    private static bool SameDay(Part a, Part b) => Minutes.DayOf(a.At.Start) == Minutes.DayOf(b.At.Start);

    private static IEnumerable<Part> Parts(Visit visit, Placed placed)
    {
        yield return new(new(placed.Start, placed.Start + visit.Before), visit.Site, visit.Id);
        if (visit.After > 0) yield return new(new(placed.Finish, placed.Finish + visit.After), visit.Site, visit.Id);
    }

    private static IEnumerable<(string Technician, List<Part> Parts)> PartsOf(AppointmentProblem problem, Plan plan) =>
        plan.Placed.GroupBy(p => p.Technician).Select(g =>
            (g.Key, g.SelectMany(p => Parts(problem.VisitOf[p.Id], p)).OrderBy(p => p.At.Start).ToList()));
}
