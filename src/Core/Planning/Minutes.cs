namespace YardRelay.Core.Planning;

/// <summary>A half-open stretch of whole minutes since 00:00 of day 0, <c>[Start, End)</c>.</summary>
public readonly record struct Minutes(int Start, int End)
{
    /// <summary>Minutes in a day.</summary>
    public const int PerDay = 1440;

    /// <summary>Whether <paramref name="other"/> lies inside this stretch.</summary>
    public bool Holds(Minutes other) => Start <= other.Start && other.End <= End;

    /// <summary>Whether the two share a minute.</summary>
    public bool Overlaps(Minutes other) => Start < other.End && other.Start < End;

    /// <summary>The day that <paramref name="minute"/> belongs to.</summary>
    public static int DayOf(int minute) => minute / PerDay;

    /// <summary><c>day 2 09:15</c>.</summary>
    public static string Text(int minute) => $"day {DayOf(minute)} {minute % PerDay / 60:00}:{minute % 60:00}";
}
