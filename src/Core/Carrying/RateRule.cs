using System.Globalization;
using System.Text.RegularExpressions;

namespace YardRelay.Core.Carrying;

/// <summary>
/// How much may be carried in some hours of a day: <c>08:00-18:00 40</c> for at most 40 Mbit/s, <c>08:00-18:00 none</c> for nothing,
/// <c>200</c> at any time. Local times.
/// </summary>
/// <param name="From">First minute of the day.</param>
/// <param name="Until">The minute behind the last one; where it is not after <paramref name="From"/>, of the next day.</param>
/// <param name="MegabitsPerSecond">0: nothing is carried then.</param>
public sealed partial record RateRule(int From, int Until, double MegabitsPerSecond)
{
    private const int Day = 24 * 60;

    /// <summary>Reads a rule.</summary>
    public static Result<RateRule> Parse(string text)
    {
        if (Form().Match(text.Trim()) is not { Success: true } m) return Wrong();
        var (from, until) = m.Groups["from"].Success ? (Minute("from"), Minute("until")) : (0, Day);
        if (from is null or >= Day || until is null || from == until) return Wrong();
        var rate = m.Groups["rate"].Value == "none" ? 0 : double.Parse(m.Groups["rate"].Value, CultureInfo.InvariantCulture);
        return rate is 0 && m.Groups["rate"].Value != "none" ? Wrong() : new RateRule(from.Value, until.Value, rate);

        int? Minute(string group) =>
            int.Parse(m.Groups[group].Value[..2], CultureInfo.InvariantCulture) is var hours and <= 24
                && int.Parse(m.Groups[group].Value[3..], CultureInfo.InvariantCulture) is var minutes and < 60
                && (hours * 60) + minutes is var at and <= Day
                ? at
                : null;

        Problem Wrong() =>
            new RateFormProblem(text);
    }

    /// <summary>Reads several, and says all that is wrong.</summary>
    public static Result<IReadOnlyList<RateRule>> ParseAll(IReadOnlyList<string> texts)
    {
        var all = texts.Select(Parse).ToList();
        return all.TrueForAll(r => r.IsOk)
            ? Result<IReadOnlyList<RateRule>>.Of([.. all.Select(r => r.Value)])
            : Result<IReadOnlyList<RateRule>>.Failed([.. all.SelectMany(r => r.Problems)]);
    }

    /// <summary>Whether it holds at a minute of the day.</summary>
    public bool HoldsAt(int minute) => From < Until ? minute >= From && minute < Until : minute >= From || minute < Until;

    /// <summary>
    /// Bytes a second that rules allow at a minute of the day, the least of those that hold; null: no rule holds, any rate is allowed.
    /// </summary>
    public static long? At(IEnumerable<RateRule> rules, int minute)
    {
        long? least = null;
        foreach (var rule in rules.Where(r => r.HoldsAt(minute)))
            least = Math.Min(least ?? long.MaxValue, (long)(rule.MegabitsPerSecond * 1_000_000 / 8));
        return least;
    }

    /// <summary>What one of several hands gets of a rate, so that all of them together keep it; nothing stays nothing.</summary>
    public static long? Share(long? rate, int hands) => rate is null or 0 ? rate : Math.Max(1, rate.Value / Math.Max(1, hands));

    /// <inheritdoc/>
    public override string ToString() =>
        $"{(From == 0 && Until == Day ? "" : $"{From / 60:00}:{From % 60:00}-{Until / 60:00}:{Until % 60:00} ")}"
            + $"{(MegabitsPerSecond == 0 ? "none" : MegabitsPerSecond.ToString(CultureInfo.InvariantCulture))}";

    [GeneratedRegex(@"^(?:(?<from>\d\d:\d\d)-(?<until>\d\d:\d\d)\s+)?(?<rate>none|\d{1,6}(?:\.\d{1,3})?)$")]
    private static partial Regex Form();
}
