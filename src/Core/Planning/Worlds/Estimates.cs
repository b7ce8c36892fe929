using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>What a swap carries.</summary>
/// <param name="LibraryBytes">Of these, in photo, music and mail libraries, which programs take long to open the first time.</param>
public sealed record Cargo(long Bytes, long Files, long LibraryBytes)
{
    /// <summary>What is assumed before the survey: 20 GB in 40,000 files, a quarter of it in libraries.</summary>
    public static readonly Cargo Typical = new(20_000_000_000, 40_000, 5_000_000_000);
}

/// <summary>How fast a depot was seen to be: an exponentially weighted mean.</summary>
/// <param name="BytesPerSecond">Mean over what was carried to it and back.</param>
/// <param name="Observed">Trips and restores that it rests on; 0: the stated default.</param>
public sealed record DepotRate(double BytesPerSecond, int Observed)
{
    /// <summary>60 MB/s: a busy gigabit link.</summary>
    public static readonly DepotRate Default = new(60e6, 0);

    /// <summary>What one new observation weighs against all before it.</summary>
    public const double Weight = 0.2;

    /// <summary>Less than this says more about starting than about the link.</summary>
    public const long LeastBytes = 50_000_000;

    /// <summary>The rate with one more observation in it; what is too small or too short to tell leaves it as it is.</summary>
    public DepotRate With(long bytes, double seconds) => bytes < LeastBytes || seconds <= 0 ? this
        : Observed == 0 ? new(bytes / seconds, 1)
        : new((Weight * bytes / seconds) + ((1 - Weight) * BytesPerSecond), Observed + 1);
}

/// <summary>What an override is about. The narrowest one that says something counts: swap before model before kind.</summary>
public enum EstimateScope
{
    /// <summary>One swap, by its id.</summary>
    Swap,

    /// <summary>All swaps to a model of new computer.</summary>
    Model,

    /// <summary>All swaps of a kind.</summary>
    Kind,
}

/// <summary>A bench preparation: an appointment of its own before the visit at the desk.</summary>
/// <param name="Site">Where the bench stands; null: at the swap's site.</param>
/// <param name="HandsOnMinutes">Setting it up.</param>
/// <param name="UnattendedMinutes">Updates that run by themselves.</param>
/// <param name="GapMinutes">From its end to the start of the visit at the least: bringing it there.</param>
public sealed record Preparation(string? Site, int HandsOnMinutes, int UnattendedMinutes, int GapMinutes);

/// <summary>What somebody knows better than the estimate. What is null is estimated.</summary>
public sealed record EstimateRule(
    EstimateScope Scope, string Of, int? BeforeMinutes, int? UnattendedMinutes, int? AfterMinutes, Preparation? Preparation);

/// <summary>One thing that an estimate rests on.</summary>
public sealed record EstimateInput(string What, string Amount, int Minutes);

/// <summary>How long the parts of a swap take, and from what that follows.</summary>
/// <param name="FirstTripMinutes">Staging ahead.</param>
/// <param name="LeadDays">Days before the appointment by which staging must begin.</param>
/// <param name="Basis">"inventory", or "typical size" before the survey.</param>
public sealed record SwapEstimate(
    int BeforeMinutes, int UnattendedMinutes, int AfterMinutes, int FirstTripMinutes, int LeadDays, Cargo Cargo, string Basis,
    Preparation? Preparation, IReadOnlyList<EstimateInput> Inputs);

/// <summary>Estimates the parts of a swap. The rates are stated defaults; a depot's own is observed.</summary>
public static class Estimates
{
    private const double SecondsPerFile = 1 / 400.0;
    private const double SurveyedFilesPerSecond = 3000;
    private const double ChangedSinceFirstTrip = 0.03;
    private const double LibraryBytesPerSecond = 25e6;
    private const double HandMinutesPerDay = 6 * 60;

