namespace YardRelay.Core.Planning;

/// <summary>Finds, by trying, which rule keeps a visit out of a timetable and the smallest change that lets it in.</summary>
internal static class WhyNot
{
    public static string Explain(AppointmentProblem problem, Timetable timetable, int visit)
    {
        var v = timetable.Visit(visit);
        var needs = v.Skills.Count > 0 ? $" with {string.Join(" and ", v.Skills)}" : "";
        if (!timetable.Leads(visit)) return $"Rule 7, order: it follows '{v.Follows!.Visit}', which is left out. Let that one in first.";
        if (timetable.AbleFor(visit).Count == 0) return $"Rule 2, technician: nobody{needs} serves {v.Site}. Let one technician{needs} serve {v.Site}.";
        var shortest = v.Before + v.Unattended + v.After;
        if (v.Windows.All(w => w.End - w.Start < shortest)) return $"Rule 1, whole visit: it takes {shortest} minutes and its longest window has {v.Windows.Select(w => w.End - w.Start).DefaultIfEmpty().Max()}. Widen one window.";

        string When(Option at) => Minutes.Text(at.Start);
        foreach (var (relaxed, say) in new (Relaxed, Func<Option, string>)[]
        {
            (Relaxed.Benches, at => $"Rule 4, benches: {v.Site} is full. One more bench at {v.Site} on {When(at)} lets it in."),
            (Relaxed.Technician, at => $"Rule 3, technician: all who could do it are taken. One more technician{needs} at {v.Site} on {When(at)} lets it in."),
            (Relaxed.Daily, at => $"Rule 6, depot link: {v.Staged!.Depot} brings {problem.DepotOf[v.Staged.Depot].Daily} a day and that is promised. {v.Staged.Size} more for day {Minutes.DayOf(at.Start)} lets it in."),
            (Relaxed.Capacity, at => $"Rule 5, depot capacity: {v.Staged!.Depot} is full. {v.Staged.Size} more room around day {Minutes.DayOf(at.Start)} lets it in."),
            (Relaxed.Release, at => $"Rule 1, release: it may not start before {Minutes.Text(v.Release)}. Releasing it for {When(at)} lets it in."),
            (Relaxed.Order, at => $"Rule 7, order: what it follows ends too late. Moving '{v.Follows!.Visit}' before {When(at)} lets it in."),
        })
        {
            var option = timetable.Find(visit, relaxed: relaxed).Best;
            if (option.Exists) return say(option);
        }
        var both = timetable.Find(visit, relaxed: Relaxed.Benches | Relaxed.Technician).Best;
        if (both.Exists) return $"Rules 3 and 4, technician and benches: one more technician{needs} and one more bench at {v.Site} on {When(both)} together let it in.";
        return $"Rules 3 to 6: in all of its windows technicians, benches and {v.Staged?.Depot ?? "depot"} are taken at once. Give it another window, or leave another visit at {v.Site} out.";
    }
}
