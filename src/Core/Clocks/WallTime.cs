using System.Globalization;

namespace YardRelay.Core.Clocks;

/// <summary>A time as people read it off the wall, and the instant that it is.</summary>
public static class WallTime
{
    private static readonly string[] Plain = ["yyyy-MM-dd HH:mm", "yyyy-MM-dd'T'HH:mm"];
    private static readonly string[] WithOffset =
        ["yyyy-MM-dd HH:mmzzz", "yyyy-MM-dd HH:mm zzz", "yyyy-MM-dd'T'HH:mmzzz", "yyyy-MM-dd'T'HH:mm:sszzz"];

    /// <summary>Reads a time that gives its offset, such as '2026-11-26 09:15+01:00': it is the same instant in any zone.</summary>
    public static bool TryReadInstant(string text, out DateTimeOffset at)
    {
        var isOne = DateTimeOffset.TryParseExact(text, WithOffset, CultureInfo.InvariantCulture, DateTimeStyles.None, out at);
        at = at.ToUniversalTime();
        return isOne;
    }

    /// <summary>
    /// Reads '2026-11-26 09:15' as a time of a zone. A day on which clocks change has times that are not there, and times that are there
    /// twice: neither is guessed. With an offset, '2026-10-25 02:30+01:00', it is an instant anywhere.
    /// </summary>
    public static Result<DateTimeOffset> Read(string text, TimeZoneInfo zone)
    {
        if (TryReadInstant(text, out var at)) return at;
        if (!DateTime.TryParseExact(text, Plain, CultureInfo.InvariantCulture, DateTimeStyles.None, out var wall))
            return new UnreadableTimeProblem(text);
        if (zone.IsInvalidTime(wall)) return new SkippedTimeProblem(wall, zone.Id);
        if (zone.IsAmbiguousTime(wall)) return new DoubleTimeProblem(wall, zone.Id, zone.GetAmbiguousTimeOffsets(wall));
        return new DateTimeOffset(wall, zone.GetUtcOffset(wall)).ToUniversalTime();
    }
}

/// <summary>A text that is no time.</summary>
public sealed record UnreadableTimeProblem(string Text) : Problem(
    "time.unreadable",
    $"'{Text}' is not a time. Write '2026-11-26 09:15', as the clocks of the refresh show it.");

/// <summary>A time that clocks skip.</summary>
public sealed record SkippedTimeProblem(DateTime Wall, string Zone) : Problem(
    "time.skipped",
    string.Create(CultureInfo.InvariantCulture, $"{Wall:yyyy-MM-dd HH:mm} is not there in {Zone}: clocks go forward over it. ")
        + "Take a time before or after.");

/// <summary>A time that clocks show twice.</summary>
/// <param name="Offsets">What each of the two is ahead of UTC.</param>
public sealed record DoubleTimeProblem(DateTime Wall, string Zone, IReadOnlyList<TimeSpan> Offsets) : Problem(
    "time.double",
    string.Create(CultureInfo.InvariantCulture, $"{Wall:yyyy-MM-dd HH:mm} is there twice in {Zone}: clocks go back over it. ")
        + $"Say which: {string.Join(" or ", Offsets.OrderDescending().Select(o => $"'{With(Wall, o)}'"))}.")
{
    private static string With(DateTime wall, TimeSpan offset) =>
        new DateTimeOffset(wall, offset).ToString("yyyy-MM-dd HH:mmzzz", CultureInfo.InvariantCulture);
}
