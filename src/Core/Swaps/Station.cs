namespace YardRelay.Core.Swaps;

/// <summary>The stations of a swap's line, in the order of the way.</summary>
public enum Station
{
    /// <summary>The person has been told.</summary>
    Told,

    /// <summary>The old computer has been looked at.</summary>
    Surveyed,

    /// <summary>There is an appointment.</summary>
    Booked,

    /// <summary>All files are in the depot, verified.</summary>
    Staged,

    /// <summary>The new computer stands in place of the old one.</summary>
    Swapped,

    /// <summary>All files are on the new computer, verified.</summary>
    Restored,

    /// <summary>The person has looked and is content.</summary>
    Accepted,

    /// <summary>The old computer is handed in.</summary>
    HandedIn,
}

/// <summary>One station of one swap's line; <paramref name="At"/> is null while it is ahead.</summary>
public sealed record Stop(Station Station, DateTimeOffset? At);

/// <summary>The line of a swap, from its facts.</summary>
public static class SwapLine
{
    /// <summary>The stations that a kind of swap has.</summary>
    public static IEnumerable<Station> StationsOf(SwapKind kind) => Enum.GetValues<Station>().Where(s => s switch
    {
        Station.Surveyed or Station.Staged => kind.Stages(),
        Station.Restored => kind.Restores(),
        Station.HandedIn => kind.HandsIn(),
        _ => true,
    });

    /// <summary>The stops with the times they were reached.</summary>
    public static IReadOnlyList<Stop> Of(SwapKind kind, IReadOnlyDictionary<Station, DateTimeOffset> reached) =>
        [.. StationsOf(kind).Select(s => new Stop(s, reached.TryGetValue(s, out var at) ? at : null))];

    /// <summary>Index of the first station ahead; the number of stops when all are behind.</summary>
    public static int Next(IReadOnlyList<Stop> stops)
    {
        var last = stops.Count - 1;
        while (last >= 0 && stops[last].At is null) last--;
        return last + 1;
    }
}
