using System.Globalization;
using System.Text.RegularExpressions;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>A change of the world that is asked about without being made.</summary>
public abstract partial record WorldChange
{
    private WorldChange()
    {
    }

    /// <summary>All forms, for people.</summary>
    public const string Forms =
        "'away TECHNICIAN WHEN', 'like TECHNICIAN' (one more of that kind), 'benches SITE NUMBER' (so many in all), 'depot DEPOT FACTOR' "
            + "(room and link so many times), or 'late DELIVERY DAYS'";

    /// <summary>A technician is away.</summary>
    public sealed record Away(string Technician, LocalSpan At) : WorldChange;

    /// <summary>One more technician with the skills, sites and shifts of another.</summary>
    public sealed record OneMore(string Like) : WorldChange;

    /// <summary>A site has so many benches in all.</summary>
    public sealed record Benches(string Site, int Number) : WorldChange;

    /// <summary>A depot's room and link are so many times what they are.</summary>
    public sealed record DepotTimes(string Depot, double Factor) : WorldChange;

    /// <summary>A delivery comes so many days later.</summary>
    public sealed record Late(string Delivery, int Days) : WorldChange;

    [GeneratedRegex("\"([^\"]*)\"|(\\S+)")]
    private static partial Regex Words();

    /// <summary>Reads one of <see cref="Forms"/>. A key with spaces stands in double quotes.</summary>
    public static Result<WorldChange> Parse(string text)
    {
        Problem Wrong(string why) => new NoChangeToAskAbout(text, why, Forms);
        var words = Words().Matches(text).Select(m => m.Groups[1].Success ? m.Groups[1].Value : m.Groups[2].Value).ToList();
        if (words.Count < 2) return Wrong("it says too little.");
        var rest = string.Join(' ', words.Skip(2));
        switch (words[0].ToLowerInvariant())
        {
            case "away":
                var at = LocalSpan.Parse(rest);
                return at.IsOk ? new Away(words[1], at.Value) : Wrong(at.Problem.Message);
            case "like" when words.Count == 2: return new OneMore(words[1]);
            case "benches":
                return int.TryParse(rest, NumberStyles.None, CultureInfo.InvariantCulture, out var benches) && benches <= 1000
                    ? new Benches(words[1], benches)
                    : Wrong("the number of benches is 0 to 1000.");
            case "depot":
                return double.TryParse(rest, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var factor) && factor <= 1000
                    ? new DepotTimes(words[1], factor)
                    : Wrong("the factor is a number such as 2 or 0.5.");
            case "late":
                return int.TryParse(rest, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var days)
                    && Math.Abs(days) <= 366
                    ? new Late(words[1], days)
                    : Wrong("the days are a whole number.");
            default: return Wrong($"'{words[0]}' is not known.");
        }
    }

    /// <summary>The world with the change made, or which thing in it is not known.</summary>
    public Result<World> In(World world)
    {
        Result<World> Changed<T>(
            string what, string key, IReadOnlyList<T> all, Func<T, string> keyOf, Func<T, IEnumerable<T>> to,
            Func<IReadOnlyList<T>, World> with) =>
            all.Any(one => keyOf(one) == key) ? with([.. all.SelectMany(one => keyOf(one) == key ? to(one) : [one])])
            : new ThingUnknown(what, key, all.Count == 0 ? "none" : string.Join(", ", all.Select(keyOf).Order()));
        return this switch
        {
            Away away =>
                Changed(
                    "technician",
                    away.Technician,
                    world.Technicians,
                    t => t.Key,
                    t => [t with { Absences = [.. t.Absences, away.At] }],
                    all => world with { Technicians = all }),
            OneMore one =>
                Changed(
                    "technician",
                    one.Like,
                    world.Technicians,
                    t => t.Key,
                    t => [t, t with { Key = t.Key + "-2", Name = $"One more like {t.Name}" }],
                    all => world with { Technicians = all }),
            Benches benches =>
                Changed(
                    "site",
                    benches.Site,
                    world.Sites,
                    s => s.Key,
                    s => [s with { Benches = benches.Number, Rooms = [] }],
                    all => world with { Sites = all }),
            DepotTimes times =>
                Changed(
                    "depot",
                    times.Depot,
                    world.Depots,
                    d => d.Key,
                    d => [d with
                    {
                        CapacityBytes = (long?)(d.CapacityBytes * times.Factor), DailyBytes = (long?)(d.DailyBytes * times.Factor)
                    }],
                    all => world with { Depots = all }),
            Late late =>
                Changed(
                    "delivery",
                    late.Delivery,
                    world.Deliveries,
                    d => d.Key,
                    d => [d with { Arrives = d.Arrives.AddDays(late.Days) }],
                    all => world with { Deliveries = all }),
            _ => throw new System.Diagnostics.UnreachableException(),
        };
    }
}
