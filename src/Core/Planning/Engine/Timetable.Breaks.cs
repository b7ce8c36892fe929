namespace YardRelay.Core.Planning;

/// <summary>What a place would break, in words.</summary>
internal sealed partial class Timetable
{
    /// <summary>
    /// The rules that a visit which is not placed would break at that place, each with what is in the way; none: it can go there.
    /// </summary>
    public IReadOnlyList<Breach> BreaksAt(int visit, int technician, int start, int finish)
    {
        var (v, breaks) = (_visits[visit], new List<Breach>());
        void Say(int rule, string message) => breaks.Add(new(rule, message));
        var (whole, who, day) = (new Minutes(start, finish + v.After), _problem.Technicians[technician], Minutes.DayOf(start));
        if (start % _grid != 0 || finish % _grid != 0) Say(0, $"Visits start on a grid of {_grid} minutes.");
        if (finish < v.EarliestFinish(start) || finish > v.EarliestFinish(start) + (v.After == 0 ? 0 : v.Slack))
            Say(0, $"The last part begins {v.Before + v.Unattended} to {v.Before + v.Unattended + v.Slack} minutes after the start.");
        if (start < v.Release) Say(1, $"It is released from {Minutes.Text(v.Release)} on.");
        if (!v.Windows.Any(w => w.Holds(whole)))
            Say(1, $"Person and room are not free from {Minutes.Text(whole.Start)} to {Minutes.Text(whole.End)}.");
        if (start < 0 || whole.End > _problem.Days * Minutes.PerDay || breaks.Any(b => b.Rule == 0)) return breaks;
        foreach (var skill in v.Skills.Except(who.Skills)) Say(2, $"{who.Id} lacks {skill}.");
        if (!who.Sites.Contains(v.Site)) Say(2, $"{who.Id} does not serve {v.Site}.");
        foreach (var part in PartsOf(v, start, finish))
        {
            if (!who.Shifts.Any(s => s.Holds(part)))
                Say(2, $"{who.Id} has no shift from {Minutes.Text(part.Start)} to {Minutes.Text(part.End)}.");
            foreach (var other in PartsAround(technician, part))
            {
                var overlap = other.Start < part.End && part.Start < other.End;
                var apart = Minutes.DayOf(other.Start) == Minutes.DayOf(part.Start) ? _travel[other.Site, _site[visit]] : 0;
                if (overlap)
                    Say(3, $"{who.Id} is with {_visits[other.Visit].Id} from {Minutes.Text(other.Start)}.");
                else if (other.Start < part.End + apart && part.Start < other.End + apart)
                    Say(
                        3,
                        $"{who.Id} needs {apart} minutes between {_visits[other.Visit].Site} and {v.Site}, next to "
                            + $"{_visits[other.Visit].Id}.");
            }
        }
        if (!HasBench(_site[visit], start, whole.End)) Say(4, $"{v.Site} has all of its {_benches[_site[visit]]} benches taken.");
        if (_depot[visit] >= 0)
        {
            if (!HasRoom(visit, day, Relaxed.Daily)) Say(5, $"{v.Staged!.Depot} has no room for {v.Staged.Size} more around day {day}.");
            if (!HasRoom(visit, day, Relaxed.Capacity))
                Say(6, $"The link of {v.Staged!.Depot} brings no {v.Staged.Size} more for day {day}.");
        }
        if (_follows[visit] is >= 0 and var before)
        {
            if (!IsPlaced(before)) Say(7, $"It follows {_visits[before].Id}, which has no appointment.");
            else if (start < _at[before].Finish + _visits[before].After + v.Follows!.GapMinutes)
                Say(7, $"It follows {_visits[before].Id}, which ends at {Minutes.Text(_at[before].Finish + _visits[before].After)}.");
        }
        foreach (var follower in _followers[visit])
            if (IsPlaced(follower) && whole.End > _at[follower].Start - _visits[follower].Follows!.GapMinutes)
                Say(7, $"{_visits[follower].Id} follows it at {Minutes.Text(_at[follower].Start)}.");
        foreach (var group in TooMany(visit, start, whole.End))
            Say(
                9,
                group.AtOnce == 1
                    ? $"Somebody else of group '{group.Id}' has an appointment then, and they are kept apart."
                    : $"{group.AtOnce} of group '{group.Id}' have appointments then, and no more may.");
        if (!IsOneDay(visit, start))
            Say(
                10,
                $"Group '{_problem.Groups[_groups[visit].First(g => _problem.Groups[g].IsOneDay && _groupDay[g] != day)].Id}' goes "
                    + $"together on day {_groupDay[_groups[visit].First(g => _problem.Groups[g].IsOneDay && _groupDay[g] != day)]}.");
        if (v.Pinned?.Start is { } at && at != start) Say(8, $"It is pinned to {Minutes.Text(at)}.");
        if (v.Pinned?.Technician is { } pinned && pinned != who.Id) Say(8, $"It is pinned to {pinned}.");
        return breaks;
    }

    // Those of its day (for the way between), and those of the days around it that could reach over a midnight into it.
    private IEnumerable<Part> PartsAround(int technician, Minutes part)
    {
        var first = Minutes.DayOf(Math.Max(0, part.Start - _ground.LongestPart));
        var last = Math.Min(_problem.Days - 1, Minutes.DayOf(part.End - 1));
        return Enumerable.Range(first, last - first + 1).SelectMany(day => _parts[technician][day]);
    }

    private static IEnumerable<Minutes> PartsOf(Visit v, int start, int finish)
    {
        yield return new(start, start + v.Before);
        if (v.After > 0) yield return new(finish, finish + v.After);
    }
}