    /// <summary>The estimate for a swap.</summary>
    /// <param name="cargo">From the inventory; null: a typical one.</param>
    /// <param name="rate">Of the depot that it uses.</param>
    /// <param name="rules">Overrides, in any order.</param>
    /// <param name="grid">Parts are rounded up to it, in minutes.</param>
    public static SwapEstimate For(
        string swap, SwapKind kind, string? model, Cargo? cargo, DepotRate rate, IReadOnlyList<EstimateRule> rules, int grid)
    {
        var (load, inputs) = (cargo ?? Cargo.Typical, new List<EstimateInput>());
        int Note(string what, string amount, double minutes)
        {
            inputs.Add(new(what, amount, (int)Math.Ceiling(minutes)));
            return (int)Math.Ceiling(minutes);
        }
        int Grid(int minutes) => (minutes + grid - 1) / grid * grid;
        var speed = FormattableString.Invariant(
            $"{rate.BytesPerSecond / 1e6:0} MB/s {(rate.Observed == 0 ? "assumed" : $"seen in {rate.Observed}")}");

        var before = Note("first hands-on part", kind.ToString().ToLowerInvariant(), kind switch
        {
            SwapKind.Renew or SwapKind.Second or SwapKind.Reimage or SwapKind.Leave => 30,
            SwapKind.Rescue or SwapKind.Issue => 15,
            _ => throw new System.Diagnostics.UnreachableException(),
        });
        var firstTrip = 0;
        var unattended = 0;
        if (kind.Stages())
        {
            firstTrip = (int)Math.Ceiling(((load.Bytes / rate.BytesPerSecond) + (load.Files * SecondsPerFile)) / 60);
            var changed = load.Bytes * ChangedSinceFirstTrip;
            unattended += Note(
                "closing trip",
                $"{ByteText.Of((long)changed)} changed, {load.Files:#,0} files looked at, {speed}",
                ((changed / rate.BytesPerSecond) + (load.Files / SurveyedFilesPerSecond)) / 60);
        }
        if (kind.Restores())
        {
            unattended += Note(
                "restore",
                $"{ByteText.Of(load.Bytes)} in {load.Files:#,0} files, {speed}",
                ((load.Bytes / rate.BytesPerSecond) + (load.Files * SecondsPerFile)) / 60);
            unattended += Note("libraries opened first", ByteText.Of(load.LibraryBytes), load.LibraryBytes / LibraryBytesPerSecond / 60);
        }
        if (kind == SwapKind.Reimage) unattended += Note("set up afresh", "the same computer", 45);
        var after = Note("last hands-on part", kind.ToString().ToLowerInvariant(), kind == SwapKind.Leave ? 0 : 15);

        int Told(Func<EstimateRule, int?> part, int estimated, string what)
        {
            foreach (var rule in ByNarrowness(rules, swap, kind, model))
                if (part(rule) is { } minutes)
                {
                    inputs.Add(new($"{what}: set by hand", $"{rule.Scope.ToString().ToLowerInvariant()} {rule.Of}", minutes));
                    return Grid(minutes);
                }
            return Grid(estimated);
        }
        before = Math.Max(grid, Told(r => r.BeforeMinutes, before, "first hands-on part"));
        unattended = Told(r => r.UnattendedMinutes, unattended, "unattended part");
        after = Told(r => r.AfterMinutes, after, "last hands-on part");
        // One day more than the trip itself: for snags, and for the verification.
        var lead = kind.Stages() ? (int)Math.Ceiling(firstTrip / HandMinutesPerDay) + 1 : 0;
        return new(
            before, unattended, after, firstTrip, lead, load, cargo is null ? "typical size" : "inventory",
            ByNarrowness(rules, swap, kind, model).Select(r => r.Preparation).FirstOrDefault(p => p is not null), inputs);
    }

    private static IEnumerable<EstimateRule> ByNarrowness(IReadOnlyList<EstimateRule> rules, string swap, SwapKind kind, string? model) =>
        rules.Where(r => r.Of.Equals(
            r.Scope switch
            {
                EstimateScope.Swap => swap,
                EstimateScope.Model => model,
                EstimateScope.Kind => kind.ToString(),
                _ => throw new System.Diagnostics.UnreachableException()
            },
            StringComparison.OrdinalIgnoreCase))
            .OrderBy(r => r.Scope);
}
