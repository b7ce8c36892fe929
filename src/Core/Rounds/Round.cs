namespace YardRelay.Core.Rounds;

/// <summary>
/// Orders the next hands-on parts over all of a technician's swaps, as facts change: what is in hand is ended first; a promise that is due
/// comes before all else that waits;
/// between promises what calls back is gone to where it fits, the longest waiting first, then what nobody waits for.
/// </summary>
public static class Round
{
    // A person may be early at the desk, and so may the technician.
    private static readonly TimeSpan Early = TimeSpan.FromMinutes(5);

    private sealed record Open(
        RoundVisit Visit, RoundPart Part, DateTimeOffset From, TimeSpan Length, DateTimeOffset? Promised, DateTimeOffset Waits);

    /// <summary>The round from now on.</summary>
    /// <param name="visits">Each key once.</param>
    /// <param name="at">The site where the technician is; null: not known, then no way is reckoned to the first.</param>
    /// <param name="way">How long the way between two sites takes; zero from a site to itself.</param>
    /// <returns>What to do, in order. What goes on by itself without a known end stands not in it until it calls back.</returns>
    public static IReadOnlyList<RoundTurn> Of(
        IEnumerable<RoundVisit> visits, DateTimeOffset now, string? at, Func<string, string, TimeSpan> way)
    {
        var open = visits.Select(v => v.Now switch
        {
            VisitNow.Ahead ahead => new Open(v, RoundPart.First, ahead.Promised - Early, v.HandsOn, ahead.Promised, ahead.Promised),
            VisitNow.Filler filler => new Open(v, RoundPart.First, now, v.HandsOn, null, filler.Planned),
            VisitNow.InHand hand => new Open(v, RoundPart.GoOn, now, v.HandsOn, null, hand.Since),
            VisitNow.CallsBack back => new Open(v, RoundPart.Back, now, v.HandsOn, null, back.Since),
            VisitNow.Alone { Until: { } until } => new Open(v, RoundPart.Back, until > now ? until : now, v.HandsOn, null, until),
            _ => null,
        }).OfType<Open>().ToList();
        var turns = new List<RoundTurn>();
        while (open.Count > 0)
        {
            TimeSpan Way(Open o) => at is null ? TimeSpan.Zero : way(at, o.Visit.Site);
            var next = Choose(open, now, Way, way);
            var start = Later(now + Way(next), next.From);
            var end = start + next.Length;
            turns.Add(new(next.Visit.Key, next.Part, start, end, next.Promised));
            open.Remove(next);
            if (next.Part == RoundPart.First && next.Visit.Last > TimeSpan.Zero)
                open.Add(new(next.Visit, RoundPart.Back, end + next.Visit.Unattended, next.Visit.Last, null, end + next.Visit.Unattended));
            (now, at) = (end, next.Visit.Site);
        }
        return turns;
    }

    private static Open Choose(List<Open> open, DateTimeOffset now, Func<Open, TimeSpan> here, Func<string, string, TimeSpan> way)
    {
        DateTimeOffset StartOf(Open o) => Later(now + here(o), o.From);
        if (open.Where(o => o.Part == RoundPart.GoOn)
            .OrderByDescending(o => o.Waits)
            .ThenBy(o => o.Visit.Key, StringComparer.Ordinal).FirstOrDefault() is { } inHand)
            return inHand;
        // The promise that binds is the one that must be set out for first.
        var promise = open.Where(o => o.Promised is not null)
            .OrderBy(o => o.Promised!.Value - here(o))
            .ThenBy(o => o.Visit.Key, StringComparer.Ordinal).FirstOrDefault();
        bool Fits(Open o) => promise is null || StartOf(o) + o.Length + way(o.Visit.Site, promise.Visit.Site) <= promise.Promised;
        var waiting = open.Where(o => o.Promised is null && Fits(o)).ToList();
        // What is free now comes by how long it has waited; a filler only where nobody waits.
        if (promise is not null && promise.Promised!.Value - here(promise) <= now) return promise;
        if (waiting.Where(o => o.Part == RoundPart.Back && o.From <= now)
            .OrderBy(o => o.Waits)
            .ThenBy(o => o.Visit.Key, StringComparer.Ordinal).FirstOrDefault() is { } back)
            return back;
        if (waiting.Where(o => o.Part == RoundPart.First)
            .OrderBy(o => o.Waits)
            .ThenBy(o => o.Visit.Key, StringComparer.Ordinal).FirstOrDefault() is { } filler)
            return filler;
        var soonest = waiting.Append(promise).OfType<Open>()
            .OrderBy(StartOf)
            .ThenBy(o => o.Visit.Key, StringComparer.Ordinal).FirstOrDefault();
        return soonest ?? open.OrderBy(StartOf).ThenBy(o => o.Visit.Key, StringComparer.Ordinal).First();
    }

    private static DateTimeOffset Later(DateTimeOffset a, DateTimeOffset b) => a > b ? a : b;
}
