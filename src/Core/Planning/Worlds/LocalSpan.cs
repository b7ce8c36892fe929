using System.Globalization;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>A stretch of local time, <c>[From, Until)</c>: what a calendar on the wall shows, whatever the clock does that night.</summary>
public readonly record struct LocalSpan(DateTime From, DateTime Until)
{
    /// <summary>How it is written.</summary>
    public const string Form = "2026-11-25 for a day, 2026-11-25..2026-11-27 for several, or 2026-11-25 08:00..2026-11-25 12:00";

    /// <summary>A whole day, several days, or from a time to a time, as <see cref="Form"/> shows.</summary>
    public static Result<LocalSpan> Parse(string text)
    {
        Problem Wrong(string why) => new SpanProblem(text, why, Form);
        var parts = text.Split("..", StringSplitOptions.TrimEntries);
        if (parts.Length > 2 || !TryTime(parts[0], out var from, out _)) return Wrong("its start cannot be read.");
        if (!TryTime(parts[^1], out var until, out var isDay)) return Wrong("its end cannot be read.");
        if (isDay) until = until.AddDays(1);
        else if (parts.Length == 1) return Wrong("it has no end.");
        return from < until ? new LocalSpan(from, until) : Wrong("it ends before it begins.");
    }

    private static bool TryTime(string text, out DateTime time, out bool isDay)
    {
        isDay = DateTime.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out time);
        return isDay
            || DateTime.TryParseExact(
                text, ["yyyy-MM-dd HH:mm", "yyyy-MM-dd'T'HH:mm"], CultureInfo.InvariantCulture, DateTimeStyles.None, out time);
    }

    /// <summary>As minutes since 00:00 of the day <paramref name="starts"/>.</summary>
    public Minutes Since(DateOnly starts)
    {
        var zero = starts.ToDateTime(TimeOnly.MinValue);
        return new((int)Math.Floor((From - zero).TotalMinutes), (int)Math.Ceiling((Until - zero).TotalMinutes));
    }

    /// <inheritdoc/>
    public override string ToString() => From.TimeOfDay == default && Until.TimeOfDay == default
        ? Until == From.AddDays(1) ? $"{From:yyyy-MM-dd}" : $"{From:yyyy-MM-dd}..{Until.AddDays(-1):yyyy-MM-dd}"
        : $"{From:yyyy-MM-dd HH:mm}..{Until:yyyy-MM-dd HH:mm}";
}
