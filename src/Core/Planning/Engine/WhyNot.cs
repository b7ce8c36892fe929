namespace YardRelay.Core.Planning;

/// <summary>A change that lets a visit in, found by trying it.</summary>
/// <param name="Rule">The rule that stood in the way, as numbered in <c>docs/formats.md</c>.</param>
/// <param name="Words">The rule and the change, in words to act on.</param>
/// <param name="Technician">Who would do it; null where it is somebody who is not there yet.</param>
/// <param name="Start">When it would start, in minutes since day 0; null where no one change was found.</param>
public sealed record WayIn(int Rule, string Words, string? Technician, int? Start);

/// <summary>Finds, by trying, which rule keeps a visit out of a timetable and the changes that let it in, smallest first.</summary>
internal static class WhyNot
{
    public static string Explain(AppointmentProblem problem, Timetable timetable, int visit) =>
        WaysIn(problem, timetable, visit, most: 1)[0].Words;

    /// <summary>At least one; the first is the smallest change.</summary>
    public static IReadOnlyList<WayIn> WaysIn(AppointmentProblem problem, Timetable timetable, int visit, int most)
    {
        var v = timetable.Visit(visit);
        var needs = v.Skills.Count > 0 ? $" with {string.Join(" and ", v.Skills)}" : "";
        var ways = new List<WayIn>();
        string When(Option at) => Minutes.Text(at.Start);
        string Who(Option at) => problem.Technicians[at.Technician].Id;
        if (!timetable.Leads(visit))
            return [new(7, $"Rule 7, order: it follows '{v.Follows!.Visit}', which is left out. Let that one in first.", null, null)];
        if (timetable.FindBest(visit) is { Exists: true } free)
            return [new(
                0,
                $"No rule stands in its way: {Who(free)} can do it on {When(free)}. Plan again, or put it there.",
                Who(free),
                free.Start)];
        var able = timetable.AbleFor(visit).Count > 0;
        if (!able)
        {
            var taught = timetable.FindIf(visit, Relaxed.Skill);
            ways.Add(new(
                2,
                $"Rule 2, technician: nobody{needs} serves {v.Site}. Let one technician{needs} serve {v.Site}.",
                taught.Exists ? Who(taught) : null,
                taught.Exists ? taught.Start : null));
            if (taught.Exists && most > 1)
                ways.Add(new(
                    2,
                    $"Rule 2, technician: {Who(taught)} could do it on {When(taught)}, if {Who(taught)} "
                        + $"{(problem.Technicians[taught.Technician].Sites.Contains(v.Site)
                            ? $"knew {string.Join(" and ", v.Skills)}"
                            : $"served {v.Site}")}.",
                    Who(taught),
                    taught.Start));
            return ways;
        }
        var shortest = v.Before + v.Unattended + v.After;
        if (v.Windows.All(w => w.End - w.Start < shortest))
            ways.Add(new(
                1,
                $"Rule 1, whole visit: it takes {shortest} minutes and its longest window has "
                    + $"{v.Windows.Select(w => w.End - w.Start).DefaultIfEmpty().Max()}. Widen one window.",
                null,
                null));
        foreach (var (relaxed, rule, say) in new (Relaxed, int, Func<Option, string>)[]
        {
            (Relaxed.Pin, 8, at => $"Rule 8, pin: where it is pinned it does not fit. Without the pin {Who(at)} can do it on {When(at)}."),
            (Relaxed.Groups, 9, at =>
                $"Rule 9, group: what is kept apart or together keeps it out. Without its group {Who(at)} can do it on {When(at)}."),
            (Relaxed.Benches, 4, at => $"Rule 4, benches: {v.Site} is full. One more bench at {v.Site} on {When(at)} lets it in."),
            (Relaxed.Shift, 2, at =>
                $"Rule 2, technician: no shift{(needs.Length > 0 ? $" of anybody{needs}" : "")} has room. {Stretch(at)} minutes more of "
                    + $"{Who(at)} on day {Minutes.DayOf(at.Start)} let it in at {Minutes.Text(at.Start)[^5..]}."),
            (Relaxed.Technician, 3, at =>
                $"Rule 3, technician: all who could do it are taken. One more technician{needs} at {v.Site} on {When(at)} lets it in."),
            (Relaxed.Daily, 6, at =>
                $"Rule 6, depot link: {v.Staged!.Depot} brings {problem.DepotOf[v.Staged.Depot].Daily} a day and that is promised. "
                    + $"{v.Staged.Size} more for day {Minutes.DayOf(at.Start)} lets it in."),
            (Relaxed.Capacity, 5, at =>
                $"Rule 5, depot capacity: {v.Staged!.Depot} is full. {v.Staged.Size} more room around day {Minutes.DayOf(at.Start)} lets "
                    + $"it in."),
            (Relaxed.Release, 1, at =>
                $"Rule 1, release: it may not start before {Minutes.Text(v.Release)}. Releasing it for {When(at)} lets it in."),
            (Relaxed.Order, 7, at =>
                $"Rule 7, order: what it follows ends too late. Moving '{v.Follows!.Visit}' before {When(at)} lets it in."),
            (Relaxed.Window, 1, at =>
                $"Rule 1, window: {v.Site} and {Who(at)} are free at another time. Asking for {When(at)} lets it in."),
        })
        {
            if (ways.Count >= most) return ways;
            if ((relaxed == Relaxed.Pin && v.Pinned is null)
                || (relaxed == Relaxed.Groups && !problem.Groups.Any(g => g.Visits.Contains(v.Id)))
                || (relaxed == Relaxed.Order && v.Follows is null)
                || (relaxed is Relaxed.Daily or Relaxed.Capacity && v.Staged is null))
                continue;
            var option = timetable.FindIf(visit, relaxed);
            if (option.Exists) ways.Add(new(rule, say(option), relaxed == Relaxed.Technician ? null : Who(option), option.Start));
        }
        if (ways.Count > 0) return ways;
        var both = timetable.FindIf(visit, Relaxed.Benches | Relaxed.Technician);
        if (both.Exists)
            return [new(
                4,
                $"Rules 3 and 4, technician and benches: one more technician{needs} and one more bench at {v.Site} on {When(both)} "
                    + $"together let it in.",
                null,
                both.Start)];
        return [new(
            3,
            $"Rules 3 to 6: in all of its windows technicians, benches and {v.Staged?.Depot ?? "depot"} are taken at once. Give it "
                + $"another window, or leave another visit at {v.Site} out.",
            null,
            null)];

        int Stretch(Option at) =>
            Math.Max(
                timetable.StretchFor(at.Technician, at.Start, at.Start + v.Before),
                v.After == 0 ? 0 : timetable.StretchFor(at.Technician, at.Finish, at.Finish + v.After));
    }
}
