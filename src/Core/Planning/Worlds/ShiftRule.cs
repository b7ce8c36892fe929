using System.Globalization;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>
/// A shift that comes back on certain days of the week, in local time. One that ends at or before its start ends on the next day.
/// </summary>
public sealed record ShiftRule
{
    private static readonly string[] Names = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
    private static readonly DayOfWeek[] Workdays = [
        DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday
    ];

    private readonly DayOfWeek[] _on;

    private ShiftRule(string text, TimeOnly from, TimeOnly until, DayOfWeek[] on) => (Text, From, Until, _on) = (text, from, until, on);

    /// <summary>As it was written.</summary>
    public string Text { get; }

    /// <summary>When it starts.</summary>
    public TimeOnly From { get; }

    /// <summary>When it ends; not after <see cref="From"/>: on the next day.</summary>
    public TimeOnly Until { get; }

    /// <summary>
    /// <c>08:00-12:00</c> on Monday to Friday, <c>daily 08:00-12:00</c>, <c>mon,wed 08:00-12:00</c>, <c>22:00-06:00</c> past midnight.
    /// </summary>
    public static Result<ShiftRule> Parse(string text)
    {
        Problem Wrong(string why) =>
            new NoShift(text, why);
        var parts = text.Trim().Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (parts.Length is 0 or > 2) return Wrong("it has days and hours, or hours alone.");
        var on = Workdays;
        if (parts.Length == 2)
        {
            var days = parts[0].ToLowerInvariant();
            if (days == "daily") on = Enum.GetValues<DayOfWeek>();
            else
            {
                var named = days.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
                if (named.FirstOrDefault(d => Array.IndexOf(Names, d) < 0) is { } unknown)
                    return Wrong($"'{unknown}' is no day of the week.");
                on = [.. named.Select(d => (DayOfWeek)Array.IndexOf(Names, d)).Distinct()];
            }
        }
        if (parts[^1].Split('-') is not [var a, var b]
            || !TimeOnly.TryParseExact(a, "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var from)
            || !TimeOnly.TryParseExact(
                b == "24:00" ? "00:00" : b, "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var until))
            return Wrong("its hours cannot be read.");
        return from == until && b != "24:00" ? Wrong("it ends when it starts.") : new ShiftRule(string.Join(' ', parts), from, until, on);
    }

    /// <summary>The shifts of a whole set of rules, or what is wrong with them: also two that overlap.</summary>
    /// <param name="whose">For the message.</param>
    public static Result<IReadOnlyList<ShiftRule>> ParseAll(string whose, IEnumerable<string> texts)
    {
        var (rules, faults) = (new List<ShiftRule>(), new List<Problem>());
        foreach (var text in texts)
            if (Parse(text) is { IsOk: true } parsed) rules.Add(parsed.Value);
            else faults.AddRange(Parse(text).Problems);
        var monday = new DateOnly(2026, 1, 5);
        // Two weeks, so that a shift past midnight on Sunday meets Monday's.
        var all = rules.SelectMany(r => Enumerable.Range(0, 14).SelectMany(d => r.On(monday, d)).Select(at => (r, at)))
            .OrderBy(s => s.at.Start).ToList();
        for (var i = 1; i < all.Count && faults.Count == 0; i++)
            if (all[i].at.Start < all[i - 1].at.End)
                faults.Add(new ShiftsOverlap(
                    all[i - 1].r.Text, all[i].r.Text, whose, monday.AddDays(Minutes.DayOf(all[i].at.Start)).DayOfWeek));
        return faults.Count > 0 ? Result<IReadOnlyList<ShiftRule>>.Failed(faults) : rules;
    }

    /// <summary>
    /// The shift that starts on a day, in minutes since 00:00 of <paramref name="starts"/>; none when it is not that day of the week.
    /// </summary>
    public IEnumerable<Minutes> On(DateOnly starts, int day)
    {
        if (Array.IndexOf(_on, starts.AddDays(day).DayOfWeek) < 0) yield break;
        var (from, until) = ((int)From.ToTimeSpan().TotalMinutes, (int)Until.ToTimeSpan().TotalMinutes);
        yield return new((day * Minutes.PerDay) + from, (day * Minutes.PerDay) + until + (until <= from ? Minutes.PerDay : 0));
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}
