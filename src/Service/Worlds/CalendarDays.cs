using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;
using YardRelay.Core;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;

namespace YardRelay.Service.Worlds;

/// <summary>A closure that a calendar has.</summary>
/// <param name="Key">The same for the same event on the same day.</param>
internal sealed record CalendarDay(string Key, string Name, LocalSpan At);

/// <summary>
/// What of a calendar lies within a refresh. Calendars are somebody else's: rules that never fire, that fire every second or that began
/// long ago are refused, and the whole has a bound in events, steps and time.
/// </summary>
internal static class CalendarDays
{
    private const int MostDays = 500;
    private const int MostEvents = 5_000;
    private const int MostOfOne = 400;
    private const int MostSteps = 2_000;
    private const int FarthestYears = 30;
    private static readonly TimeSpan MostTime = TimeSpan.FromSeconds(5);

    /// <summary>The closures within a refresh, as its own clock has them.</summary>
    public static Result<List<CalendarDay>> Within(Calendar calendar, RefreshRow refresh, TimeProvider time)
    {
        var (zone, started) = (TimeZoneInfo.FindSystemTimeZoneById(refresh.Zone), time.GetTimestamp());
        var (from, until) = (
            refresh.Starts.ToDateTime(TimeOnly.MinValue), refresh.Starts.AddDays(refresh.Days).ToDateTime(TimeOnly.MinValue));
        if (calendar.Events.Count > MostEvents) return new CalendarManyProblem(calendar.Events.Count, MostEvents);
        var found = new List<CalendarDay>();
        foreach (var one in calendar.Events.Where(e => e.Status != "CANCELLED"))
        {
            if (Against(one, from) is { } why) return new CalendarRuleProblem(NameOf(one), why);
            try
            {
                var options = new EvaluationOptions { MaxUnmatchedIncrementsLimit = MostSteps };
                foreach (var occurrence in one.GetOccurrences(new CalDateTime(DateOnly.FromDateTime(from.AddDays(-31))), options)
                    .TakeWhile(o => o.Period.StartTime.Value < until.AddDays(1))
                    .Take(MostOfOne))
                {
                    var start = LocalOf(occurrence.Period.StartTime, zone);
                    var end = occurrence.Period.EffectiveEndTime is { } ends ? LocalOf(ends, zone) : start.AddDays(1);
                    if (end > from && start < until && start < end) found.Add(new(KeyOf(one.Uid, start), NameOf(one), new(start, end)));
                }
            }
            catch (EvaluationLimitExceededException)
            {
                return new CalendarRuleProblem(NameOf(one), "its rule never fires, or hardly ever");
            }
            catch (Exception beyond) when (beyond is ArgumentOutOfRangeException or EvaluationOutOfRangeException)
            {
                return new CalendarRuleProblem(NameOf(one), "its times lie beyond all calendars");
            }
            if (found.Count > MostDays) return new CalendarManyProblem(found.Count, MostDays);
            if (time.GetElapsedTime(started) > MostTime) return new CalendarRuleProblem(NameOf(one), "its rules take too long to reckon");
        }
        return found;
    }

    /// <summary>Why a rule is not even begun; null: it may be.</summary>
    private static string? Against(CalendarEvent one, DateTime from) =>
        one.RecurrenceRule is not { } rule ? null
        : rule.Frequency is FrequencyType.Secondly or FrequencyType.Minutely or FrequencyType.Hourly
        ? "it comes again more than once a day"
        : one.Start is { } start && start.Value < from.AddYears(-FarthestYears) && rule.Frequency != FrequencyType.Yearly
        ? $"it comes again since more than {FarthestYears} years"
        : null;

    private static string NameOf(CalendarEvent one) => string.IsNullOrWhiteSpace(one.Summary) ? "Closed" : one.Summary.Trim();

    private static string KeyOf(string? uid, DateTime start)
    {
        var key = new string([.. (uid ?? "event").Where(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '.' or '@')]);
        return $"{(key.Length > 45 ? key[..45] : key)} {start:yyyyMMdd}";
    }

    // A time without a zone, and a whole day, are local; any other is brought to the refresh's zone.
    private static DateTime LocalOf(CalDateTime at, TimeZoneInfo zone) =>
        !at.HasTime || at.IsFloating ? at.Value : TimeZoneInfo.ConvertTimeFromUtc(at.AsUtc, zone);
}
