namespace YardRelay.Peers;

/// <summary>
/// How many seeds a test runs with: a few each time; <c>YARD_SEEDS=100</c> for many, <c>YARD_SEEDS=35..35</c> for the one that failed.
/// </summary>
public static class Seeds
{
    /// <param name="usual">How many where nothing is asked for.</param>
    /// <param name="share">Of those asked for, one in so many; for what is slow.</param>
    public static IEnumerable<int> Of(int usual, int share = 1)
    {
        if (Environment.GetEnvironmentVariable("YARD_SEEDS") is not { Length: > 0 } asked) return Enumerable.Range(1, usual);
        return asked.Split("..") is [var from, var to]
            ? Enumerable.Range(int.Parse(from), int.Parse(to) - int.Parse(from) + 1)
            : Enumerable.Range(1, Math.Max(1, int.Parse(asked) / share));
    }

    /// <summary>How large what is large is made: as it is met at its largest where all is asked for, <c>YARD_WHOLE=1</c>.</summary>
    public static int Large(int usual, int whole) => Environment.GetEnvironmentVariable("YARD_WHOLE") is { Length: > 0 } ? whole : usual;

    /// <summary>Whether a kind of case is wanted; <c>YARD_KINDS=samba,ssh</c> for these only.</summary>
    public static bool Wants(string kind) =>
        Environment.GetEnvironmentVariable("YARD_KINDS") is not { Length: > 0 } asked || asked.Split(',').Contains(kind);
}
