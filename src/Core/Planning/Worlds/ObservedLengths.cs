using YardRelay.Core.Swaps;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>When the parts of one swap that is over began and ended.</summary>
/// <param name="Model">Of the new computer.</param>
/// <param name="First">Hands were first on it at the desk.</param>
/// <param name="Swapped">The new computer stood there.</param>
/// <param name="Restored">All files were on it; null: nothing was to be restored.</param>
/// <param name="Back">Hands were first on it after that.</param>
/// <param name="Over">The person had accepted.</param>
public sealed record SwapTimes(
    SwapKind Kind, string? Model, DateTimeOffset First, DateTimeOffset Swapped, DateTimeOffset? Restored, DateTimeOffset? Back,
    DateTimeOffset Over);

/// <summary>How long the parts of some swaps really took: the middle one of each.</summary>
/// <param name="Swaps">How many it rests on.</param>
/// <param name="UnattendedMinutes">Null: nothing was restored.</param>
/// <param name="AfterMinutes">Null: nobody came back.</param>
public sealed record ObservedLength(
    EstimateScope Scope, string Of, int Swaps, int BeforeMinutes, int? UnattendedMinutes, int? AfterMinutes);

/// <summary>Real lengths, by kind of swap and by model of new computer.</summary>
public static class ObservedLengths
{
    /// <summary>Fewer swaps than this tell of themselves and not of their kind.</summary>
    public const int Least = 3;

    // A part that lasted longer was left lying, and says nothing about how long it takes.
    private static readonly TimeSpan Longest = TimeSpan.FromHours(6);

    /// <summary>The middle lengths of each kind and model with enough swaps, by scope and name.</summary>
    public static IReadOnlyList<ObservedLength> Of(IReadOnlyList<SwapTimes> swaps) =>
    [
        .. swaps.GroupBy(s => s.Kind.ToString().ToLowerInvariant()).Select(g => Middle(EstimateScope.Kind, g.Key, [.. g]))
            .Concat(swaps.Where(s => s.Model is not null).GroupBy(s => s.Model!).Select(g => Middle(EstimateScope.Model, g.Key, [.. g])))
            .OfType<ObservedLength>().OrderBy(o => o.Scope).ThenBy(o => o.Of, StringComparer.Ordinal),
    ];

    private static ObservedLength? Middle(EstimateScope scope, string of, IReadOnlyList<SwapTimes> swaps)
    {
        var before = Lengths(swaps.Select(s => s.Swapped - s.First));
        return before.Count < Least
            ? null
            : new(
                scope,
                of,
                before.Count,
                Math.Max(1, Median(before)!.Value),
                Median(Lengths(swaps.Select(s => s.Restored - s.Swapped))),
                Median(Lengths(swaps.Select(s => s.Over - s.Back))));
    }

    private static List<TimeSpan> Lengths(IEnumerable<TimeSpan?> spans) =>
        [.. spans.OfType<TimeSpan>().Where(s => s >= TimeSpan.Zero && s <= Longest)];

    private static List<TimeSpan> Lengths(IEnumerable<TimeSpan> spans) => Lengths(spans.Select(s => (TimeSpan?)s));

    // Whole minutes, rounded up: a plan that is a minute too long hurts less than one too short.
    private static int? Median(List<TimeSpan> spans) =>
        spans.Count == 0 ? null : (int)Math.Ceiling(spans.Order().ElementAt(spans.Count / 2).TotalMinutes);
}
